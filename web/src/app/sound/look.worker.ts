/// <reference lib="webworker" />
import { compile, diagnose, takePicture } from '@hurrel/core';
import type { LookAnswer, LookRequest } from './messages';

addEventListener('message', ({ data }: MessageEvent<LookRequest>) => {
  const { id, instrument, patch, note } = data;
  const picture = takePicture(compile(instrument, patch), { note });
  const findings = diagnose(instrument, patch);
  postMessage({ id, picture, findings } satisfies LookAnswer);
});
