import { moduleSpec } from '../catalogue';
import type { Graph } from '../circuit/graph';
import { notesEnd, type TimedNote } from '../pattern/timed';
import { createEngine, FULL_SCALE_VOLTS } from '../sound/engine';
import { BLOCK } from '../sound/kernel';
import { lighter, type Played } from './sounding';

/** What a patch is heard to do, in figures; levels in dB against full scale, nothing at all is -200. */
export interface Rendered {
  /** Highest peak of either side while keys are played. */
  peak: number;
  /** Samples of either side beyond full scale. */
  over: number;
  /** Loudest window of what an ear hears, above 20 Hz, while keys are played. */
  loudest: number;
  /** The same with what lies below 20 Hz. */
  withInfra: number;
  /** The same before the first key. */
  before: number;
  /** The same at the end of what was listened to behind the last key. */
  after: number;
  /** Seconds that were listened to behind the last key. */
  tail: number;
}

const RATE = 48000;
/** Seconds before the first key: what stands at the sockets settles, and what runs by itself is heard. */
const BEFORE = 0.9;
const SETTLED = 0.6;
/** Seconds of the phrase that are played at most. */
const PHRASE = 3;
/** Seconds behind the last key: what then still sounds as it did goes on for ever. */
export const FOR_EVER = 12;
/** Length of a window in seconds: a cycle of 20 Hz fits into it eight times. */
const WINDOW = 0.4;
/** In dB: below it a tail is over. */
export const OVER = -60;
const NOTHING = -200;

/**
 * Renders the beginning of a phrase with what comes before and behind it, until nothing is heard any more. Linear in the
 * length; a patch that dies away within a second costs that second.
 */
export function renderVerdict(graph: Graph, { notes, tempo }: Played): Rendered {
  const own = beginningOf(notes);
  const engine = createEngine(lighter(graph, own), {
    sampleRate: RATE,
    tempo,
    notes: own.map((n) => ({ ...n, start: n.start + BEFORE })),
  });
  const sides = ['left', 'right'].map((port) => engine.port(graph.output, port));
  const filters = sides.map(() => new Ear());
  const keysEnd = BEFORE + notesEnd(own);
  const found: Rendered = {
    peak: NOTHING,
    over: 0,
    loudest: NOTHING,
    withInfra: NOTHING,
    before: NOTHING,
    after: NOTHING,
    tail: 0,
  };
  const tail: number[] = [];
  let [peak, heard, all, count] = [0, 0, 0, 0];
  const end = (keysEnd + (own.length > 0 ? FOR_EVER : 1)) * RATE;
  for (let at = 0; at < end; at += BLOCK) {
    engine.advance(BLOCK);
    const playing = at >= BEFORE * RATE && at < keysEnd * RATE;
    sides.forEach((side, k) => {
      const ear = filters[k]!;
      for (let i = 0; i < BLOCK; i++) {
        const x = side[i]! / FULL_SCALE_VOLTS;
        const size = Math.abs(x);
        if (playing && size > peak) peak = size;
        if (playing && size > 1) found.over++;
        const y = ear.next(x);
        heard += y * y;
        all += x * x;
      }
    });
    count += 2 * BLOCK;
    if (count < 2 * WINDOW * RATE) continue;
    const [level, whole] = [decibels(heard / count), decibels(all / count)];
    [heard, all, count] = [0, 0, 0];
    if (at < BEFORE * RATE) {
      if (at >= SETTLED * RATE) found.before = level;
    } else if (playing) {
      found.loudest = Math.max(found.loudest, level);
      found.withInfra = Math.max(found.withInfra, whole);
    } else {
      found.after = level;
      found.tail = at / RATE - keysEnd;
      // What is struck short is loudest in its tail.
      if (found.tail < 2 * WINDOW) found.loudest = Math.max(found.loudest, level);
      if (level < OVER || found.before > OVER) break;
      tail.push(level);
      if (dies(tail)) break;
    }
  }
  found.peak = decibels(peak * peak);
  return found;
}

/** Whether levels of a tail fall: three dB or more from one five windows to the next. */
function dies(tail: readonly number[]): boolean {
  if (tail.length < 10) return false;
  const [first, second] = [tail.slice(-10, -5), tail.slice(-5)];
  return Math.max(...second) < Math.max(...first) - 3;
}

const decibels = (power: number): number => Math.max(NOTHING, 10 * Math.log10(power));

/** Keys of the first seconds, none held beyond them. */
function beginningOf(notes: readonly TimedNote[]): TimedNote[] {
  const first = Math.min(...notes.map((n) => n.start));
  return notes
    .filter((n) => n.start - first < PHRASE)
    .map((n) => ({
      ...n,
      start: n.start - first,
      duration: Math.min(n.duration, PHRASE - (n.start - first)),
    }));
}

/** High-pass of two poles at 20 Hz, as no ear hears below: bilinear transform of a Butterworth. */
class Ear {
  private x1 = 0;
  private x2 = 0;
  private y1 = 0;
  private y2 = 0;

  next(x: number): number {
    const y = B * (x - 2 * this.x1 + this.x2) - A1 * this.y1 - A2 * this.y2;
    this.x2 = this.x1;
    this.x1 = x;
    this.y2 = this.y1;
    this.y1 = y;
    return y;
  }
}
const K = Math.tan((Math.PI * 20) / RATE);
const NORM = 1 / (1 + Math.SQRT2 * K + K * K);
const B = NORM;
const A1 = 2 * (K * K - 1) * NORM;
const A2 = (1 - Math.SQRT2 * K + K * K) * NORM;

/** Modules that what they put out comes back into, and by which parameter. */
export const feedsBack = (graph: Graph): { node: string; param: string }[] =>
  graph.nodes.flatMap((node) =>
    Object.hasOwn(moduleSpec(node.kind).params, 'feedback') && Number(node.params.feedback) >= 95
      ? [{ node: node.id, param: 'feedback' }]
      : [],
  );
