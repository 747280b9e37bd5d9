/// <reference lib="webworker" />
import { renderSession } from '@hurrel/core';
import type { MixAnswer, MixRequest } from './messages';

/** Seconds that the end rings on. */
const TAIL = 3;

addEventListener('message', ({ data }: MessageEvent<MixRequest>) => {
  const { session, subjects, takes, sampleRate } = data;
  let told = 0;
  const sides = renderSession(session, subjects, {
    sampleRate,
    takes: new Map(takes),
    tail: TAIL,
    cancelled: (done) => {
      if (done - told > 0.01) {
        told = done;
        postMessage({ done } satisfies MixAnswer);
      }
      return false;
    },
  })!;
  const answer: MixAnswer = { done: 1, sides };
  postMessage(answer, [sides[0].buffer, sides[1].buffer]);
});
