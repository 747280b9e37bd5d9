import { compile, type Instrument, takePicture } from '@hurrel/core';
import { withFed } from './fed';
import type { PreviewWorker } from './messages';

let last: Instrument;

export const previewJob: PreviewWorker = {
  async preview({ instrument = last, patch, note }, early) {
    last = instrument;
    // The first picture comes as soon as there is one; a control that is being turned is followed by it.
    return takePicture(compile(instrument, await withFed(patch)), {
      note,
      early,
      tempo: patch.tempo,
    });
  },
};
