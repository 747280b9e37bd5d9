import { encodeWav, partSource, renderParts } from '@hurrel/core';
import { told } from '../workers/told';
import type { RunWorker } from './messages';

const SAMPLE_RATE = 48000;
/** Seconds that it rings on. */
const TAIL = 2;

export const runJob: RunWorker = {
  render({ parts, tempo, beats }, progress) {
    const sides = renderParts(parts.map(partSource), {
      sampleRate: SAMPLE_RATE,
      tempo,
      beats,
      tail: TAIL,
      cancelled: told(progress),
    })!;
    return encodeWav(sides, SAMPLE_RATE, '24');
  },
};
