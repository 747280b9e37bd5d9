import { moduleSpec, type ModuleKind } from '../catalogue';
import { RAIL } from '../catalogue/rail';
import type { TimedNote } from '../pattern/phrase';
import { midiToVolts } from '../theory/pitch';
import { cutoffInterval, whistles } from './filter-bounds';
import { attackReached, gates } from './gate-times';
import type { GraphNode } from './graph';
import {
  addIntervals,
  AUDIO,
  hull,
  type Interval,
  isQuiet,
  scaled,
  SUPPLY,
  ZERO,
} from './interval';

/** A module, with what comes in and what is played. */
interface Situation {
  node: GraphNode;
  input(port: string): Interval;
  param(name: string): number;
  notes: readonly TimedNote[];
}
type Reached = (of: Situation) => Record<string, Interval>;

const lowPass: Reached = ({ node, input, param }) => {
  const volts = addIntervals(input('cutoff'), scaled(input('pitch'), param('track') / 100));
  return {
    out: whistles(node) ? hull(input('in'), AUDIO) : input('in'),
    hz: cutoffInterval(node, volts),
  };
};
const asItComes: Reached = ({ input }) => ({ out: input('in') });
/** Neither goes further than what comes in has ever been. */
const asItCame: Reached = ({ input }) => ({ out: hull(ZERO, input('in')) });
const keys: Reached = ({ node, notes }) => keyBounds(node, notes);
const each = ([lo, hi]: Interval, f: (volts: number) => number): Interval => [f(lo), f(hi)];

/** How far the outputs of each kind of module go; a kind that is not here stays within the supply. */
const reached: Partial<Record<ModuleKind, Reached>> = {
  keyboard: keys,
  voices: keys,
  channels: keys,
  zone: ({ node, notes, param }) => {
    const own = notes.filter((n) => n.note >= param('from') && n.note <= param('to'));
    return keyBounds(node, own, param('transpose') / 12);
  },
  row: ({ input, param }) => {
    const volts = [1, 2, 3, 4, 5, 6, 7, 8].slice(0, param('last')).map((i) => param(`volts${i}`));
    // Without a clock it stands on its first step.
    const steps = isQuiet(input('clock')) ? volts.slice(0, 1) : volts;
    return { out: [Math.min(...steps) - HAIR, Math.max(...steps) + HAIR], gate: input('clock') };
  },
  'to-hz-volt': ({ input, param }) => ({
    out: each(input('in'), (v) => Math.min(RAIL, param('base') * 2 ** v)),
  }),
  'from-hz-volt': ({ input, param }) => ({
    out: each(input('in'), (v) => (v > 0 ? Math.max(-10, Math.log2(v / param('base'))) : -10)),
  }),
  oscillator: () => ({ out: AUDIO, sync: [-1, 1] }),
  noise: () => ({ out: AUDIO }),
  ring: ({ input }) => ({ out: isQuiet(input('a')) || isQuiet(input('b')) ? ZERO : AUDIO }),
  mixer: ({ input, param }) => ({
    out: [1, 2, 3, 4]
      .map((i) => scaled(input(`in${i}`), param(`gain${i}`)))
      .reduce(addIntervals, ZERO),
  }),
  drive: asItComes,
  'high-pass-12': asItComes,
  'low-pass-12': lowPass,
  'low-pass-18': lowPass,
  'low-pass-24': lowPass,
  diode: lowPass,
  bend: ({ input, param }) => ({
    out: isQuiet(input('trigger')) ? ZERO : hull(ZERO, [param('depth') / 12, param('depth') / 12]),
  }),
  multiple: ({ input }) => {
    const all = input('in');
    return { out1: all, out2: all, out3: all, out4: all };
  },
  slew: asItCame,
  'sample-hold': asItCame,
  inverter: ({ input }) => ({ out: scaled(input('in'), -1) }),
  offset: ({ input, param }) => ({
    out: addIntervals(input('in'), [param('volts'), param('volts')]),
  }),
  envelope: ({ node, input, param, notes }) => {
    if (isQuiet(input('gate'))) return { out: ZERO };
    // All the time that any key is held: what one stroke has reached, the next one may go on from.
    const held = gates(notes).reduce((sum, [start, end]) => sum + end - start, 0);
    const most =
      node.params.curve === 'linear'
        ? Math.min(1, held / param('attack'))
        : attackReached(param('attack'), held);
    // Without sustain the attack goes on when the key is let go.
    return { out: [0, node.params.mode === 'adsr' ? 5 * most : 5] };
  },
  lfo: () => ({ out: [-5, 5] }),
  attenuator: ({ input, param }) => ({ out: scaled(input('in'), param('gain')) }),
  amplifier: ({ input }) => ({
    out: scaled(input('in'), Math.min(1, Math.max(0, input('cv')[1] / 5))),
  }),
  lever: ({ node }) => ({ out: node.params.follows === 'bend' ? AUDIO : [0, 5] }),
  output: ({ input, param }) => {
    const side = (name: string): Interval =>
      scaled(addIntervals(input('in'), input(name)), param('level'));
    const [left, right] = [side('left'), side('right')];
    return { left, right, out: hull(left, right) };
  },
};

/** How far the outputs of a module go, for what comes in and what is played. */
export function outputBounds(
  node: GraphNode,
  input: (port: string) => Interval,
  notes: readonly TimedNote[],
): Record<string, Interval> {
  const param = (name: string): number => Number(node.params[name]);
  return reached[node.kind]?.({ node, input, param, notes }) ?? supplied(node, input);
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
