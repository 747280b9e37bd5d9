/// <reference lib="webworker" />
import { openWeighCase, weigh } from '@hurrel/core';
import type { WeighAnswer, WeighRequest } from './messages';

addEventListener('message', ({ data }: MessageEvent<WeighRequest>) => {
  const opened = openWeighCase(data.instrument, data.patch, data.note);
  for (const id of data.controls) postMessage(weigh(opened, id) satisfies WeighAnswer);
});
