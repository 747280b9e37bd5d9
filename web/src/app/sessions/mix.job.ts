import { transfer } from 'comlink';
import { renderSession } from '@hurrel/core';
import { subjectWithFed } from '../sound/fed';
import { told } from '../workers/told';
import type { MixWorker } from './messages';

/** Seconds that the end rings on. */
const TAIL = 3;

export const mixJob: MixWorker = {
  async mix({ session, subjects, takes, sampleRate }, progress) {
    const fed = await Promise.all(subjects.map((s) => subjectWithFed(s)));
    const sides = renderSession(session, fed, {
      sampleRate,
      takes: new Map(takes),
      tail: TAIL,
      cancelled: told(progress),
    })!;
    return transfer(sides, [sides[0].buffer, sides[1].buffer]);
  },
};
