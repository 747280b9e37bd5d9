import {
  channelsOf,
  checkup,
  compile,
  type Instrument,
  openFindings,
  type Patch,
  prune,
  render,
  tellingNote,
} from '@hurrel/core';
import { withFed } from '../sound/fed';
import type { Sound, StageWorker } from './messages';

const RATE = 48000;
/** Beats that a key is held, at most so many seconds, and what is heard of it afterwards. */
const [BEATS, LONGEST, TAIL] = [2, 1.5, 0.7];

/** How a key sounds on a panel. */
function soundOf(face: Instrument, patch: Patch, note: number): Sound {
  const duration = Math.min(LONGEST, (BEATS * 60) / patch.tempo);
  const notes = [{ start: 0, duration, note, velocity: 100 }];
  const options = { sampleRate: RATE, seconds: duration + TAIL, notes, tempo: patch.tempo };
  const rendered = render(prune(compile(face, patch), notes), { ...options, stereo: true });
  return { channels: channelsOf(rendered), sampleRate: RATE };
}

export const stageJob: StageWorker = {
  doctor: async ({ face, patch }) =>
    openFindings(checkup(face, await withFed(patch)))
      .filter((f) => f.severity !== 'idle')
      .map((f) => f.title),
  tell: async ({ face, patch, steps, stood }) => {
    const fed = await withFed(patch);
    const telling = tellingNote(face, fed, steps, { stood });
    return { ...telling, sound: soundOf(face, fed, telling.note) };
  },
  sound: async ({ face, patch, note }) => soundOf(face, await withFed(patch), note),
};
