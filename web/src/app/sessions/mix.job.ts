import { transfer } from 'comlink';
import { renderSession } from '@hurrel/core';
import { told } from '../workers/told';
import type { MixWorker } from './messages';

/** Seconds that the end rings on. */
const TAIL = 3;

export const mixJob: MixWorker = {
  mix({ session, subjects, takes, sampleRate }, progress) {
    const sides = renderSession(session, subjects, {
      sampleRate,
      takes: new Map(takes),
      tail: TAIL,
      cancelled: told(progress),
    })!;
    return transfer(sides, [sides[0].buffer, sides[1].buffer]);
  },
};
