import {
  channelsOf,
  compile,
  type Instrument,
  loudnessOf,
  SILENT_LUFS,
  notesEnd,
  type Patch,
  phraseToNotes,
  prune,
  render,
} from '@hurrel/core';
import { withFed } from './fed';
import { playedPhrase } from './played-phrase';
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

/** Keys that are compared one by one: an octave apart, where basses and leads are played. */
const KEYS = [36, 48, 60, 72];

export const matchJob: MatchWorker = {
  async loudness({ first, second }) {
    // The same keys as Play strikes.
    const phrase = playedPhrase(first.patch);
    const of = ({ instrument, patch }: typeof first, played: Patch['phrase']) =>
      loudnessOfPatch(instrument, patch, played);
    if ('channels' in second)
      return {
        first: await of(first, phrase),
        second: loudnessOf(second.channels, second.sampleRate),
        keys: [],
      };
    const keys: { note: number; difference: number }[] = [];
    for (const note of KEYS) {
      const played = [{ beat: 0, length: 1, note, velocity: 100 }];
      const [a, b] = [await of(first, played), await of(second, played)];
      // What one of them does not sound at all is no matter of loudness.
      if (a > SILENT_LUFS && b > SILENT_LUFS) keys.push({ note, difference: b - a });
    }
    return { first: await of(first, phrase), second: await of(second, phrase), keys };
  },
};
