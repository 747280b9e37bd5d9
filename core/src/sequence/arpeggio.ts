import { z } from 'zod';
import { chanceAt } from './chance';

/** Orders in which held keys are run through. */
export const arpeggioModes = ['up', 'down', 'up-and-down', 'as-played', 'random', 'chord'] as const;
export type ArpeggioMode = (typeof arpeggioModes)[number];

export const arpeggioSchema = z.strictObject({
  mode: z.enum(arpeggioModes).default('up'),
  /** Octaves that are run through. */
  octaves: z.number().int().min(1).max(4).default(1),
  /** Chords, one after the other: keys in the order of pressing, and steps that they are held. */
  chords: z
    .array(
      z.strictObject({
        notes: z.array(z.number().int().min(0).max(127)).min(1).max(8),
        steps: z.number().int().min(1).max(256),
      }),
    )
    .min(1)
    .max(32),
  /** Steps that a note sounds. */
  length: z.number().min(0.05).max(1).default(0.75),
});
export type Arpeggio = z.infer<typeof arpeggioSchema>;

/** The notes of one run, in order: those of up-and-down play neither end twice. */
export function runOf(notes: readonly number[], mode: ArpeggioMode, octaves: number): number[] {
  const sorted = mode === 'as-played' ? [...notes] : [...new Set(notes)].sort((a, b) => a - b);
  const all = Array.from({ length: octaves }, (_, o) => sorted.map((n) => n + 12 * o))
    .flat()
    .filter((n) => n <= 127);
  if (mode === 'down') return all.reverse();
  return mode === 'up-and-down' ? [...all, ...all.slice(1, -1).reverse()] : all;
}

/** Steps until the chords begin again. */
export const arpeggioSteps = (arpeggio: Arpeggio): number =>
  arpeggio.chords.reduce((sum, chord) => sum + chord.steps, 0);

/**
 * What is struck at the k-th step, from 0. With every chord the run begins at its first note.
 * @param seed and track decide what random draws
 */
export function arpeggioAt(arpeggio: Arpeggio, k: number, seed = 1, track = 0): number[] {
  let within = k % arpeggioSteps(arpeggio);
  for (const chord of arpeggio.chords) {
    if (within >= chord.steps) {
      within -= chord.steps;
      continue;
    }
    const run = runOf(chord.notes, arpeggio.mode, arpeggio.octaves);
    if (arpeggio.mode === 'chord') return run;
    const at =
      arpeggio.mode === 'random'
        ? Math.floor(chanceAt(seed ^ 0xa49, track, k) * run.length)
        : within % run.length;
    return [run[at]!];
  }
  return [];
}
