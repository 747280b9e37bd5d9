import type { ModuleKind } from '../catalogue';
import {
  diodeLadder,
  ladder,
  type Prototype,
  threePole,
  twoPole,
  valueOf,
} from '../theory/prototypes';
import { factsOf } from './facts';
import { heardEnvelope } from './heard-envelope';
import { pitchOf } from './pitch';
import { spectrum } from './spectrum';

/** What of a circuit can be read off a recording of the instrument. */
export const measurables = [
  'cutoff',
  'attack',
  'decay',
  'sustain',
  'release',
  'rate',
  'pitch',
] as const;
export type Measurable = (typeof measurables)[number];

/** How the sound was made that is measured. */
export interface Played {
  /** Kind of the module whose parameter is measured. */
  kind: ModuleKind;
  /** Its envelope runs in straight lines. */
  linear?: boolean;
  /** Key that was played, as a MIDI number; wanted for a pitch. */
  note?: number;
  /** Seconds that the key was held; wanted for decay, sustain and release. */
  held?: number;
}

export type MeasuredValue =
  /** In Hz, s, per cent; a pitch in cents from the key. `how` says what it was read from. */
  { ok: true; value: number; how: string } | { ok: false; message: string };

/** Low-passes by kind, as they are without resonance. */
const PROTOTYPES: Partial<Record<ModuleKind, Prototype>> = {
  'low-pass-12': twoPole,
  'low-pass-18': threePole,
  'low-pass-24': ladder,
  'state-variable': twoPole,
  diode: diodeLadder,
};

/** What of a module's parameter can be measured; undefined where it is told by ear, or by what is printed. */
export function measurableOf(
  kind: ModuleKind,
  param: string,
  unit: string,
): Measurable | undefined {
  if (param === 'cutoff' && PROTOTYPES[kind]) return 'cutoff';
  if (kind === 'envelope')
    return (['attack', 'decay', 'sustain', 'release'] as const).find((p) => p === param);
  if (kind === 'lfo' && param === 'rate') return 'rate';
  return ['st', 'cents', 'oct'].includes(unit) && /oscillator|saw|operator|chord|sub/.test(kind)
    ? 'pitch'
    : undefined;
}

/**
 * Reads one value off a recording of one note. A cutoff is the pitch of a whistle, or the corner of white noise through the
 * filter without resonance: of all corners the one whose response of that kind lies nearest to the spectrum, by least
 * squares in dB. Times are the model's own, computed from those that are heard through a linear amplifier: an exponential
 * attack that heads for 1.3 takes 1.335 times as long as from 10 to 90 %, a decay twice as long as to the last tenth.
 * @param channels one or two, -1..1
 */
export function measureValue(
  what: Measurable,
  channels: readonly Float32Array[],
  sampleRate: number,
  played: Played,
): MeasuredValue {
  const mono = trimmed(mixed(channels), sampleRate);
  if (mono.length < 0.05 * sampleRate)
    return fault('There is hardly any sound in it: record a note of a second at least.');
  if (what === 'cutoff') return cutoffOf(mono, sampleRate, played.kind);
  if (what === 'pitch') return pitchFrom(mono, sampleRate, played.note ?? 60);
  if (what === 'rate') return rateOf(mono, sampleRate);
  return envelopeOf(what, mono, sampleRate, played);
}

const fault = (message: string): MeasuredValue => ({ ok: false, message });

function mixed(channels: readonly Float32Array[]): Float32Array {
  const [left = new Float32Array(0), right] = channels;
  return right ? left.map((v, i) => (v + right[i]!) / 2) : left;
}

/** Without the silence before the note: from where it first comes within 40 dB of its highest level. */
function trimmed(samples: Float32Array, sampleRate: number): Float32Array {
  const top = samples.reduce((most, v) => Math.max(most, Math.abs(v)), 0);
  if (top < 1e-4) return new Float32Array(0);
  const first = samples.findIndex((v) => Math.abs(v) > 0.01 * top);
  return samples.subarray(Math.max(0, first - Math.round(0.001 * sampleRate)));
}

/** Confidence above which what comes out of a filter is its own whistle. */
const WHISTLE = 0.95;

function cutoffOf(mono: Float32Array, sampleRate: number, kind: ModuleKind): MeasuredValue {
  const middle = Math.floor(mono.length / 2);
  const pitch = pitchOf(mono.subarray(middle, middle + 16384), sampleRate, 20, sampleRate / 4);
  if (pitch && pitch.confidence > WHISTLE) return { ok: true, value: pitch.hz, how: 'the whistle' };
  const prototype = PROTOTYPES[kind];
  if (!prototype) return fault('A corner is measured of low-passes only.');
  const points = thirdsOf(mono, sampleRate);
  if (points.length < 8)
    return fault('It is too short for noise: record a second at least, or let the filter whistle.');
  const power = prototype.power(prototype.free);
  const weight = points.reduce((sum, p) => sum + p.sure, 0);
  const misses = (hz: number): number => {
    const off = points.map((p) => p.db + 10 * Math.log10(valueOf(power, (p.hz / hz) ** 2)));
    const level = points.reduce((sum, p, i) => sum + p.sure * off[i]!, 0) / weight;
    return points.reduce((sum, p, i) => sum + p.sure * (off[i]! - level) ** 2, 0) / weight;
  };
  const value = leastBetween(misses, 20, sampleRate / 2.2);
  if (misses(value) > WORST ** 2)
    return fault(
      'It is neither a whistle nor noise through this filter: turn the resonance off and let noise alone through.',
    );
  return { ok: true, value, how: 'the corner of the noise' };
}

/** Largest deviation of a noise's spectrum from the filter's, in dB RMS. */
const WORST = 4;
/** How many dB below the loudest a band may lie: further down other things are read. */
const DEEPEST = 24;

interface Band {
  hz: number;
  db: number;
  /** How much it weighs: a band of many bins is surer than one of few, up to a point. */
  sure: number;
}

/** Mean level in thirds of an octave, in dB, from 30 Hz up. */
function thirdsOf(mono: Float32Array, sampleRate: number): Band[] {
  const size = 8192;
  const frames = Math.floor(mono.length / (size / 2)) - 1;
  if (frames < 3) return [];
  const power = new Float64Array(size / 2 + 1);
  for (let f = 0; f < frames; f++) {
    const { decibels } = spectrum(mono, sampleRate, (f * size) / 2, size);
    decibels.forEach((db, i) => (power[i]! += 10 ** (db / 10) / frames));
  }
  const binHz = sampleRate / size;
  const points: Band[] = [];
  for (let hz = 30; hz * 2 ** (1 / 6) < Math.min(18000, sampleRate / 2.3); hz *= 2 ** (1 / 3)) {
    const [from, to] = [
      Math.ceil((hz * 2 ** (-1 / 6)) / binHz),
      Math.floor((hz * 2 ** (1 / 6)) / binHz),
    ];
    if (to < from || from < 3) continue;
    const band = power.subarray(from, to + 1);
    points.push({
      hz,
      db: 10 * Math.log10(band.reduce((sum, v) => sum + v, 0) / band.length),
      sure: Math.min(8, band.length),
    });
  }
  const top = Math.max(...points.map((p) => p.db));
  return points.filter((p) => p.db > top - DEEPEST);
}

/** Where between two frequencies a figure is least: the best of 12 an octave, then ever more closely around it. */
function leastBetween(of: (hz: number) => number, lowest: number, highest: number): number {
  let best = lowest;
  for (let hz = lowest; hz <= highest; hz *= 2 ** (1 / 12)) if (of(hz) < of(best)) best = hz;
  for (let step = 1 / 24; step > 1e-5; step /= 2)
    for (const hz of [best * 2 ** -step, best * 2 ** step]) if (of(hz) < of(best)) best = hz;
  return best;
}

function pitchFrom(mono: Float32Array, sampleRate: number, note: number): MeasuredValue {
  const middle = Math.floor(mono.length / 2);
  const pitch = pitchOf(mono.subarray(middle, middle + 16384), sampleRate);
  if (!pitch || pitch.confidence < 0.8)
    return fault('It has no clear pitch: let one oscillator alone through.');
  const key = 440 * 2 ** ((note - 69) / 12);
  return { ok: true, value: 1200 * Math.log2(pitch.hz / key), how: `${pitch.hz.toFixed(2)} Hz` };
}

function rateOf(mono: Float32Array, sampleRate: number): MeasuredValue {
  const { vibrato, tremolo, sweep } = factsOf([mono], sampleRate);
  const found = vibrato ?? tremolo ?? sweep;
  return found
    ? { ok: true, value: found.rate, how: vibrato ? 'the vibrato' : 'the movement of its level' }
    : fault('Nothing moves regularly in it: let the LFO move pitch or level, for two cycles.');
}

/** What the model's times are of those that are heard, see the equation of the envelope. */
const ATTACK = Math.log(1.3 / 0.3) / Math.log(1.2 / 0.4);
const DECAY = 2;

function envelopeOf(
  what: 'attack' | 'decay' | 'sustain' | 'release',
  mono: Float32Array,
  sampleRate: number,
  { held, linear }: Played,
): MeasuredValue {
  const seconds = mono.length / sampleRate;
  if (what !== 'attack' && held === undefined) return fault('Say for how long the key was held.');
  if (what === 'release' && held! >= seconds - 0.01)
    return fault('The key was held to the end: let it ring on.');
  const middle = Math.floor(Math.min(held ?? seconds, seconds) * 0.5 * sampleRate);
  const hz = pitchOf(mono.subarray(middle, middle + 8192), sampleRate)?.hz;
  const heard = heardEnvelope(mono, sampleRate, Math.min(held ?? seconds, seconds), hz);
  const how = 'the level as it is heard';
  if (what === 'sustain') return { ok: true, value: 100 * 10 ** (heard.sustain / 20), how };
  if (what === 'attack')
    return { ok: true, value: heard.attack * (linear ? 1 / 0.8 : ATTACK), how };
  if (what === 'decay')
    return heard.decay === 0
      ? fault('It does not come down while the key is held: set the sustain to nothing.')
      : { ok: true, value: heard.decay * (linear ? 1 / 0.9 : DECAY), how };
  if (heard.outlasts) return fault('It rings longer than the recording: record it to the end.');
  return { ok: true, value: heard.release * (linear ? 1 / 0.99 : 1), how };
}
