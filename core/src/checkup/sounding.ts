import { moduleSpec } from '../catalogue';
import type { Graph } from '../circuit/graph';
import { prune } from '../circuit/prune';
import type { TimedNote } from '../pattern/timed';
import { notesEnd } from '../pattern/timed';
import { peakOf } from '../measure/level';
import { createEngine, FULL_SCALE_VOLTS } from '../sound/engine';
import { BLOCK } from '../sound/kernel';

/** Peak against full scale from which on something is heard: -80 dB. */
export const SILENCE = 1e-4;

const RATE = 48000;
/** Seconds before the first key, for what stands at the sockets when one begins to settle. */
export const SETTLING = 0.6;
/** Seconds that are listened to behind the last key. */
const TAIL = 1.5;
/** Seconds that are listened to where something runs by itself, and may open only now and then. */
const RUNNING = 10;
/** Longest time that is listened to, in seconds. */
const LONGEST = 60;
/** What begins by itself, and may let something through. */
const CLOCKS = new Set(['lfo', 'clock']);

export interface Played {
  notes: readonly TimedNote[];
  /** Quarter notes a minute. */
  tempo: number;
}

/** How thoroughly one listens: trials of many mends listen shorter, to what can matter, in as many voices as are held. */
export type Listening = 'whole' | 'trial';

/** Seconds that a trial listens to at most. */
const TRIAL = 2.5;

/**
 * Whether anything is heard at the output while the keys are played, or by itself before and behind them. Rendered, and
 * given up at the first sample that is heard.
 */
export function sounds(
  graph: Graph,
  { notes, tempo }: Played,
  listening: Listening = 'whole',
): boolean {
  const trial = listening === 'trial';
  const heard = fewerVoices(trial ? prune(graph, notes) : graph, notes);
  const engine = createEngine(heard, {
    sampleRate: RATE,
    tempo,
    notes: notes.map((n) => ({ ...n, start: n.start + SETTLING })),
  });
  const threshold = SILENCE * FULL_SCALE_VOLTS;
  const sides = ['left', 'right'].map((port) => engine.port(heard.output, port));
  const runs = !trial && heard.nodes.some((n) => CLOCKS.has(n.kind));
  const longest = trial ? TRIAL : LONGEST;
  const seconds = Math.min(longest, Math.max(runs ? RUNNING : 0, notesEnd(notes) + TAIL));
  for (let at = 0; at < (SETTLING + seconds) * RATE; at += BLOCK) {
    engine.advance(BLOCK);
    if (at < SETTLING * RATE) continue;
    for (const side of sides) {
      for (let i = 0; i < BLOCK; i++) {
        const volts = side[i]!;
        if (volts > threshold || volts < -threshold) return true;
      }
    }
  }
  return false;
}

/** Seconds after the keys at which what still sounds is taken to go on for ever; every release is over by then. */
const FOR_EVER = 12;

/** Whether a patch that is quiet before its first key still sounds long after the keys were let go. */
export function drones(graph: Graph, { notes, tempo }: Played): boolean {
  const [first] = notes;
  if (!first) return false;
  const key = { ...first, start: 1, duration: 0.3 };
  const engine = createEngine(lighter(graph, notes), { sampleRate: RATE, tempo, notes: [key] });
  const buffer = engine.port(graph.output, 'out');
  let [before, after] = [0, 0];
  const end = (1.3 + FOR_EVER) * RATE;
  for (let at = 0; at < end; at += BLOCK) {
    engine.advance(BLOCK);
    if (at > 0.6 * RATE && at < 0.9 * RATE) before = Math.max(before, peakOf(buffer));
    if (at > end - RATE) after = Math.max(after, peakOf(buffer));
  }
  const threshold = 10 * SILENCE * FULL_SCALE_VOLTS;
  return before < threshold && after > threshold;
}

/** The same graph without what cannot be heard, and with no more voices than keys that are held together. */
export const lighter = (graph: Graph, notes: readonly TimedNote[]): Graph =>
  fewerVoices(prune(graph, notes), notes);

function fewerVoices(graph: Graph, notes: readonly TimedNote[]): Graph {
  const together = heldTogether(notes);
  return {
    ...graph,
    nodes: graph.nodes.map((n) =>
      moduleSpec(n.kind).voices === 'open'
        ? { ...n, params: { ...n.params, voices: Math.min(Number(n.params.voices), together) } }
        : n,
    ),
  };
}

/** Most keys that are down at once, at least one. */
const heldTogether = (notes: readonly TimedNote[]): number =>
  Math.max(
    1,
    ...notes.map(
      (n) => notes.filter((m) => m.start <= n.start && m.start + m.duration > n.start).length,
    ),
  );
