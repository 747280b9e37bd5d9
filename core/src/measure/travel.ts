import { compile } from '../circuit/compile';
import type { Graph } from '../circuit/graph';
import { edgesFrom } from '../circuit/graph';
import { prune } from '../circuit/prune';
import type { Instrument } from '../instrument/schema';
import type { Patch } from '../patch/schema';
import { createEngine, FULL_SCALE_VOLTS } from '../sound/engine';
import { BLOCK } from '../sound/kernel';
import { Act } from '../sound/key-feed';
import { centroidOf } from './timbre';

/** What the player moves while playing: a wheel or pedal of the panel by its id, or how keys are struck and pressed. */
export type Controller = string;
/** Hands that are no control of the panel. */
export const keyControllers = ['velocity', 'pressure', 'bend'] as const;
type KeyController = (typeof keyControllers)[number];
const isKeyController = (controller: Controller): controller is KeyController =>
  (keyControllers as readonly string[]).includes(controller);

/** The sound at one place of a controller's travel. */
export interface TravelPoint {
  /** 0 one end, 1 the other; the bender rests at 0.5. */
  travel: number;
  /** Level in dB; a sine of full scale has -3. */
  level: number;
  /** Centre of its spectrum in Hz; 0 in silence. */
  brightness: number;
}

/** Rate at which ends are rendered: enough for what decides between bright and dark. */
const RATE = 32000;
/** Seconds that a key is held, and of which the sound is taken: when attacks are over. */
const HELD = 1.2;
const FROM = 0.2;
/** Level of nothing in dB. */
const FLOOR = -120;
/** dB under the loudest place from which an end counts as silent. */
export const SILENT_UNDER = 40;
/** dB under the loudest place that an end may be and still do its part. */
export const KEEPS = 20;

/** Hands that something in this patch listens to: wheels and pedals of the panel, then velocity, pressure and bend. */
export function controllersOf(instrument: Instrument, patch: Patch): Controller[] {
  const graph = compile(instrument, patch);
  const controls = instrument.controls.filter((c) => c.kind === 'wheel' || c.kind === 'pedal');
  const listens = (port: string): boolean =>
    graph.nodes.some((n) => edgesFrom(graph, n.id).some((e) => e.from.port.startsWith(port)));
  const follows = (controller: string): boolean =>
    graph.nodes.some((n) => n.params.follows === controller);
  const bends = graph.nodes.some((n) => Number(n.params['bend-range'] ?? 0) > 0);
  return [
    ...controls.map((c) => c.id),
    ...(listens('velocity') ? ['velocity'] : []),
    ...(listens('pressure') || follows('pressure') ? ['pressure'] : []),
    ...(bends || follows('bend') ? ['bend'] : []),
  ];
}

/** The sound with a controller at one place of its travel and everything else as recorded, on one note (MIDI number). */
export function travelAt(
  instrument: Instrument,
  patch: Patch,
  controller: Controller,
  note: number,
  travel: number,
): TravelPoint {
  const settings = isKeyController(controller)
    ? patch.settings
    : { ...patch.settings, [controller]: { kind: 'set', value: travel } as const };
  const whole = compile(instrument, { ...patch, settings });
  const graph = prune(whole, [{ note, start: 0, duration: HELD, velocity: 100 }]);
  const samples = play(graph, patch.tempo, controller, note, travel);
  let sum = 0;
  for (const s of samples) sum += s * s;
  const level = Math.max(FLOOR, 10 * Math.log10(sum / samples.length + 1e-12));
  return { travel, level, brightness: level <= FLOOR ? 0 : centroidOf(samples, RATE) };
}

function play(
  graph: Graph,
  tempo: number,
  controller: Controller,
  note: number,
  travel: number,
): Float32Array {
  const engine = createEngine(graph, { sampleRate: RATE, tempo });
  if (controller === 'pressure') engine.keys.add(0, Act.pressure, 0, travel);
  if (controller === 'bend') engine.keys.add(0, Act.bend, 0, 2 * travel - 1);
  const velocity = controller === 'velocity' ? Math.max(1, Math.round(127 * travel)) : 100;
  engine.keys.add(0, Act.press, note, velocity);
  const out = engine.port(graph.output, 'out');
  const blocks = Math.floor((HELD * RATE) / BLOCK);
  const first = Math.floor((FROM * RATE) / BLOCK);
  const samples = new Float32Array((blocks - first) * BLOCK);
  for (let b = 0; b < blocks; b++) {
    engine.advance(BLOCK);
    if (b < first) continue;
    for (let i = 0; i < BLOCK; i++) samples[(b - first) * BLOCK + i] = out[i]! / FULL_SCALE_VOLTS;
  }
  return samples;
}

/** What is to be said of a controller's ends. */
export interface TravelEnds {
  /** The end is silent against the loudest place of the travel. */
  low: boolean;
  high: boolean;
  /**
   * Where an end is silent: the travel that keeps it sounding, within 20 dB of the loudest place, as the gain
   * of an attenuator between the controller and what it moves, for the upper end; for the lower, the travel to begin at.
   */
  keep?: number;
}

/** Looks at the ends of a travel, and finds by bisection how far it may go where one of them is silent. */
export function endsOf(
  points: readonly TravelPoint[],
  at: (travel: number) => TravelPoint,
): TravelEnds {
  const loudest = Math.max(...points.map((p) => p.level));
  const silent = (p: TravelPoint): boolean => loudest - p.level > SILENT_UNDER;
  const [low, high] = [silent(points[0]!), silent(points.at(-1)!)];
  if (low === high) return { low, high };
  let [good, bad] = high
    ? [Math.max(...points.filter((p) => loudest - p.level <= KEEPS).map((p) => p.travel)), 1]
    : [Math.min(...points.filter((p) => loudest - p.level <= KEEPS).map((p) => p.travel)), 0];
  for (let i = 0; i < 7; i++) {
    const middle = (good + bad) / 2;
    if (loudest - at(middle).level <= KEEPS) good = middle;
    else bad = middle;
  }
  return { low, high, keep: Math.round(good * 100) / 100 };
}
