import { channelsOf, checkup, compile, encodeWav, planRebuild, prune, render } from '@hurrel/core';
import { makeBooklet } from '../sheet/booklet';
import { makeSheet } from '../sheet/sheet';
import type { JobName, Jobs } from './jobs';

const jobs: Jobs = {
  /** A WAV file, in stereo where its sides differ. */
  render(job) {
    const graph = prune(compile(job.instrument, job.patch), job.notes);
    const rendering = render(graph, { ...job, tempo: job.patch.tempo, stereo: true });
    return encodeWav(channelsOf(rendering), job.sampleRate, job.format);
  },
  check: ({ instrument, patch, notes }) => checkup(instrument, patch, notes),
  rebuild: ({ instrument, before, patch }) => planRebuild(instrument, before, patch),
  sheet: (content) => makeSheet(content),
  booklet: (content) => makeBooklet(content),
};

/** Does one job; runs in a thread of its own. */
export default function work({ name, given }: { name: JobName; given: never }): unknown {
  return jobs[name](given);
}
