import type { Instrument, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import type { Patch } from '../patch/schema';
import { soundingValue } from '../reading/format';
import { taperValue } from '../reading/taper';
import type { Pattern, PatternStep, Track } from '../pattern/pattern';
import { strikes } from '../pattern/steps';
import { isModuleKind, moduleSpec } from '../catalogue';
import { compile, modulesOf, type PanelState } from './compile';
import type { Graph } from './graph';
import type { ParamChange } from './param-changes';

/** For each pattern, track and step what is turned when the step begins; null where nothing on the track has a value of its own. */
export type OwnChanges = readonly (readonly (readonly ParamChange[][] | null)[])[];

/** Whether a step puts back what its track has turned before: each does, or only one that strikes. */
const putsBack = (track: Track, step: number): boolean =>
  track.ownFor === 'step' || strikes(track, step);

/**
 * What the own values of patterns turn. A step that puts back (`putsBack`) turns whatever its track has of its own elsewhere to
 * where the panel has it.
 */
export const ownChanges = (
  instrument: Instrument,
  patch: Pick<Patch, 'settings' | 'revision'>,
  patterns: readonly Pattern[],
): OwnChanges =>
  patterns.map((pattern) =>
    pattern.tracks.map((track) => {
      const controls = new Set(track.steps.flatMap((s) => Object.keys(s.ownValues ?? {})));
      if (controls.size === 0) return null;
      return Array.from({ length: track.length }, (_, i) =>
        [...controls].flatMap((control) => {
          const own = track.steps[i]?.ownValues?.[control];
          if (own === undefined && !putsBack(track, i)) return [];
          return turnsOf(instrument, patch, control, own);
        }),
      );
    }),
  );

/** What puts all that has a value of its own anywhere back to where the panel has it. */
export const returnChanges = (
  instrument: Instrument,
  patch: Pick<Patch, 'settings' | 'revision'>,
  patterns: readonly Pattern[],
): ParamChange[] => {
  const steps = patterns.flatMap((p) => p.tracks.flatMap((t) => t.steps));
  const controls = new Set(steps.flatMap((s) => Object.keys(s.ownValues ?? {})));
  return [...controls].flatMap((control) => turnsOf(instrument, patch, control, undefined));
};

/**
 * What patterns give values of its own and what exchanges a part of the circuit (a waveform, a routing), not a number: the circuits that are
 * needed, and which of them runs at each step. Tracks stand side by side: a circuit's number is the sum of its pattern's
 * first, and for each track the step's number times the track's weight.
 */
export interface OwnSwitches {
  graphs: Graph[];
  /** What has a value of its own in each, in words that tell it from the others. */
  keys: string[];
  /** By pattern. */
  first: readonly number[];
  /** By pattern and track, which each step goes to, -1 where it leaves things as they are; null for tracks without own values of such a switch. */
  tracks: readonly (readonly ({ weight: number; steps: readonly number[] } | null)[])[];
}

/** Circuits that one pattern may run through; tracks that would need more leave their switches alone. */
const MOST_CIRCUITS = 16;

/** Which circuits the own values of patterns run through; null when no switch of that kind has a value of its own anywhere. */
export function ownSwitches(
  instrument: Instrument,
  patch: PanelState,
  patterns: readonly Pattern[],
): OwnSwitches | null {
  const exchanges = new Set(instrument.controls.filter(exchangesCircuit).map((c) => c.id));
  const own = (step: PatternStep | undefined): [string, Value][] =>
    Object.entries(step?.ownValues ?? {}).filter(([id]) => exchanges.has(id));
  if (!patterns.some((p) => p.tracks.some((t) => t.steps.some((s) => own(s).length > 0))))
    return null;
  const found: OwnSwitches = { graphs: [], keys: [], first: [], tracks: [] };
  const [first, tracks] = [[] as number[], [] as OwnSwitches['tracks'][number][]];
  for (const pattern of patterns) {
    first.push(found.graphs.length);
    let states: [string, Value][][] = [[]];
    tracks.push(
      pattern.tracks.map((track) => {
        const kinds = [JSON.stringify([])];
        // What a rest has of its own comes on top of what the note before it has.
        let lasting: Record<string, Value> = {};
        const steps = Array.from({ length: track.length }, (_, i) => {
          const here = own(track.steps[i]);
          if (putsBack(track, i)) lasting = {};
          else if (here.length === 0) return -1;
          for (const [id, value] of here) lasting[id] = value;
          const key = JSON.stringify(Object.entries(lasting));
          if (!kinds.includes(key)) kinds.push(key);
          return kinds.indexOf(key);
        });
        const weight = states.length;
        if (kinds.length === 1 || weight * kinds.length > MOST_CIRCUITS) return null;
        states = kinds.flatMap((kind) =>
          states.map((state) => [...state, ...(JSON.parse(kind) as [string, Value][])]),
        );
        return { weight, steps };
      }),
    );
    for (const state of states) {
      const settings = { ...patch.settings };
      for (const [id, value] of state) settings[id] = { kind: 'set', value };
      found.graphs.push(compile(instrument, { ...patch, settings }));
      found.keys.push(JSON.stringify(Object.fromEntries(state)));
    }
  }
  return { ...found, first, tracks };
}

/** Whether any of a control's positions sets what is no number. */
const exchangesCircuit = (control: Instrument['controls'][number]): boolean =>
  isSwitched(control) &&
  control.bindings.some((b) => Object.values(b.values).some((v) => typeof v !== 'number'));

/** The parameters that a control sets, at a value or where the panel has it. Only numbers can be turned. */
function turnsOf(
  instrument: Instrument,
  patch: Pick<Patch, 'settings' | 'revision'>,
  id: string,
  value: Value | undefined,
): ParamChange[] {
  const control = instrument.controls.find((c) => c.id === id);
  if (!control) return [];
  const at = value ?? soundingValue(control, patch.settings[id]);
  const modules = modulesOf(instrument, patch.revision);
  return control.bindings.flatMap((bound, i): ParamChange[] => {
    const kind = modules.find((m) => m.id === bound.module)?.kind ?? '';
    const spec = isModuleKind(kind) ? moduleSpec(kind).params[bound.param] : undefined;
    if (spec?.kind !== 'number') return [];
    const wanted = isSwitched(control)
      ? control.bindings[i]!.values[String(at)]
      : taperValue(control.bindings[i]!.taper, Number(at));
    if (typeof wanted !== 'number') return [];
    const held = Math.min(spec.hi, Math.max(spec.lo, wanted));
    return [{ node: bound.module, param: bound.param, value: held }];
  });
}
