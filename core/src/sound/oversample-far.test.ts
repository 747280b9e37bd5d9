import { amplitudeAt } from '../testing/bench';
import { FAR_LATE, FarDownsampler, FarUpsampler } from './oversample-far';

const RATE = 48000;
const SIZE = 4800;
const tone = (hz: number, count = SIZE, rate = RATE): Float64Array =>
  Float64Array.from({ length: count }, (_, i) => Math.sin((2 * Math.PI * hz * i) / rate));
/** Of a sound whose tones fit its second half exactly. */
function level(sound: Float64Array, hz: number, rate = RATE): number {
  const settled = sound.subarray(sound.length / 2);
  return 20 * Math.log10((2 * amplitudeAt(settled, hz, rate)) / settled.length);
}

/** Under the sound, in dB. */
const UNDER = -98;
const late = FAR_LATE;

describe.each([16, 32] as const)('%d times the rate', (factor) => {
  const pair = () => [new FarUpsampler(factor), new FarDownsampler(factor)] as const;
  const upOf = (sound: Float64Array): Float64Array => {
    const into = new Float64Array(factor * sound.length);
    pair()[0].up(sound, 0, sound.length, into);
    return into;
  };
  const downOf = (sound: Float64Array): Float64Array => {
    const into = new Float64Array(sound.length / factor);
    pair()[1].down(sound, into, 0, into.length);
    return into;
  };

  it('has no image of what lies under 20 kHz', () => {
    for (const hz of [1000, 10000, 20000]) {
      const above = upOf(tone(hz));
      for (const image of [RATE - hz, RATE + hz, 2 * RATE - hz]) {
        expect(level(above, image, factor * RATE)).toBeLessThan(UNDER);
      }
    }
  });

  it('folds nothing back that lies over 28 kHz', () => {
    for (const hz of [28000, 40000, 47000, 96000 - 7000]) {
      const sound = downOf(tone(hz, factor * SIZE, factor * RATE));
      const folded = Math.abs(hz - RATE * Math.round(hz / RATE));
      expect([hz, level(sound, folded) < UNDER]).toEqual([hz, true]);
    }
  });

  it('does in bits what it does in one go', () => {
    const input = tone(3210);
    const [up, down] = pair();
    const above = new Float64Array(factor * SIZE);
    const out = new Float64Array(SIZE);
    for (let i = 0; i < SIZE; i += 7) {
      up.up(input, i, Math.min(SIZE, i + 7), above);
      down.down(above, out, i, Math.min(SIZE, i + 7));
    }
    expect(above).toEqual(upOf(input));
    expect(out).toEqual(downOf(above));
  });

  it('makes a sound late by whole samples, and no quieter up to 18 kHz', () => {
    for (const hz of [100, 3000, 18000]) {
      const above = upOf(tone(hz));
      const out = downOf(above);
      const wanted = tone(hz);
      const off = Array.from(out.subarray(SIZE / 2, SIZE), (v, i) =>
        Math.abs(v - wanted[SIZE / 2 + i - late]!),
      );
      expect(Math.max(...off)).toBeLessThan(1e-4);
    }
  });
});
