import { chanceAt } from './chance';

/** Orders in which held keys are run through. */
export const arpeggioModes = ['up', 'down', 'up-and-down', 'as-played', 'random', 'chord'] as const;
export type ArpeggioMode = (typeof arpeggioModes)[number];

/** Keys that are held and run through. */
export interface Arpeggio {
  mode: ArpeggioMode;
  /** Octaves that are run through. */
  octaves: number;
  /** Chords, one after the other: keys in the order of pressing, and steps that they are held. */
  chords: { notes: number[]; steps: number }[];
  /** Steps that a note sounds. */
  length: number;
}

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
 * Reads an arpeggio once, so that nothing is made while it plays.
 * @param seed and track decide what random draws
 * @returns what is struck at the k-th step, from 0; with every chord the run begins at its first note
 */
export function arpeggioReader(
  arpeggio: Arpeggio,
  seed = 1,
  track = 0,
): (k: number) => readonly number[] {
  const all = arpeggioSteps(arpeggio);
  const chords = arpeggio.chords.map(({ notes, steps }) => {
    const run = runOf(notes, arpeggio.mode, arpeggio.octaves);
    return { steps, run, singles: run.map((n) => [n]) };
  });
  return (k) => {
    // A chord that is held for ever has no end to begin again at.
    let within = all === Infinity ? k : k % all;
    let c = 0;
    while (within >= chords[c]!.steps) within -= chords[c++]!.steps;
    const { run, singles } = chords[c]!;
    if (arpeggio.mode === 'chord') return run;
    const at =
      arpeggio.mode === 'random'
        ? Math.floor(chanceAt(seed ^ 0xa49, track, k) * run.length)
        : within % run.length;
    return singles[at]!;
  };
}

/** What is struck at the k-th step, from 0; see `arpeggioReader`. */
export const arpeggioAt = (arpeggio: Arpeggio, k: number, seed = 1, track = 0): readonly number[] =>
  arpeggioReader(arpeggio, seed, track)(k);
