import { compile, phraseToNotes, voltsAt } from '@hurrel/core';
import { withFed } from './fed';
import type { VoltsWorker } from './messages';

const RATE = 48000;
/** Played where a patch has no phrase. */
const MIDDLE = { start: 0, duration: 1, note: 60, velocity: 100 };

export const voltsJob: VoltsWorker = {
  async volts({ instrument, patch }) {
    const phrase = phraseToNotes(patch.phrase, patch.tempo);
    const notes = phrase.length > 0 ? phrase : [MIDDLE];
    return voltsAt(compile(instrument, await withFed(patch)), notes, {
      sampleRate: RATE,
      tempo: patch.tempo,
    });
  },
};
