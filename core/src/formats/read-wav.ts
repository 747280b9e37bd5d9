import { WaveFile } from 'wavefile';

/** A recording: one Float32Array a channel, -1..1. */
export interface Recording {
  sampleRate: number;
  channels: Float32Array[];
}

/** Why a file is no WAV that can be used; `message` is fit to be shown. */
export class WavError extends Error {}

const LONGEST_BYTES = 512 * 1024 * 1024;
/** How samples are coded, by the numbers that stand in the fmt chunk. */
const PCM = 1;
const FLOAT = 3;
const EXTENSIBLE = 65534;

interface Format {
  sampleRate: number;
  numChannels: number;
  audioFormat: number;
  subformat: number[];
}

const KINDS = new Set(['8', '16', '24', '32', '32f', '64']);

/**
 * Reads a WAV file: 8, 16, 24 or 32-bit integers, 32 or 64-bit floats, any rate, one or two channels (of more, the first
 * two).
 * @throws WavError with the reason, and where in the file it is
 */
export function decodeWav(bytes: Uint8Array): Recording {
  const { wav, sampleRate, channels: numChannels } = open(bytes, true);
  const raw = wav.getSamples(false, Float64Array) as unknown as Float64Array | Float64Array[];
  const all = numChannels === 1 ? [raw as Float64Array] : (raw as Float64Array[]);
  if (!all[0] || all[0].length === 0) throw new WavError('The data chunk holds no samples.');
  const channels = all.slice(0, 2).map((c) => scaled(c, wav.bitDepth));
  const bad = channels.findIndex((c) => c.some((v) => !Number.isFinite(v)));
  if (bad >= 0) {
    const at = channels[bad]!.findIndex((v) => !Number.isFinite(v));
    throw new WavError(`Sample ${at} of channel ${bad + 1} is no number.`);
  }
  return { sampleRate, channels };
}

/** Where the samples are, in bytes, and which way round their bytes stand. */
interface Data {
  at: number;
  size: number;
  little: boolean;
}

/** What a WAV file says of itself. */
export interface WavFacts {
  sampleRate: number;
  channels: number;
  seconds: number;
  /** Kind of the samples: 8, 16, 24, 32, 32f or 64 (a float too). */
  depth: string;
  data: Data;
}

/**
 * Reads a WAV file's header; nothing is decoded or copied.
 * @param bytes its beginning, with all that stands before the samples
 * @param length bytes of the whole file, `Infinity` while that is not known
 * @throws WavError as `decodeWav` does
 */
export function wavFacts(bytes: Uint8Array, length = bytes.length): WavFacts {
  const { wav, sampleRate, channels, data } = open(bytes, false, length);
  const width = Math.ceil(Number.parseInt(wav.bitDepth, 10) / 8);
  const frames = Math.floor(data.size / (width * channels));
  if (frames === 0) throw new WavError('The data chunk holds no samples.');
  return { sampleRate, channels, seconds: frames / sampleRate, depth: wav.bitDepth, data };
}

/**
 * Looks through floats for what is no number.
 * @param bytes a piece of the file that begins at byte `from`; samples that it cuts are left out
 * @throws WavError with the sample
 */
export function checkSamples(facts: WavFacts, bytes: Uint8Array, from: number): void {
  const width = facts.depth === '32f' ? 4 : facts.depth === '64' ? 8 : 0;
  if (width === 0) return;
  const { at, size, little } = facts.data;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const first = Math.max(0, Math.ceil((from - at) / width));
  const last = Math.floor((Math.min(from + bytes.length, at + size) - at) / width);
  for (let i = first; i < last; i++) {
    const here = at + i * width - from;
    const v = width === 4 ? view.getFloat32(here, little) : view.getFloat64(here, little);
    if (Number.isFinite(v) || i % facts.channels > 1) continue;
    const frame = Math.floor(i / facts.channels);
    throw new WavError(`Sample ${frame} of channel ${(i % facts.channels) + 1} is no number.`);
  }
}

function open(bytes: Uint8Array, samples: boolean, length = bytes.length) {
  const data = check(bytes, length);
  const wav = new WaveFile();
  try {
    wav.fromBuffer(bytes, samples);
  } catch (error) {
    throw new WavError(
      `The file is damaged: ${error instanceof Error ? error.message : 'unreadable'}.`,
    );
  }
  const { sampleRate, numChannels, ...fmt } = wav.fmt as Format;
  // A file of many channels names its coding in the first number of a longer field.
  const coding = fmt.audioFormat === EXTENSIBLE ? fmt.subformat[0] : fmt.audioFormat;
  if (coding !== PCM && coding !== FLOAT) {
    throw new WavError(
      `The samples are compressed, or of a coding that is not read (number ${coding ?? 'unknown'} in the fmt chunk): save it as 16 or 24 bit, or 32-bit float.`,
    );
  }
  if (!KINDS.has(wav.bitDepth)) {
    throw new WavError(
      `Samples of kind "${wav.bitDepth}" are not read: save it as 16 or 24 bit, or 32-bit float.`,
    );
  }
  if (!(sampleRate >= 1000 && sampleRate <= 768000)) {
    throw new WavError(`A sample rate of ${sampleRate} Hz in the fmt chunk makes no sense.`);
  }
  if (numChannels < 1) throw new WavError('The fmt chunk speaks of no channels.');
  return { wav, sampleRate, channels: numChannels, data };
}

/** Refuses what the reader itself would take without a word; gives where the samples are, and how many bytes they take. */
function check(bytes: Uint8Array, length: number): Data {
  if (bytes.length > LONGEST_BYTES) throw new WavError('The file is larger than 512 MB.');
  const tag = (at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));
  if (bytes.length < 12 || !['RIFF', 'RIFX', 'RF64'].includes(tag(0)) || tag(8) !== 'WAVE') {
    throw new WavError('This is no WAV file: it does not begin with RIFF and WAVE.');
  }
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const little = tag(0) !== 'RIFX';
  let at = 12;
  let format = false;
  while (at + 8 <= bytes.length) {
    const size = view.getUint32(at + 4, little);
    if (tag(at) === 'fmt ') {
      if (size < 16) throw new WavError(`The fmt chunk at byte ${at} is cut short.`);
      format = true;
    }
    if (tag(at) === 'data') {
      if (!format) throw new WavError(`The data chunk at byte ${at} comes before any fmt chunk.`);
      if (tag(0) !== 'RF64' && at + 8 + size > length) {
        throw new WavError(
          `The file ends early: the data chunk at byte ${at} speaks of ${size} bytes, ${length - at - 8} are there.`,
        );
      }
      return { at: at + 8, size: Math.min(size, length - at - 8), little };
    }
    at += 8 + size + (size % 2);
  }
  throw new WavError('There is no data chunk: the file holds no sound.');
}

function scaled(samples: Float64Array, depth: string): Float32Array {
  const out = new Float32Array(samples.length);
  const bits = Number.parseInt(depth, 10);
  const float = depth === '32f' || depth === '64';
  const by = float ? 1 : 1 / 2 ** (bits - 1);
  const middle = depth === '8' ? 128 : 0;
  for (let i = 0; i < out.length; i++) out[i] = (samples[i]! - middle) * by;
  return out;
}
