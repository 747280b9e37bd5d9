/// <reference lib="webworker" />
import { openSensitivityCase, sensitivityOf } from '@hurrel/core';
import type { WeighAnswer, WeighRequest } from './messages';

addEventListener('message', ({ data }: MessageEvent<WeighRequest>) => {
  const opened = openSensitivityCase(data.instrument, data.patch, data.note);
  for (const id of data.controls) postMessage(sensitivityOf(opened, id) satisfies WeighAnswer);
});
