import { amplitudeAt } from '../testing/bench';
import { TwiceRate } from './halfband';

const RATE = 48000;
const SIZE = 9600;
const tone = (hz: number): Float64Array =>
  Float64Array.from({ length: SIZE }, (_, i) => Math.sin((2 * Math.PI * hz * i) / RATE));
/** Of a sound whose tones fit it exactly. */
const level = (sound: Float64Array, hz: number, rate = RATE): number =>
  db((2 * amplitudeAt(sound, hz, rate)) / sound.length);
const db = (ratio: number): number => 20 * Math.log10(ratio);

describe('twice the rate and back', () => {
  it('leaves what lies under 20 kHz as loud as it was', () => {
    for (const hz of [100, 1000, 10000, 19000]) {
      const twice = new TwiceRate(SIZE);
      const out = new Float64Array(SIZE);
      twice.up(tone(hz), 0, SIZE);
      twice.down(out, 0, SIZE);
      expect(level(out.subarray(4800), hz)).toBeCloseTo(0, 3);
    }
  });

  it('has no image of it 64 dB and more below', () => {
    for (const hz of [1000, 10000, 19000]) {
      const twice = new TwiceRate(SIZE);
      twice.up(tone(hz), 0, SIZE);
      const settled = twice.samples.subarray(9600);
      expect(level(settled, hz, 2 * RATE)).toBeCloseTo(0, 2);
      expect(level(settled, RATE - hz, 2 * RATE)).toBeLessThan(-64);
    }
  });

  it('folds nothing of what lies over 28 kHz back, but for 64 dB', () => {
    const twice = new TwiceRate(SIZE);
    for (let i = 0; i < 2 * SIZE; i++)
      twice.samples[i] = Math.sin((2 * Math.PI * 30000 * i) / (2 * RATE));
    const out = new Float64Array(SIZE);
    twice.down(out, 0, SIZE);
    expect(level(out.subarray(4800), 18000)).toBeLessThan(-64);
  });

  it('does a sample at a time what it does in stretches', () => {
    const input = tone(3210);
    const [whole, bit] = [new TwiceRate(SIZE), new TwiceRate(SIZE)];
    const [a, b] = [new Float64Array(SIZE), new Float64Array(SIZE)];
    whole.up(input, 0, SIZE);
    whole.down(a, 0, SIZE);
    for (let i = 0; i < SIZE; i++) {
      bit.up(input, i, i + 1);
      bit.down(b, i, i + 1);
    }
    expect(b).toEqual(a);
  });
});
