/// <reference lib="webworker" />
import { encodeWav, partSource, renderParts } from '@hurrel/core';
import type { RunAnswer, RunRequest } from './messages';

const SAMPLE_RATE = 48000;
/** Seconds that it rings on. */
const TAIL = 2;

addEventListener('message', ({ data }: MessageEvent<RunRequest>) => {
  const { parts, tempo, beats } = data;
  let told = 0;
  const sides = renderParts(parts.map(partSource), {
    sampleRate: SAMPLE_RATE,
    tempo,
    beats,
    tail: TAIL,
    cancelled: (done) => {
      if (done - told > 0.02) {
        told = done;
        postMessage({ done } satisfies RunAnswer);
      }
      return false;
    },
  })!;
  postMessage({ done: 1, wav: encodeWav(sides, SAMPLE_RATE, '24') } satisfies RunAnswer);
});
