import { WaveFile } from 'wavefile';

/** Sample formats of a WAV file: 16 and 24 bit integers, 32 bit floats. */
export const wavFormats = ['16', '24', '32f'] as const;
export type WavFormat = (typeof wavFormats)[number];

/**
 * A WAV file of samples -1..1, one channel or two of the same length; integers are rounded and held inside their range,
 * floats are kept as they are.
 */
export function encodeWav(
  sound: ArrayLike<number> | readonly ArrayLike<number>[],
  sampleRate: number,
  format: WavFormat,
): Uint8Array {
  const channels =
    typeof sound[0] === 'object' ? (sound as ArrayLike<number>[]) : [sound as ArrayLike<number>];
  const wav = new WaveFile();
  const samples = channels.map((c) => toFormat(c, format));
  // Floats go in as the integers that have their bits: the package packs these several times as fast.
  wav.fromScratch(
    channels.length,
    sampleRate,
    format === '32f' ? '32' : format,
    channels.length === 1 ? samples[0]! : samples,
  );
  if (format === '32f') {
    wav.bitDepth = '32f';
    (wav.fmt as { audioFormat: number }).audioFormat = FLOAT;
  }
  return wav.toBuffer();
}

/** Code of floating point samples in a fmt chunk. */
const FLOAT = 3;

function toFormat(samples: ArrayLike<number>, format: WavFormat): Int32Array {
  if (format === '32f') return new Int32Array(Float32Array.from(samples).buffer);
  const full = format === '16' ? 32767 : 8388607;
  const out = new Int32Array(samples.length);
  for (let i = 0; i < samples.length; i++) {
    out[i] = Math.round(Math.min(1, Math.max(-1, samples[i]!)) * full);
  }
  return out;
}
