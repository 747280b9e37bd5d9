import { WaveFile } from 'wavefile';

/** Sample formats of a WAV file: 16 and 24 bit integers, 32 bit floats. */
export const wavFormats = ['16', '24', '32f'] as const;
export type WavFormat = (typeof wavFormats)[number];

/** A mono WAV file of samples -1..1; integers are rounded and held inside their range, floats are kept as they are. */
export function encodeWav(
  samples: ArrayLike<number>,
  sampleRate: number,
  format: WavFormat,
): Uint8Array {
  const wav = new WaveFile();
  wav.fromScratch(1, sampleRate, format, toFormat(samples, format));
  return wav.toBuffer();
}

function toFormat(samples: ArrayLike<number>, format: WavFormat): ArrayLike<number> {
  if (format === '32f') return samples;
  const full = format === '16' ? 32767 : 8388607;
  const out = new Int32Array(samples.length);
  for (let i = 0; i < samples.length; i++) {
    out[i] = Math.round(Math.min(1, Math.max(-1, samples[i]!)) * full);
  }
  return out;
}
