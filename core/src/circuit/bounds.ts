import { RAIL } from '../catalogue/rail';
import { attackFactor } from '../theory/envelope';
import type { TimedNote } from '../pattern/phrase';
import { midiToVolts } from '../theory/pitch';
import {
  DIODE_WHISTLE,
  diodeLoopGain,
  ladderLoopGain,
  threePoleDamping,
} from '../theory/prototypes';
import { moduleSpec } from '../catalogue';
import type { Graph, GraphNode } from './graph';
import { edgesInto } from './graph';

/** Lowest and highest value a signal takes, in V. */
export type Interval = readonly [number, number];

const AUDIO: Interval = [-5, 5];
/** As far as any module's supply goes. */
const SUPPLY: Interval = [-RAIL, RAIL];
const ZERO: Interval = [0, 0];

export const isQuiet = ([lo, hi]: Interval): boolean => lo === 0 && hi === 0;

/** Interval of a sum. */
export const addIntervals = (a: Interval, b: Interval): Interval => [a[0] + b[0], a[1] + b[1]];

const scaled = ([lo, hi]: Interval, gain: number): Interval =>
  // `|| 0` keeps -0 out: a signal times nothing is nothing.
  gain >= 0 ? [lo * gain || 0, hi * gain || 0] : [hi * gain || 0, lo * gain || 0];

const hull = (a: Interval, b: Interval): Interval => [Math.min(a[0], b[0]), Math.max(a[1], b[1])];

/** What every signal of a graph can reach while the notes are played; wheels and pedals over their whole travel. */
export interface Bounds {
  output(node: string, port: string): Interval;
  /** Sum of what is connected to an input; [0, 0] when nothing is. */
  input(node: string, port: string): Interval;
}

/** Interval arithmetic over a graph: sure outer limits, not the values of one moment. */
export function boundsOf(graph: Graph, notes: readonly TimedNote[]): Bounds {
  const outputs = new Map<string, Interval>();
  const output = (node: string, port: string): Interval => outputs.get(`${node}.${port}`) ?? ZERO;
  const input = (node: string, port: string): Interval =>
    edgesInto(graph, node, port)
      .map((e) => output(e.from.node, e.from.port))
      .reduce(addIntervals, ZERO);
  // Twice over: a circle's signals are known from the second round on, as far as bounds can be.
  for (let round = 0; round < 2; round++) {
    for (const node of graph.nodes) {
      const at = (port: string): Interval => input(node.id, port);
      for (const [port, interval] of Object.entries(outputBounds(node, at, notes))) {
        outputs.set(`${node.id}.${port}`, interval);
      }
    }
  }
  return { output, input };
}

function outputBounds(
  node: GraphNode,
  input: (port: string) => Interval,
  notes: readonly TimedNote[],
): Record<string, Interval> {
  const param = (name: string): number => Number(node.params[name]);
  switch (node.kind) {
    case 'keyboard':
    case 'voices':
    case 'channels':
      return keyBounds(node, notes);
    case 'zone':
      return keyBounds(
        node,
        notes.filter((n) => n.note >= param('from') && n.note <= param('to')),
        param('transpose') / 12,
      );
    case 'row': {
      const volts = [1, 2, 3, 4, 5, 6, 7, 8].slice(0, param('last')).map((i) => param(`volts${i}`));
      // Without a clock it stands on its first step.
      const reached = isQuiet(input('clock')) ? volts.slice(0, 1) : volts;
      return {
        out: [Math.min(...reached) - HAIR, Math.max(...reached) + HAIR],
        gate: input('clock'),
      };
    }
    case 'to-hz-volt': {
      const [lo, hi] = input('in').map((v) => Math.min(RAIL, param('base') * 2 ** v)) as [
        number,
        number,
      ];
      return { out: [lo, hi] };
    }
    case 'from-hz-volt': {
      const [lo, hi] = input('in').map((v) =>
        v > 0 ? Math.max(-10, Math.log2(v / param('base'))) : -10,
      ) as [number, number];
      return { out: [lo, hi] };
    }
    case 'oscillator':
      return { out: AUDIO, sync: [-1, 1] };
    case 'noise':
      return { out: AUDIO };
    case 'ring':
      return { out: isQuiet(input('a')) || isQuiet(input('b')) ? ZERO : AUDIO };
    case 'mixer':
      return {
        out: [1, 2, 3, 4]
          .map((i) => scaled(input(`in${i}`), param(`gain${i}`)))
          .reduce(addIntervals, ZERO),
      };
    case 'drive':
      return { out: input('in') };
    case 'low-pass-12':
    case 'low-pass-18':
    case 'low-pass-24':
    case 'diode':
      return {
        out: whistles(node) ? hull(input('in'), AUDIO) : input('in'),
        hz: cutoffInterval(
          node,
          addIntervals(input('cutoff'), scaled(input('pitch'), param('track') / 100)),
        ),
      };
    case 'high-pass-12':
      return { out: input('in') };
    case 'bend':
      return {
        out: isQuiet(input('trigger'))
          ? ZERO
          : hull(ZERO, [param('depth') / 12, param('depth') / 12]),
      };
    case 'multiple': {
      const all = input('in');
      return { out1: all, out2: all, out3: all, out4: all };
    }
    // Neither goes further than what comes in has ever been.
    case 'slew':
    case 'sample-hold':
      return { out: hull(ZERO, input('in')) };
    case 'inverter':
      return { out: scaled(input('in'), -1) };
    case 'offset':
      return { out: addIntervals(input('in'), [param('volts'), param('volts')]) };
    case 'envelope': {
      if (isQuiet(input('gate'))) return { out: ZERO };
      // All the time that any key is held: what one stroke has reached, the next one may go on from.
      const held = gates(notes).reduce((sum, [start, end]) => sum + end - start, 0);
      const reached =
        node.params.curve === 'linear'
          ? Math.min(1, held / param('attack'))
          : attackReached(param('attack'), held);
      // Without sustain the attack goes on when the key is let go.
      return { out: [0, node.params.mode === 'adsr' ? 5 * reached : 5] };
    }
    case 'lfo':
      return { out: [-5, 5] };
    case 'attenuator':
      return { out: scaled(input('in'), param('gain')) };
    case 'amplifier': {
      const most = Math.min(1, Math.max(0, input('cv')[1] / 5));
      return { out: scaled(input('in'), most) };
    }
    case 'lever':
      return { out: node.params.follows === 'bend' ? AUDIO : [0, 5] };
    case 'output': {
      const sides = ['left', 'right'].map((side) =>
        scaled(addIntervals(input('in'), input(side)), param('level')),
      ) as [Interval, Interval];
      return { left: sides[0], right: sides[1], out: hull(sides[0], sides[1]) };
    }
    default:
      return supplied(node, input);
  }
}

/** A hair's breadth: keys that only give 0 V in a phrase are quiet, but not unconnected. */
const HAIR = 1e-9;

/** What keys give while some notes are played: pitch, gates, velocity; nothing opens without any. */
function keyBounds(
  node: GraphNode,
  notes: readonly TimedNote[],
  shift = Number(node.params.tune ?? 0) / 1200,
): Record<string, Interval> {
  const spread = Number(node.params.detune ?? 0) / 1200;
  const volts = notes.length > 0 ? notes.map((n) => midiToVolts(n.note) + shift) : [shift];
  const pitch: Interval = [Math.min(...volts) - spread - HAIR, Math.max(...volts) + spread + HAIR];
  const open: Interval = notes.length > 0 ? [0, 5] : ZERO;
  return Object.fromEntries(
    Object.keys(moduleSpec(node.kind).outputs).map((port) => [
      port,
      port.startsWith('pitch')
        ? pitch
        : port === 'pressure'
          ? ([0, 5] as const)
          : port === 'pan'
            ? ([-5, 5] as const)
            : open,
    ]),
  );
}

/** What is not known more closely stays within the supply, and is quiet when what it needs is. */
function supplied(node: GraphNode, input: (port: string) => Interval): Record<string, Interval> {
  const spec = moduleSpec(node.kind);
  const silent = spec.silentWithout?.every((port) => isQuiet(input(port))) ?? false;
  const gates: Interval = [0, 5];
  return Object.fromEntries(
    Object.entries(spec.outputs).map(([port, kind]) => [
      port,
      silent ? ZERO : kind === 'gate' ? gates : port === 'hz' ? [5, 20000] : SUPPLY,
    ]),
  );
}

/** The filter oscillates by itself. */
export function whistles(node: GraphNode): boolean {
  const resonance = Number(node.params.resonance);
  switch (node.kind) {
    case 'low-pass-18':
      return threePoleDamping(resonance) <= 0;
    case 'low-pass-24':
      return ladderLoopGain(resonance) >= 4;
    case 'diode':
      return diodeLoopGain(resonance) >= DIODE_WHISTLE;
    default:
      return false;
  }
}

/** Cutoffs in Hz that a low-pass reaches. */
export const cutoffInterval = (node: GraphNode, volts: Interval): Interval => {
  const floor = Number(node.params.cutoff);
  const clip = (hz: number): number => Math.min(20000, Math.max(5, hz));
  return [clip(floor * 2 ** volts[0]), clip(floor * 2 ** volts[1])];
};

/** Stretches of time, in seconds, during which at least one key is held. */
export function gates(notes: readonly TimedNote[]): [number, number][] {
  const open: [number, number][] = [];
  for (const n of [...notes].sort((a, b) => a.start - b.start)) {
    const last = open.at(-1);
    const end = n.start + n.duration;
    if (last && n.start < last[1]) last[1] = Math.max(last[1], end);
    else open.push([n.start, end]);
  }
  return open;
}

/** Seconds that the longest gate stays open; half a second when there are no notes. */
export const longestGate = (notes: readonly TimedNote[]): number =>
  notes.length > 0 ? Math.max(...gates(notes).map(([start, end]) => end - start)) : 0.5;

/** Level, 0..1, that an attack of so many seconds reaches while a key is held. */
export const attackReached = (attack: number, held: number): number =>
  Math.min(1, 1.3 * (1 - attackFactor(attack, 1e6) ** (held * 1e6)));
