import type { Graph } from '../circuit/graph';
import { edgesInto, nodeOf } from '../circuit/graph';
import { prune } from '../circuit/prune';
import { FULL_SCALE_VOLTS, render } from '../sound';
import type { TimePoint } from './level';
import { levelPath, peakOf } from './level';
import { fundamentalOf } from './pitch';
import { spectrum, toBands } from './spectrum';

/** What is drawn of a patch: how one note of it looks. */
export interface Picture {
  /** MIDI number of the note, and how long it was held, in seconds. */
  note: number;
  held: number;
  seconds: number;
  /** Fundamental found at the loudest place, in Hz. */
  fundamental?: number;
  /** Two periods from the loudest place: seconds and V. */
  period: TimePoint[];
  /** Level in dB over Hz; a sine of 10 V peak reads 0. */
  spectrum: { hz: number; db: number }[];
  /** Level in dB over time. */
  level: TimePoint[];
  /** Cutoff of the filter in Hz over time; empty when nothing is filtered. */
  cutoff: TimePoint[];
  /** Highest voltage at the output. */
  peakVolts: number;
}

export interface PictureOptions {
  note: number;
  velocity?: number;
  held?: number;
  seconds?: number;
  sampleRate?: number;
}

const SPECTRUM_SIZE = 16384;

/** Renders one note of a graph and measures what the plots show. */
export function takePicture(whole: Graph, options: PictureOptions): Picture {
  const { note, velocity = 100, held = 1.2, seconds = 2, sampleRate = 48000 } = options;
  const notes = [{ start: 0, duration: held, note, velocity }];
  const graph = prune(whole, notes);
  const filter = graph.nodes.find(
    (n) => n.kind.startsWith('low-pass') && reachesOutput(graph, n.id),
  );
  const watch = filter ? [`${filter.id}.hz`] : [];
  const sound = render(graph, { sampleRate, seconds, notes, watch });
  const loudest = loudestPlace(sound.samples, sampleRate);
  const hz = filter ? sound.watched[watch[0]!]! : new Float32Array();
  const steady = steadyPlace(sound.samples, sampleRate, held, loudest);
  const fundamental = fundamentalOf(sound.samples.subarray(steady, steady + 4096), sampleRate);
  const span = Math.min(4000, Math.round((2 * sampleRate) / (fundamental ?? 220)));
  return {
    note,
    held,
    seconds,
    ...(fundamental === undefined ? {} : { fundamental }),
    period: Array.from({ length: span }, (_, i) => ({
      time: i / sampleRate,
      value: (sound.samples[loudest + i] ?? 0) * FULL_SCALE_VOLTS,
    })),
    spectrum: toBands(spectrum(sound.samples, sampleRate, loudest, SPECTRUM_SIZE), 20, 20000, 300),
    // Over two periods at least, or the level would show the waveform.
    level: levelPath(sound.samples, sampleRate, Math.max(0.02, 2 / (fundamental ?? 100))),
    cutoff: Array.from({ length: Math.ceil(hz.length / 8) }, (_, i) => ({
      time: (i * 8 * sound.watchEvery) / sampleRate,
      value: hz[i * 8]!,
    })),
    peakVolts: peakOf(sound.samples) * FULL_SCALE_VOLTS,
  };
}

function reachesOutput(graph: Graph, id: string): boolean {
  const seen = new Set<string>();
  const walk = (at: string): boolean => {
    if (at === id) return true;
    if (seen.has(at)) return false;
    seen.add(at);
    return edgesInto(graph, at).some((e) => walk(e.from.node));
  };
  return walk(nodeOf(graph, graph.output).id);
}

/** Sample at which the loudest 40 ms begin, early enough that a spectrum still fits in behind it. */
function loudestPlace(samples: Float32Array, sampleRate: number): number {
  const hop = Math.round(0.02 * sampleRate);
  const window = Math.round(0.04 * sampleRate);
  let best = 0;
  let most = -1;
  for (let from = 0; from + window <= samples.length - SPECTRUM_SIZE; from += hop) {
    let power = 0;
    for (let i = 0; i < window; i++) power += samples[from + i]! ** 2;
    // A steady tone must not make the picture hop about: only a clear gain moves it.
    if (power > most * 1.02) {
      most = power;
      best = from;
    }
  }
  return best;
}

/** Where the pitch is read: late in the note, when a sweep of the filter bends it no more, unless it has died away. */
function steadyPlace(
  samples: Float32Array,
  sampleRate: number,
  held: number,
  loudest: number,
): number {
  const late = Math.round(0.6 * held * sampleRate);
  const level = (from: number): number => peakOf(samples.subarray(from, from + 2048));
  return level(late) > 0.01 * level(loudest) ? late : loudest;
}
