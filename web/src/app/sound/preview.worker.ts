/// <reference lib="webworker" />
import { compile, diagnose, type Instrument, type Picture, takePicture } from '@hurrel/core';
import type { LookAnswer, LookMessage } from './messages';

let last: Instrument;

addEventListener('message', ({ data }: MessageEvent<LookMessage>) => {
  const { id, instrument = last, patch, note } = data;
  last = instrument;
  const findings = diagnose(instrument, patch);
  // The first picture comes as soon as there is one; a control that is being turned is followed by it.
  const early = (picture: Picture): void =>
    postMessage({ id, picture, findings, done: false } satisfies LookAnswer);
  const picture = takePicture(compile(instrument, patch), { note, early, tempo: patch.tempo });
  postMessage({ id, picture, findings, done: true } satisfies LookAnswer);
});
