/// <reference lib="webworker" />
import { expose } from 'comlink';
import { compile, diagnose, type Instrument, type Picture, takePicture } from '@hurrel/core';
import type { PreviewWorker } from './messages';

let last: Instrument;

expose({
  async preview({ instrument = last, patch, note }, tell) {
    last = instrument;
    const findings = diagnose(instrument, patch);
    // The first picture comes as soon as there is one; a control that is being turned is followed by it.
    const early = (picture: Picture): void => tell({ picture, findings });
    const picture = takePicture(compile(instrument, patch), { note, early, tempo: patch.tempo });
    return { picture, findings };
  },
} satisfies PreviewWorker);
