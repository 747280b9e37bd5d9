import { compile } from '../circuit/compile';
import { changesBetween } from '../circuit/param-changes';
import { type Finding } from '../circuit/doctor';
import { controlLabel } from '../instrument/control-name';
import { mendTo } from '../circuit/doctor/mend';
import type { Graph } from '../circuit/graph';
import type { Instrument, Value } from '../instrument/schema';
import { initPositions } from '../patch/create';
import { peakOf } from '../measure/level';
import { soundingValue } from '../reading/format';
import type { Patch } from '../patch/schema';
import { render } from '../sound/render';
import { lighter, type Played, SETTLING, SILENCE } from './sounding';

/** Sample rate at which losses are compared; what opens is heard at it too. */
const RATE = 24000;
/** Seconds that are rendered of each way to open, and keys that are played in them. */
const SECONDS = 1.2;
const KEYS = 2;
/** Controls that may be moved together at most. */
const TOGETHER = 3;
/** dB from which a control counts as one that takes. */
const TAKES = 3;
/** Level in dB that is told of a sound that is nothing at all. */
const NOTHING = -200;

interface Moved {
  control: string;
  value: Value;
  /** Peak in dB with it, and with what was moved before. */
  peak: number;
}

/**
 * Why a patch is silent that has no closed door: what many controls take adds up. Each is moved to where it stands in the
 * init patch and measured; the cure is the smallest number of them that brings sound, the one that gives most first.
 */
export function examineLosses(instrument: Instrument, patch: Patch, played: Played): Finding {
  const now = peakOfGraph(compile(instrument, patch), played);
  const cure: Moved[] = [];
  let at = patch;
  let first: Moved[] = [];
  while (cure.length < TOGETHER) {
    const ways = waysOut(instrument, at, played);
    if (cure.length === 0) first = ways;
    const best = ways[0];
    if (!best) break;
    cure.push(best);
    at = withValue(at, best);
    if (best.peak > 20 * Math.log10(SILENCE)) break;
  }
  const cured = (cure.at(-1)?.peak ?? NOTHING) > 20 * Math.log10(SILENCE);
  const mend = cured
    ? mendTo(instrument, Object.fromEntries(cure.map((m) => [m.control, m.value])))
    : undefined;
  const taking = first.filter((m) => m.peak - now >= TAKES).slice(0, 4);
  const told = taking.map(
    (m) => `${controlLabel(instrument, m.control)} takes ${Math.round(m.peak - now)} dB`,
  );
  return {
    id: 'silent-sum',
    severity: 'silent',
    title: 'Silent: what is left cannot be heard',
    why: `${now <= NOTHING ? 'Nothing comes out' : `Measured over the phrase it reaches ${Math.round(now)} dB`}; below -80 dB nothing is heard. ${
      told.length > 0
        ? `Against the init patch ${told.join(', ')}.`
        : 'No single control brings it back to what it is in the init patch.'
    }`,
    controls: (cured ? cure : taking).map((m) => m.control),
    ...(mend ? { mend } : {}),
  };
}

const withValue = (patch: Patch, { control, value }: Pick<Moved, 'control' | 'value'>): Patch => ({
  ...patch,
  settings: { ...patch.settings, [control]: { kind: 'set', value } },
});

/** Controls that make a difference when they stand where they do in the init patch, loudest first. */
function waysOut(instrument: Instrument, patch: Patch, played: Played): Moved[] {
  const base = compile(instrument, patch);
  const init = initPositions(instrument);
  return instrument.controls
    .flatMap(({ id }): Moved[] => {
      const control = instrument.controls.find((c) => c.id === id)!;
      const value = init[id]!;
      if (value === soundingValue(control, patch.settings[id])) return [];
      const moved = withValue(patch, { control: id, value });
      const graph = compile(instrument, moved);
      if (changesBetween(base, graph)?.length === 0) return [];
      return [{ control: id, value, peak: peakOfGraph(graph, played) }];
    })
    .sort((a, b) => b.peak - a.peak);
}

function peakOfGraph(graph: Graph, { notes, tempo }: Played): number {
  const keys = notes.slice(0, KEYS);
  const { samples } = render(lighter(graph, keys), {
    sampleRate: RATE,
    seconds: SETTLING + SECONDS,
    notes: keys.map((n) => ({ ...n, start: n.start - keys[0]!.start + SETTLING })),
    tempo,
  });
  // What stands at the sockets when one begins settles first: it is no sound of the patch.
  const settled = samples.subarray(Math.round(SETTLING * RATE));
  return Math.max(NOTHING, 20 * Math.log10(peakOf(settled)));
}
