import { heardEnvelope, type HeardEnvelope } from './heard-envelope';
import { peakOf } from './level';
import { loudnessOf } from './loudness';
import { type Pitch, pitchOf } from './pitch';
import { beatRateOf, type Modulation, sweepOf, tremoloOf, vibratoOf } from './modulation';
import { centroidOf, harmonicsOf, widthOf } from './timbre';

/** What can be told of a sound by measuring it. */
export interface SoundFacts {
  seconds: number;
  /** Undefined when there is no clear pitch. */
  pitch?: Pitch;
  /** Power of the harmonics over everything else, in dB. */
  overNoise?: number;
  /** Mean frequency by amplitude, in Hz. */
  centroid: number;
  envelope: HeardEnvelope;
  /** Highest sample, in dB against full scale. */
  peak: number;
  /** Loudness in LUFS. */
  loudness: number;
  vibrato?: Modulation;
  tremolo?: Modulation;
  sweep?: Modulation;
  beats?: number;
  /** 0 mono to 1 turned over. */
  width: number;
}

/** Confidence from which on a pitch is taken for one. */
const SURE = 0.8;

/** Lowest pitch that is looked for where there is none in the range of notes: a sub oscillator's, octaves below the key. */
const LOWEST = 7;
/** Where the range of notes begins, in Hz. */
const NOTES_FROM = 25;

/** The clear pitch of what begins here: a note's, or else one as low as 7 Hz, for which a longer stretch is taken. */
function surePitch(samples: Float32Array, sampleRate: number): Pitch | undefined {
  const note = pitchOf(samples.subarray(0, 8192), sampleRate);
  if (note && note.confidence >= SURE) return note;
  const low = pitchOf(samples.subarray(0, 16384), sampleRate, LOWEST, NOTES_FROM);
  return low && low.confidence >= SURE ? low : undefined;
}

/**
 * Measures a sound of one or two channels, -1..1.
 * @param released second at which its key was let go; the end of the sound when there was none
 */
export function factsOf(
  channels: readonly Float32Array[],
  sampleRate: number,
  released = (channels[0]?.length ?? 0) / sampleRate,
): SoundFacts {
  const [left, right] = [channels[0] ?? new Float32Array(1), channels[1]];
  const mono = right ? left.map((v, i) => (v + right[i]!) / 2) : left;
  const held = mono.subarray(0, Math.max(1, Math.round(released * sampleRate)));
  const from = Math.max(0, Math.min(mono.length - 16384, Math.round(0.4 * held.length)));
  const pitch = surePitch(mono.subarray(from), sampleRate);
  const peak = Math.max(peakOf(left), right ? peakOf(right) : 0);
  // The first tenth is the attack: movement is looked for behind it.
  const steady = held.subarray(Math.round(held.length / 10));
  // Below the range of notes a movement of the pitch would be as quick as the pitch itself.
  const note = pitch && pitch.hz >= NOTES_FROM ? pitch : undefined;
  const vibrato = note && vibratoOf(steady, sampleRate, note.hz);
  const tremolo = tremoloOf(steady, sampleRate, pitch?.hz);
  const sweep = sweepOf(steady, sampleRate);
  const beats = note && beatRateOf(steady, sampleRate, note.hz);
  return {
    seconds: mono.length / sampleRate,
    ...(pitch ? { pitch, overNoise: harmonicsOf(mono, sampleRate, pitch.hz, from).overNoise } : {}),
    centroid: centroidOf(held, sampleRate),
    envelope: heardEnvelope(mono, sampleRate, released, pitch?.hz),
    peak: 20 * Math.log10(Math.max(1e-6, peak)),
    loudness: loudnessOf(channels, sampleRate),
    ...(vibrato ? { vibrato } : {}),
    ...(tremolo ? { tremolo } : {}),
    ...(sweep ? { sweep } : {}),
    ...(beats ? { beats } : {}),
    width: right ? widthOf(left, right) : 0,
  };
}
