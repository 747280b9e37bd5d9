import { plotSvg, spectrum, toBands } from '@hurrel/core';

/** What a drawing of a sound shows. */
export type Drawn = 'wave' | 'spectrum';

/** Sample at which a drawing begins, at 48 kHz: the attack is over. */
const FROM = 24000;
const NOTE = 'One note of a model of the instrument, computed by Hurrel';

/** A sound at 48 kHz as a drawing with axes and units, as SVG. */
export function drawSound(name: string, kind: Drawn, samples: Float32Array): string {
  return kind === 'spectrum' ? drawSpectrum(name, samples) : drawWave(name, samples);
}

function drawSpectrum(name: string, samples: Float32Array): string {
  const bands = toBands(spectrum(samples, 48000, FROM, 16384), 20, 20000, 600);
  return plotSvg({
    title: `${name}: spectrum`,
    note: NOTE,
    x: {
      label: 'Hz',
      from: 20,
      to: 20000,
      log: true,
      ticks: [20, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000],
    },
    y: { label: 'dB', from: -100, to: 0, ticks: [-100, -80, -60, -40, -20, 0] },
    points: bands.map((b) => [b.hz, b.db]),
  });
}

function drawWave(name: string, samples: Float32Array): string {
  const part = samples.subarray(FROM, FROM + 2400);
  return plotSvg({
    title: `${name}: waveform`,
    note: NOTE,
    x: { label: 'ms', from: 0, to: 50, ticks: [0, 10, 20, 30, 40, 50] },
    y: { label: 'V', from: -10, to: 10, ticks: [-10, -5, 0, 5, 10] },
    points: Array.from(part, (v, i) => [i / 48, 10 * v] as const),
  });
}
