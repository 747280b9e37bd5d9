import { poleModes, VOWELS } from '../../catalogue/tone';
import {
  amplitudeAt,
  benchGraph,
  countedHz,
  impulseResponse,
  peakBetween,
  record,
} from '../../testing/bench';

const RATE = 48000;
const db = (ratio: number): number => 20 * Math.log10(ratio);

/** Complex numbers as pairs. */
type C = [number, number];
const times = ([a, b]: C, [c, d]: C): C => [a * c - b * d, a * d + b * c];
const plus = ([a, b]: C, [c, d]: C): C => [a + c, b + d];
const size = ([a, b]: C): number => Math.hypot(a, b);
const over = (a: C, b: C): number => size(a) / size(b);
const power = (p: C, n: number): C =>
  Array.from({ length: n }).reduce<C>((sum) => times(sum, p), [1, 0]);

describe('a two-pole filter that overloads', () => {
  const wanted = (mode: string, x: number, resonance: number): number => {
    const k = Math.SQRT2 * (1 - 1.1 * resonance);
    const below = Math.hypot(1 - x * x, k * x);
    return { low: 1, band: Math.SQRT2 * x, high: x * x }[mode]! / below;
  };

  it.each(['low', 'band', 'high'])('%s: is its prototype while it is quiet', (mode) => {
    for (const resonance of [0, 0.5, 0.8]) {
      for (const cutoff of [100, 1000, 6000]) {
        const sound = impulseResponse('overload-12', { mode, cutoff, resonance }, 0.3);
        for (const x of [0.5, 1, 1.6]) {
          const found = amplitudeAt(sound, x * cutoff) / 1e-3;
          expect(Math.abs(db(found / wanted(mode, x, resonance)))).toBeLessThan(0.3);
        }
      }
    }
  });

  it('whistles at 5 V and at its cutoff, without anything at its input', () => {
    const graph = benchGraph(
      { m: ['overload-12', { cutoff: 700, resonance: 1 }], out: ['output'] },
      ['m.out > out.in'],
      'out',
    );
    const sound = record(graph, 'm.out', 2).subarray(RATE);
    expect(Math.max(...sound)).toBeGreaterThan(4.8);
    expect(Math.max(...sound)).toBeLessThan(5.2);
    expect(Math.abs(1200 * Math.log2(countedHz(sound) / 700))).toBeLessThan(5);
  });

  it('holds what is loud at 5 V, long before the supply ends', () => {
    const graph = benchGraph(
      {
        o: ['lfo', { shape: 'sine', rate: 100 }],
        a: ['attenuator', { gain: 4 }],
        m: ['overload-12', { cutoff: 20000 }],
        out: ['output'],
      },
      ['o.out > a.in', 'a.out > m.in', 'm.out > out.in'],
      'out',
    );
    const most = Math.max(...record(graph, 'm.out', 0.1).subarray(RATE / 20));
    // 20 V into 5 u/sqrt(1 + u^2), u = 4.
    expect(most).toBeGreaterThan(4.75);
    expect(most).toBeLessThan(4.95);
  });
});

describe('a ladder whose poles are mixed', () => {
  it.each(poleModes)('%s: is its prototype while it is quiet', (mode) => {
    for (const resonance of [0, 0.6]) {
      for (const cutoff of [200, 2000]) {
        const sound = impulseResponse('four-pole', { mode, cutoff, resonance }, 0.3);
        for (const x of [0.3, 1, 2]) {
          const p: C = [1 / (1 + x * x), -x / (1 + x * x)];
          const q: C = [1 - p[0], -p[1]];
          const n = mode.endsWith('24') ? 2 : 1;
          const top = {
            low: power(p, 2 * n),
            high: power(q, 2 * n),
            band: times([2 ** n, 0], times(power(p, n), power(q, n))),
          }[mode.split('-')[0] as 'low' | 'high' | 'band'];
          const k = 4.4 * resonance;
          const wanted = over(top, plus([1, 0], times([k, 0], power(p, 4))));
          const found = amplitudeAt(sound, x * cutoff) / 1e-3;
          expect(Math.abs(db(found / wanted))).toBeLessThan(0.3);
        }
      }
    }
  });
});

describe('a comb', () => {
  it.each([
    [60, 20000],
    [440, 20000],
    [440, 4000],
    [1500, 20000],
  ])('rings at %d Hz with damping at %d Hz', (frequency, damping) => {
    const params = { frequency, damping, feedback: 99, mix: 100 };
    const sound = impulseResponse('comb', params, 1.2);
    const found = peakBetween((hz) => amplitudeAt(sound, hz), 0.97 * frequency, 1.03 * frequency);
    expect(Math.abs(1200 * Math.log2(found / frequency))).toBeLessThan(damping < 20000 ? 8 : 2);
  });

  it('with feedback below nothing rings at the odd harmonics of half its pitch', () => {
    const sound = impulseResponse('comb', { frequency: 440, feedback: -95, mix: 100 }, 1);
    expect(amplitudeAt(sound, 220)).toBeGreaterThan(20 * amplitudeAt(sound, 440));
    expect(amplitudeAt(sound, 660)).toBeGreaterThan(20 * amplitudeAt(sound, 440));
  });

  it('follows the keys', () => {
    const graph = benchGraph(
      {
        x: ['external'],
        v: ['offset', { volts: 1 }],
        m: ['comb', { frequency: 220, track: 100, feedback: 98, mix: 100 }],
        out: ['output'],
      },
      ['x.out > m.in', 'v.out > m.pitch', 'm.out > out.in'],
      'out',
    );
    const click = new Float32Array([1e-3]);
    const sound = record(graph, 'm.out', 1, { notes: [], external: [click, click] });
    const found = peakBetween((hz) => amplitudeAt(sound, hz), 430, 450);
    expect(Math.abs(1200 * Math.log2(found / 440))).toBeLessThan(2);
  });
});

describe('a formant filter', () => {
  it.each([0, 1, 2, 3, 4])('vowel %d stands where its table says', (vowel) => {
    const sound = impulseResponse('formant', { vowel, sharpness: 3 }, 0.4);
    VOWELS[vowel]!.hz.forEach((hz, band) => {
      // The third of a dark vowel lies beneath the slope of the first.
      if (VOWELS[vowel]!.db[band]! < -30) return;
      const found = peakBetween((f) => amplitudeAt(sound, f), 0.9 * hz, 1.1 * hz);
      expect(Math.abs(found / hz - 1)).toBeLessThan(0.04);
      const level = db(amplitudeAt(sound, hz) / 1e-3);
      expect(Math.abs(level - VOWELS[vowel]!.db[band]!)).toBeLessThan(3.5);
    });
  });

  it('a mouth that is an octave smaller speaks an octave higher', () => {
    const at = (shift: number) => impulseResponse('formant', { vowel: 4, shift }, 0.4);
    const [normal, small] = [at(0), at(12)];
    for (const hz of [200, 270, 400, 1500])
      expect(db(amplitudeAt(small, 2 * hz) / amplitudeAt(normal, hz))).toBeCloseTo(0, 0);
  });
});
