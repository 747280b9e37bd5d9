import type { TimedNote } from '../pattern/timed';
import { Act } from './key-feed';

export interface Stroke {
  sample: number;
  act: Act;
  note: number;
  value: number;
}

/** Keys going down and up, by sample; at the same sample up goes first, so that a repeated key strikes anew. */
export const strokes = (notes: readonly TimedNote[], sampleRate: number): Stroke[] =>
  notes
    .flatMap((n): Stroke[] => {
      const start = Math.round(n.start * sampleRate);
      const end = Math.max(start + 1, Math.round((n.start + n.duration) * sampleRate));
      return [
        { sample: start, act: Act.press, note: n.note, value: n.velocity },
        { sample: end, act: Act.release, note: n.note, value: 0 },
      ];
    })
    .sort((a, b) => a.sample - b.sample || a.act - b.act);
