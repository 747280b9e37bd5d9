import { compile, type Instrument, takePicture } from '@hurrel/core';
import { withFed } from './fed';
import type { PreviewWorker } from './messages';

let last: Instrument;

export const previewJob: PreviewWorker = {
  async preview({ instrument = last, patch, note }, early) {
    last = instrument;
    // What it is fed with may be missing: the checkup says so, and the rest is seen all the same.
    const fed = await withFed(patch).catch(() => patch);
    // The first picture comes as soon as there is one; a control that is being turned is followed by it.
    return takePicture(compile(instrument, fed), {
      note,
      early,
      tempo: patch.tempo,
    });
  },
};
