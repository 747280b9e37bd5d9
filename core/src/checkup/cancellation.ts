import type { Meeting } from '../circuit/doctor/cancelling';
import { edgesInto, type Graph } from '../circuit/graph';
import type { Played } from './sounding';
import { createEngine } from '../sound/engine';
import { BLOCK } from '../sound/kernel';

const RATE = 48000;
/** Beats a second at which all phases are gone through. */
const BEAT = 1;
/** Seconds until what begins has settled, and of one beat and a little. */
const SETTLING = 0.2;
const SECONDS = 1.1;

/**
 * How deep, in dB and negative, the partial at which two sounds meet dips while their phases go round once: rendered at
 * the sum itself, with one of the two detuned so that the beat takes a second.
 */
export function renderedDip(graph: Graph, met: Meeting, { notes, tempo }: Played): number {
  const cents = 1200 * Math.log2(1 + BEAT / met.hz) - met.cents;
  const feeding = before(graph, met.sum);
  const nodes = graph.nodes
    .filter((n) => feeding.has(n.id))
    .map((n) =>
      n.id === met.high.source.id
        ? { ...n, params: { ...n.params, fine: Number(n.params.fine) + cents } }
        : n,
    );
  const edges = graph.edges.filter((e) => feeding.has(e.to.node));
  const lowest = Math.min(...notes.map((n) => n.note));
  const key = { note: lowest, start: 0, duration: 10, velocity: 100 };
  const engine = createEngine(
    { nodes, edges, output: met.sum },
    { sampleRate: RATE, tempo, notes: notes.length > 0 ? [key] : [] },
  );
  const length = Math.ceil(((SETTLING + SECONDS) * RATE) / BLOCK) * BLOCK;
  const sum = new Float64Array(length);
  const port = met.sum === graph.output ? 'left' : 'out';
  const buffer = engine.port(met.sum, port);
  for (let at = 0; at < length; at += BLOCK) {
    engine.advance(BLOCK);
    sum.set(buffer, at);
  }
  const path = amplitudes(sum.subarray(SETTLING * RATE), met.hz, window(met));
  return 20 * Math.log10(Math.min(...path) / Math.max(...path));
}

/** Samples to look at for one amplitude: many cycles, so that neighbouring partials stay out, and little of a beat. */
const window = ({ hz, partial }: Meeting): number => {
  const spacing = hz / partial;
  return Math.round(RATE * Math.min(0.2, Math.max(0.05, 4 / spacing)));
};

/** Amplitude of what stands at a frequency, over time: a Hann window moved along by a quarter of itself. */
function amplitudes(samples: Float64Array, hz: number, size: number): number[] {
  const found: number[] = [];
  for (let from = 0; from + size <= samples.length; from += size >> 2) {
    let [re, im] = [0, 0];
    for (let i = 0; i < size; i++) {
      const hann = 1 - Math.cos((2 * Math.PI * i) / size);
      const turn = (2 * Math.PI * hz * (from + i)) / RATE;
      re += hann * samples[from + i]! * Math.cos(turn);
      im += hann * samples[from + i]! * Math.sin(turn);
    }
    found.push(Math.hypot(re, im) / size);
  }
  return found;
}

function before(graph: Graph, id: string): ReadonlySet<string> {
  const seen = new Set([id]);
  const queue = [id];
  while (queue.length > 0) {
    for (const edge of edgesInto(graph, queue.pop()!)) {
      if (!seen.has(edge.from.node)) queue.push(edge.from.node);
      seen.add(edge.from.node);
    }
  }
  return seen;
}
