import {
  channelsOf,
  compile,
  type Instrument,
  loudnessOf,
  notesEnd,
  type Patch,
  phraseToNotes,
  prune,
  render,
} from '@hurrel/core';
import { withFed } from './fed';
import type { MatchWorker } from './messages';

const RATE = 48000;

/** Loudness of a patch while it plays a phrase. */
async function loudnessOfPatch(
  instrument: Instrument,
  patch: Patch,
  phrase: Patch['phrase'],
): Promise<number> {
  const notes = phraseToNotes(phrase, patch.tempo);
  const graph = prune(compile(instrument, await withFed(patch)), notes);
  const seconds = Math.min(12, notesEnd(notes) + 0.5);
  const options = { sampleRate: RATE, seconds, notes, tempo: patch.tempo, stereo: true };
  return loudnessOf(channelsOf(render(graph, options)), RATE);
}

export const matchJob: MatchWorker = {
  async loudness({ first, second }) {
    const { phrase } = first.patch;
    return {
      first: await loudnessOfPatch(first.instrument, first.patch, phrase),
      second:
        'channels' in second
          ? loudnessOf(second.channels, second.sampleRate)
          : await loudnessOfPatch(second.instrument, second.patch, phrase),
    };
  },
};
