import { moduleSpec } from '../catalogue';
import type { Graph } from '../circuit/graph';
import { edgesInto, nodeOf } from '../circuit/graph';
import { prune } from '../circuit/prune';
import { FULL_SCALE_VOLTS, type Rendering, startRender } from '../sound';
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
  /** Quarter notes a minute. */
  tempo?: number;
  /** Shown a first picture as soon as the beginning of the note is rendered; level and cutoff end where it ends. */
  early?: (picture: Picture) => void;
}

const SPECTRUM_SIZE = 16384;
/** Share of a note's hold at which its pitch is read. */
const LATE = 0.6;

/** Renders one note of a graph and measures what the plots show. */
export function takePicture(whole: Graph, options: PictureOptions): Picture {
  const {
    note,
    velocity = 100,
    held = 1.2,
    seconds = 2,
    sampleRate = 48000,
    tempo = 120,
  } = options;
  const notes = [{ start: 0, duration: held, note, velocity }];
  const graph = prune(whole, notes);
  const filter = graph.nodes.find(
    (n) => 'hz' in moduleSpec(n.kind).outputs && reachesOutput(graph, n.id),
  );
  const watch = filter ? [`${filter.id}.hz`] : [];
  const job = startRender(graph, { sampleRate, seconds, notes, watch, tempo });
  const beginning = LATE * held + 0.1;
  const measured = (until: number): Picture => {
    job.continueTo(until);
    return measurePicture(job.rendering, watch[0], { note, held, seconds, until });
  };
  if (options.early && beginning < seconds) options.early(measured(beginning));
  return measured(seconds);
}

function measurePicture(
  rendering: Rendering,
  cutoff: string | undefined,
  facts: { note: number; held: number; seconds: number; until: number },
): Picture {
  const { sampleRate, watchEvery } = rendering;
  const samples = rendering.samples.subarray(0, Math.round(facts.until * sampleRate));
  const hz = cutoff === undefined ? new Float32Array() : rendering.watched[cutoff]!;
  const known = Math.min(hz.length, Math.floor(samples.length / watchEvery));
  const loudest = loudestPlace(samples, sampleRate);
  const steady = steadyPlace(samples, sampleRate, facts.held, loudest);
  const fundamental = fundamentalOf(samples.subarray(steady, steady + 4096), sampleRate);
  const span = Math.min(4000, Math.round((2 * sampleRate) / (fundamental ?? 220)));
  return {
    note: facts.note,
    held: facts.held,
    seconds: facts.seconds,
    ...(fundamental === undefined ? {} : { fundamental }),
    period: Array.from({ length: span }, (_, i) => ({
      time: i / sampleRate,
      value: (samples[loudest + i] ?? 0) * FULL_SCALE_VOLTS,
    })),
    spectrum: toBands(spectrum(samples, sampleRate, loudest, SPECTRUM_SIZE), 20, 20000, 300),
    // Over two periods at least, or the level would show the waveform.
    level: levelPath(samples, sampleRate, Math.max(0.02, 2 / (fundamental ?? 100))),
    cutoff: Array.from({ length: Math.ceil(known / 8) }, (_, i) => ({
      time: (i * 8 * watchEvery) / sampleRate,
      value: hz[i * 8]!,
    })),
    peakVolts: peakOf(samples) * FULL_SCALE_VOLTS,
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
  const late = Math.round(LATE * held * sampleRate);
  const level = (from: number): number => peakOf(samples.subarray(from, from + 2048));
  return level(late) > 0.01 * level(loudest) ? late : loudest;
}
