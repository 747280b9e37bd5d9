import { isModuleKind, moduleSpec } from '../catalogue';
import { compile } from '../circuit/compile';
import type { Graph } from '../circuit/graph';
import type { Control, Instrument, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import type { Patch } from '../patch/schema';
import { formatValue } from '../reading/format';
import { snap } from '../reading/resolution';
import { taperBounds, taperPosition, taperValue } from '../reading/taper';

/** A control set for a riser: what one reads, what it comes to, and how far that is from what was wanted. */
export interface RiserSetting {
  control: string;
  value: Value;
  /** As the panel shows it. */
  reading: string;
  wanted: number;
  reached: number;
  unit: string;
}

/** How an instrument's own LFO makes a riser. */
export interface Riser {
  lfo: string;
  rate: RiserSetting;
  depth: RiserSetting;
  /** The depth at which nothing rises, or as little as its control can. */
  flat: Value;
  /** Switches that have to stand otherwise: it must be a ramp, upwards, and begin with the key. */
  also: Pick<RiserSetting, 'control' | 'value' | 'reading'>[];
  /** What this panel cannot do of it, in words. */
  cannot: string[];
  /** Per cent by which the time is off, and octaves by which the height is. */
  timeError: number;
  heightError: number;
}

/** Per cent from which on a riser is told to be too long or too short. */
const FAR = 5;
/** Volts from the lowest to the highest of an LFO's ramp. */
const LFO_SPAN = 10;

/**
 * A rise of so many octaves over so many bars of four quarter notes, in the numbers of the instrument's own LFO: the
 * nearest that its panel can be set to. An LFO whose depth leads to a pitch through one attenuator will do.
 * @returns undefined when the instrument has none
 */
export function riserOf(
  instrument: Instrument,
  patch: Patch,
  bars: number,
  octaves: number,
): Riser | undefined {
  const graph = compile(instrument, patch);
  for (const { lfo, depth } of ramps(graph)) {
    const node = graph.nodes.find((n) => n.id === lfo)!;
    const tied = node.params['clock'] === 'tempo';
    const beats = bars * 4;
    const wanted = tied ? beats : patch.tempo / 60 / beats;
    const rate = nearest(instrument, lfo, tied ? 'beats' : 'rate', wanted, tied ? 'beats' : 'Hz');
    const height = nearest(instrument, depth, 'gain', octaves / LFO_SPAN, 'oct');
    const flat = nearest(instrument, depth, 'gain', 0, 'oct');
    if (!rate || !height || !flat) continue;
    const takes = tied ? rate.reached : patch.tempo / 60 / rate.reached;
    const timeError = (100 * (takes - beats)) / beats;
    const heightError = LFO_SPAN * height.reached - octaves;
    const shape = switched(instrument, node, 'shape', 'ramp-up');
    const start = switched(instrument, node, 'reset', 'key');
    const struck = graph.edges.some((e) => e.to.node === lfo && e.to.port === 'gate');
    const cannot = [
      shape ? '' : 'Its LFO has no ramp upwards.',
      start && struck ? '' : 'Its LFO does not begin with the key: it rises from wherever it runs.',
      Math.abs(timeError) > FAR
        ? `The nearest it takes is ${Math.round(takes * 25) / 100} bars.`
        : '',
      heightError < -octaves / 20
        ? `It rises ${Math.round(100 * LFO_SPAN * height.reached) / 100} octaves at most.`
        : '',
    ].filter((text) => text !== '');
    return {
      lfo,
      rate,
      flat: flat.value,
      depth: { ...height, wanted: octaves, reached: LFO_SPAN * height.reached },
      also: [shape, start].flatMap((s) => (s === undefined || s === 'stands' ? [] : [s])),
      cannot,
      timeError,
      heightError,
    };
  }
  return undefined;
}

/** LFOs with the attenuators that lead them to a pitch. */
function ramps(graph: Graph): { lfo: string; depth: string }[] {
  const kind = (id: string): string => graph.nodes.find((n) => n.id === id)?.kind ?? '';
  return graph.edges.flatMap((edge) => {
    if (kind(edge.from.node) !== 'lfo' || kind(edge.to.node) !== 'attenuator') return [];
    const onward = graph.edges.some((e) => {
      const to = kind(e.to.node);
      if (e.from.node !== edge.to.node) return false;
      const inputs: Record<string, string> = isModuleKind(to) ? moduleSpec(to).inputs : {};
      // What adds to a pitch: one volt is an octave at either.
      return inputs[e.to.port] === 'pitch' || (e.to.port === 'mod' && 'pitch' in inputs);
    });
    return onward ? [{ lfo: edge.from.node, depth: edge.to.node }] : [];
  });
}

/** Where a switch has to stand so that a module is set so: `stands` when it is already, nothing when none can do it. */
function switched(
  instrument: Instrument,
  node: Graph['nodes'][number],
  param: string,
  wanted: string,
): Pick<RiserSetting, 'control' | 'value' | 'reading'> | 'stands' | undefined {
  if (node.params[param] === wanted) return 'stands';
  for (const control of instrument.controls) {
    if (!isSwitched(control)) continue;
    const bound = control.bindings.find((b) => b.module === node.id && b.param === param);
    const position = bound && control.positions.find((p) => bound.values[p.id] === wanted);
    if (position) return { control: control.id, value: position.id, reading: position.name };
  }
  return undefined;
}

function nearest(
  instrument: Instrument,
  module: string,
  param: string,
  wanted: number,
  unit: string,
): RiserSetting | undefined {
  const control = instrument.controls.find((c) =>
    c.bindings.some((b) => b.module === module && b.param === param),
  );
  if (!control) return undefined;
  const [value, reached] = isSwitched(control)
    ? nearestPosition(control, module, param, wanted)
    : nearestTravel(control, module, param, wanted);
  const reading = formatValue(control, value);
  return { control: control.id, value, reading, wanted, reached, unit };
}

function nearestPosition(
  control: Extract<Control, { positions: unknown }>,
  module: string,
  param: string,
  wanted: number,
): [Value, number] {
  const bound = control.bindings.find((b) => b.module === module && b.param === param)!;
  const distance = (v: number): number => Math.abs(Math.log(Math.max(1e-9, v) / wanted));
  const all = Object.entries(bound.values).map(([id, v]) => [id, Number(v)] as const);
  const [id, reached] = all.sort((a, b) => distance(a[1]) - distance(b[1]))[0]!;
  return [id, reached];
}

function nearestTravel(
  control: Exclude<Control, { positions: unknown }>,
  module: string,
  param: string,
  wanted: number,
): [Value, number] {
  const { taper } = control.bindings.find((b) => b.module === module && b.param === param)!;
  const [lo, hi] = taperBounds(taper);
  const reachable = Math.min(Math.max(lo, hi), Math.max(Math.min(lo, hi), wanted));
  const position = snap(control, taperPosition(taper, reachable) ?? 0);
  return [position, taperValue(taper, position)];
}
