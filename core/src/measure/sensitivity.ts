import { compile } from '../circuit/compile';
import type { Graph } from '../circuit/graph';
import { prune } from '../circuit/prune';
import { changesBetween } from '../circuit/param-changes';
import type { Control, Instrument } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import type { Patch } from '../patch/schema';
import { soundingValue } from '../reading/format';
import { readingTolerance } from '../reading/resolution';
import { render } from '../sound/render';
import { type Distance, distanceOf, type Portrait, portrait } from './distance';

/** How much a control matters in a patch. */
export interface Sensitivity {
  control: string;
  /** Share of travel by which the eye can misread it, down and up. */
  from: number;
  to: number;
  /** How far the sound moves when the control does, the further of both ways. */
  distance: Distance;
}

/** From these distances on, in dB: hardly heard, heard, deserves the ear. */
export const GRADES = [0.25, 0.8, 2] as const;

/** 0 not heard, 1 hardly, 2 heard, 3 deserves the ear. */
export const gradeOf = (weight: Sensitivity | undefined): number =>
  weight ? GRADES.filter((g) => weight.distance.total >= g).length : 0;

const RATE = 24000;
const HELD = 0.6;
const SECONDS = 0.85;
const NOTHING: Distance = { timbre: 0, level: 0, pitch: 0, total: 0 };

/** A patch as it sounds, to weigh its controls against. */
export interface SensitivityCase {
  instrument: Instrument;
  patch: Patch;
  note: number;
  graph: Graph;
  base: Portrait;
}

/** Renders a patch once. @param note MIDI number of the key that is played */
export function openSensitivityCase(
  instrument: Instrument,
  patch: Patch,
  note: number,
): SensitivityCase {
  const graph = heardGraph(instrument, patch, note);
  return { instrument, patch, note, graph, base: portraitOf(graph, note, patch.tempo) };
}

/**
 * Controls that the eye can misread, recorded or not, in the order of the panel. A switch is not among them: its
 * positions are told apart; nor is what has nothing behind it.
 */
export const sensitiveControls = (instrument: Instrument, patch: Patch): string[] =>
  instrument.controls
    .filter((c) => !isSwitched(c) && c.bindings.length > 0)
    .filter((c) => patch.settings[c.id]?.kind !== 'any')
    .map((c) => c.id);

/**
 * How much the sound changes when a control moves by what the eye can misread: within its range when it has one, else by
 * the tolerance of its reading.
 */
export function sensitivityOf(c: SensitivityCase, id: string): Sensitivity {
  const control = c.instrument.controls.find((k) => k.id === id);
  if (!control || isSwitched(control)) throw new Error(`${id} cannot be misread.`);
  const [from, to] = misread(c.patch, control);
  const distances = [from, to].map((value) => {
    const settings = { ...c.patch.settings, [id]: { kind: 'set', value } as const };
    const graph = heardGraph(c.instrument, { ...c.patch, settings }, c.note);
    const turns = changesBetween(c.graph, graph);
    // What is not heard makes the very same graph.
    if (turns?.length === 0) return NOTHING;
    return distanceOf(c.base, portraitOf(graph, c.note, c.patch.tempo));
  });
  const distance = distances.reduce((a, b) => (b.total > a.total ? b : a));
  return { control: id, from, to, distance };
}

/** Weights, heaviest first. */
export const rank = (weights: readonly Sensitivity[]): Sensitivity[] =>
  [...weights].sort((a, b) => b.distance.total - a.distance.total);

function misread(patch: Patch, control: Control): [number, number] {
  const setting = patch.settings[control.id];
  const value = Number(soundingValue(control, setting));
  if (setting?.kind === 'range') return [setting.from, setting.to];
  const by = isSwitched(control) ? 0 : readingTolerance(control, value);
  return [Math.max(0, value - by), Math.min(1, value + by)];
}

const notesOf = (note: number) => [{ start: 0, duration: HELD, note, velocity: 100 }];

const heardGraph = (instrument: Instrument, patch: Patch, note: number): Graph =>
  prune(compile(instrument, patch), notesOf(note));

const portraitOf = (graph: Graph, note: number, tempo: number): Portrait =>
  portrait(
    render(graph, { sampleRate: RATE, seconds: SECONDS, notes: notesOf(note), tempo }).samples,
    RATE,
  );
