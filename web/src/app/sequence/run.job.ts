import { encodeWav, partSource, renderParts } from '@hurrel/core';
import { subjectWithFed } from '../sound/fed';
import { told } from '../workers/told';
import type { RunWorker } from './messages';

const SAMPLE_RATE = 48000;
/** Seconds that it rings on. */
const TAIL = 2;

export const runJob: RunWorker = {
  async render({ parts, tempo, beats }, progress) {
    const fed = await Promise.all(parts.map((p) => subjectWithFed(p)));
    const sides = renderParts(fed.map(partSource), {
      sampleRate: SAMPLE_RATE,
      tempo,
      beats,
      tail: TAIL,
      cancelled: told(progress),
    })!;
    return encodeWav(sides, SAMPLE_RATE, '24');
  },
};
