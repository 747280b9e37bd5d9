import { fundamentalOf } from '../../measure/pitch';
import { benchGraph, record } from '../../testing/bench';
import type { ModuleKind } from '../../circuit';
import { ladderLoopGain } from './ladders';
import { twoPoleDamping } from './two-pole';

const RATE = 48000;

/** Gain in dB of a filter for a quiet sine, measured over whole periods once it has settled. */
function gainAt(kind: ModuleKind, params: Record<string, number>, hz: number): number {
  const interval = 12 * Math.log2(hz / 440);
  const graph = benchGraph(
    {
      keys: ['keyboard'],
      osc: ['oscillator', { wave: 'sine', interval }],
      quiet: ['attenuator', { gain: 0.01 }],
      filter: [kind, params],
      out: ['output'],
    },
    [
      'keys.pitch1 > osc.pitch',
      'osc.out > quiet.in',
      'quiet.out > filter.in',
      'filter.out > out.in',
    ],
    'out',
  );
  const seconds = Math.max(0.4, 60 / hz);
  const from = Math.round(RATE * seconds * 0.5);
  const periods = Math.floor((seconds * 0.5 - 0.01) * hz);
  const length = Math.round((periods * RATE) / hz);
  const amplitude = (samples: Float64Array): number => {
    let [re, im] = [0, 0];
    for (let i = 0; i < length; i++) {
      const angle = (2 * Math.PI * hz * i) / RATE;
      re += samples[from + i]! * Math.cos(angle);
      im += samples[from + i]! * Math.sin(angle);
    }
    return Math.hypot(re, im);
  };
  const put = amplitude(record(graph, 'quiet.out', seconds));
  const got = amplitude(record(graph, 'filter.out', seconds));
  return 20 * Math.log10(got / put);
}

describe('level at the cutoff', () => {
  it.each([40, 400, 4000, 12000])('two poles at %p Hz: -3.01 dB', (cutoff) => {
    expect(Math.abs(gainAt('low-pass-12', { cutoff, resonance: 0 }, cutoff) + 3.01)).toBeLessThan(
      0.1,
    );
  });
  it.each([40, 400, 4000, 12000])('four poles at %p Hz: -12.04 dB', (cutoff) => {
    expect(Math.abs(gainAt('low-pass-24', { cutoff, resonance: 0 }, cutoff) + 12.04)).toBeLessThan(
      0.1,
    );
  });
  it('high-pass at 400 Hz: -3.01 dB', () => {
    expect(Math.abs(gainAt('high-pass-12', { cutoff: 400 }, 400) + 3.01)).toBeLessThan(0.1);
  });
});

describe('slope against the analogue prototype, two octaves above the cutoff', () => {
  const two = (w: number): number => -10 * Math.log10((1 - w * w) ** 2 + 2 * w * w);
  const four = (w: number): number => -80 * Math.log10(Math.hypot(1, w));
  it.each([100, 1000])('cutoff %p Hz', (cutoff) => {
    for (const w of [1.5, 2, 3, 4]) {
      expect(
        Math.abs(gainAt('low-pass-12', { cutoff, resonance: 0 }, w * cutoff) - two(w)),
      ).toBeLessThan(1);
      expect(
        Math.abs(gainAt('low-pass-24', { cutoff, resonance: 0 }, w * cutoff) - four(w)),
      ).toBeLessThan(1);
    }
  });
});

describe('resonance', () => {
  it('raises the two-pole filter at its cutoff by Q', () => {
    const resonance = 0.8;
    const q = 1 / twoPoleDamping(resonance);
    expect(gainAt('low-pass-12', { cutoff: 500, resonance }, 500)).toBeCloseTo(
      20 * Math.log10(q),
      1,
    );
    expect(twoPoleDamping(0)).toBeCloseTo(Math.SQRT2, 12);
    expect(1 / twoPoleDamping(1)).toBeCloseTo(25, 9);
  });

  it('takes bass from the ladder: the passband falls by 1/(1+k)', () => {
    const k = ladderLoopGain(0.5);
    expect(gainAt('low-pass-24', { cutoff: 4000, resonance: 0.5 }, 50)).toBeCloseTo(
      -20 * Math.log10(1 + k),
      1,
    );
  });

  it.each([60, 440, 2000, 8000])(
    'lets the ladder whistle at its cutoff of %p Hz, within 3 cents',
    (cutoff) => {
      const graph = benchGraph(
        { filter: ['low-pass-24', { cutoff, resonance: 1 }], out: ['output'] },
        ['filter.out > out.in'],
        'out',
      );
      const sound = record(graph, 'filter.out', 3).subarray(2.5 * RATE);
      expect(Math.max(...sound)).toBeGreaterThan(0.5);
      expect(Math.max(...sound)).toBeLessThan(20);
      const from = sound.subarray(0, 8000);
      const found = fundamentalOf(from, RATE, cutoff * 0.7, cutoff * 1.4)!;
      // The finder itself is coarse for short periods: count crossings there.
      let [count, first, last] = [0, 0, 0];
      for (let i = 0; i < sound.length - 1; i++) {
        if (sound[i]! < 0 && sound[i + 1]! >= 0) {
          last = i + sound[i]! / (sound[i]! - sound[i + 1]!);
          if (count++ === 0) first = last;
        }
      }
      const counted = ((count - 1) * RATE) / (last - first);
      expect(Math.abs(1200 * Math.log2(counted / cutoff))).toBeLessThan(3);
      expect(Math.abs(1200 * Math.log2(found / counted))).toBeLessThan(30);
    },
  );

  it('does not whistle below a loop gain of 4', () => {
    const graph = benchGraph(
      { filter: ['low-pass-24', { cutoff: 440, resonance: 0.9 }], out: ['output'] },
      ['filter.out > out.in'],
      'out',
    );
    expect(Math.max(...record(graph, 'filter.out', 2).subarray(RATE))).toBeLessThan(0.01);
  });
});
