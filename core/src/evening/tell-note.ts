import { compile } from '../circuit/compile';
import { prune } from '../circuit/prune';
import type { Instrument } from '../instrument/schema';
import { distanceOf, type Portrait, portrait } from '../measure/distance';
import { withRow } from '../patch/matrix';
import type { Patch } from '../patch/schema';
import { render } from '../sound/render';
import type { Work } from './ways';

/** A movement that might have been forgotten, and how far the sound is off without it. */
export interface Forgotten {
  step: Work;
  /** Distance of the sounds, as `distanceOf` tells it, in dB. */
  distance: number;
}

/** The note that tells most after a break. */
export interface TellingNote {
  /** MIDI number. */
  note: number;
  /** What would be heard if each of the movements were forgotten, the most audible first. */
  heard: Forgotten[];
  /** Movements that this note does not tell of. */
  unheard: Work[];
  /** Two that are each heard when forgotten alone, and not when both are: of those that are heard the most. */
  hiding: [Work, Work][];
}

/** What stood on the panel before its sound is loaded, as far as a memory keeps it. */
export type Stood = Pick<Patch, 'settings' | 'matrix'> & Partial<Pick<Patch, 'patterns'>>;

interface Options {
  /** How many sounds are compared, of how many; may throw to stop. */
  told?: (done: number, of: number) => void;
  /** What a sound that is loaded takes the place of; absent: nobody knows, and nothing is said of a loading that is forgotten. */
  stood?: Stood | undefined;
}

const RATE = 24000;
const HELD = 0.5;
const SECONDS = 0.8;
/** From this distance on, in dB, somebody who listens hears a difference. */
export const HEARD = 0.8;
/** Most notes that are tried, and most movements: the rest are like them. */
const MOST_NOTES = 4;
const MOST_STEPS = 24;
/** Most movements of which every two are forgotten together: fifteen pairs. */
const MOST_PAIRED = 6;

/** Keys worth trying: those of the phrase, and its lowest two octaves up, where filters tell more. */
export function notesToTry(patch: Pick<Patch, 'phrase'>): number[] {
  const played = [...new Set(patch.phrase.map((p) => p.note))].sort((a, b) => a - b);
  if (played.length === 0) return [48, 60, 72];
  const middle = played[Math.floor(played.length / 2)]!;
  const all = [played[0]!, middle, played.at(-1)!, Math.min(108, played[0]! + 24)];
  return [...new Set(all)].slice(0, MOST_NOTES);
}

/**
 * Which single note tells best that all is well: that of which the most forgotten movements are heard, then that of which
 * the least audible of these is the most audible. Each movement is undone alone and the patch rendered without it, and in that
 * note every two of those that are heard the most.
 */
export function tellingNote(
  face: Instrument,
  patch: Patch,
  steps: readonly Work[],
  { told, stood }: Options = {},
): TellingNote {
  const tried = steps.filter((s) => without(patch, s, stood) !== null).slice(0, MOST_STEPS);
  const notes = notesToTry(patch);
  const found = notes.map((note, i): Omit<TellingNote, 'hiding'> => {
    const all = forgottenAt(face, patch, tried, note, {
      told: (done) => told?.(i * tried.length + done, notes.length * tried.length),
      stood,
    });
    return {
      note,
      heard: all.filter((f) => f.distance >= HEARD).sort((a, b) => b.distance - a.distance),
      unheard: steps.filter((s) => !all.some((f) => f.step === s && f.distance >= HEARD)),
    };
  });
  const best = found.reduce((best, one) => {
    if (one.heard.length !== best.heard.length)
      return one.heard.length > best.heard.length ? one : best;
    return (one.heard.at(-1)?.distance ?? 0) > (best.heard.at(-1)?.distance ?? 0) ? one : best;
  });
  return { ...best, hiding: hidingAt(face, patch, best, stood) };
}

/** Every two movements that hide each other in a note. */
function hidingAt(
  face: Instrument,
  patch: Patch,
  { note, heard }: Omit<TellingNote, 'hiding'>,
  stood?: Stood,
): [Work, Work][] {
  const steps = heard.slice(0, MOST_PAIRED).map((f) => f.step);
  if (steps.length < 2) return [];
  const right = portraitOf(face, patch, note);
  return steps.flatMap((one, i) =>
    steps.slice(i + 1).flatMap((other): [Work, Work][] => {
      const wrong = portraitOf(face, withoutSteps(patch, [one, other], stood), note);
      return distanceOf(right, wrong).total < HEARD ? [[one, other]] : [];
    }),
  );
}

/** How far the sound of one key is off without each of some movements. */
export function forgottenAt(
  face: Instrument,
  patch: Patch,
  steps: readonly Work[],
  note: number,
  { told, stood }: Options = {},
): Forgotten[] {
  const right = portraitOf(face, patch, note);
  let done = 0;
  return steps.flatMap((step) => {
    const wrong = without(patch, step, stood);
    if (!wrong) return [];
    const { total } = distanceOf(right, portraitOf(face, wrong, note));
    told?.(++done, steps.length);
    return [{ step, distance: total }];
  });
}

/** The patch as it stands when some movements were forgotten, as far as that can be said. */
export const withoutSteps = (patch: Patch, steps: readonly Work[], stood?: Stood): Patch =>
  steps.reduce((stands, step) => without(stands, step, stood) ?? stands, patch);

/** The patch as it stands when one movement was forgotten; null where that cannot be said. */
function without(patch: Patch, step: Work, stood: Stood | undefined): Patch | null {
  if (step.kind === 'movement') {
    if (step.fromValue === undefined) return null;
    const before = { kind: 'set', value: step.fromValue } as const;
    return { ...patch, settings: { ...patch.settings, [step.control]: before } };
  }
  if (step.kind === 'row')
    return { ...patch, matrix: withRow(patch.matrix, step.before ?? step.row) };
  if (step.kind === 'load') {
    if (!stood) return null;
    const { settings, matrix, patterns = patch.patterns } = stood;
    return { ...patch, settings: { ...patch.settings, ...settings }, matrix, patterns };
  }
  if (step.kind !== 'add' && step.kind !== 'move' && step.kind !== 'pull') return null;
  const others = patch.cables.filter(
    (c) => !step.after || c.from !== step.after.from || c.to !== step.after.to,
  );
  return { ...patch, cables: step.before ? [...others, step.before] : others };
}

function portraitOf(face: Instrument, patch: Patch, note: number): Portrait {
  const notes = [{ start: 0, duration: HELD, note, velocity: 100 }];
  const graph = prune(compile(face, patch), notes);
  return portrait(
    render(graph, { sampleRate: RATE, seconds: SECONDS, notes, tempo: patch.tempo }).samples,
    RATE,
  );
}
