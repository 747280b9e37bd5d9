/** Share of the work after which the next progress is worth a word. */
const STEP = 0.01;

/** For renderers that ask whether they shall stop: tells how far they are, and never says yes. Ending is the asker's. */
export function told(progress: (done: number) => void): (done: number) => boolean {
  let last = 0;
  return (done) => {
    if (done - last > STEP) {
      last = done;
      progress(done);
    }
    return false;
  };
}
