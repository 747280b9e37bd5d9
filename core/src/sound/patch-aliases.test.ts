import FFT from 'fft.js';
import { compile } from '../circuit';
import { initWith, sluice } from '../testing/sluice';
import { kaiser } from './band-limit';
import { render } from './render';

const RATE = 48000;
const SIZE = 65536;
/** Bins to each side of a harmonic that its window spreads it over. */
const SPREAD = 6;
const fft = new FFT(SIZE);
const window = Float64Array.from({ length: SIZE }, (_, i) => kaiser((2 * i) / SIZE - 1, 14));

/** The loudest of what is no harmonic of `hz`, 60 Hz to 16 kHz, in dB under the loudest harmonic. */
function aliases(sound: Float32Array, hz: number): number {
  const out = fft.createComplexArray();
  fft.realTransform(
    out,
    window.map((w, i) => w * sound[i]!),
  );
  const harmonicBins = (hz * SIZE) / RATE;
  let [harmonic, other] = [0, 0];
  for (let bin = Math.ceil((60 * SIZE) / RATE); bin < (16000 * SIZE) / RATE; bin++) {
    const size = Math.hypot(out[2 * bin]!, out[2 * bin + 1]!);
    const from = Math.abs(bin - harmonicBins * Math.round(bin / harmonicBins));
    if (from < SPREAD) harmonic = Math.max(harmonic, size);
    else other = Math.max(other, size);
  }
  return 20 * Math.log10(other / harmonic);
}

/** One saw at its loudest in the mixer, through everything that the instrument has, held. */
function heard(board: string, hz: number, values: Record<string, number>): Float32Array {
  const patch = initWith(
    {
      'osc1-shape': 'saw',
      'osc1-octave': 'f8',
      'mix-osc1': 1,
      'mix-osc2': 0,
      'mix-ring': 0,
      'mix-noise': 0,
      'filter-amount': 0.5,
      'high-pass': 0,
      'env1-attack': 0,
      'env1-sustain': 1,
      tracking: 'none',
      ...values,
    },
    { revision: board },
  );
  const notes = [{ note: 69 + 12 * Math.log2(hz / 440), start: 0, duration: 10, velocity: 100 }];
  const { samples } = render(compile(sluice, patch), { sampleRate: RATE, seconds: 2.4, notes });
  return samples.subarray(RATE);
}

/** Where a cutoff knob of 20 Hz to 20 kHz stands. */
const cutoffAt = (hz: number): number => Math.log(hz / 20) / Math.log(1000);

describe('a whole patch', () => {
  it.each(['board-a', 'board-b', 'board-c'])(
    '%s: a saw of 5 V folds down nothing within 80 dB, 110 to 1760 Hz, at any cutoff and resonance',
    (board) => {
      for (const hz of [110, 440, 1760]) {
        for (const cutoff of [1000, 4000, 12000].map(cutoffAt)) {
          for (const resonance of [0, 0.3, 0.6])
            expect(aliases(heard(board, hz, { cutoff, resonance, drive: 0 }), hz)).toBeLessThan(
              -80,
            );
        }
      }
    },
  );

  it.each([110, 440, 1760])('driven by 20 and 30 dB at %i Hz: nothing within 80 dB', (hz) => {
    for (const cutoff of [1000, 4000, 12000].map(cutoffAt)) {
      for (const drive of [2 / 3, 1]) {
        const sound = heard('board-a', hz, { cutoff, resonance: 0, drive });
        expect(aliases(sound, hz)).toBeLessThan(-80);
      }
    }
  });
});
