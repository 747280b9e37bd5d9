import type { ModuleKind } from '../../catalogue/index';
import {
  amplitudeAt,
  benchGraph,
  countedHz,
  impulseResponse,
  peakBetween,
  record,
} from '../../testing/bench';
import {
  diodeLoopGain,
  diodePoles,
  ladderLoopGain,
  threePoleDamping,
} from '../../theory/prototypes';
import { twoPoleDamping } from '../../theory/prototypes';

const RATE = 48000;
type Complex = readonly [number, number];
const times = (a: Complex, b: Complex): Complex => [
  a[0] * b[0] - a[1] * b[1],
  a[0] * b[1] + a[1] * b[0],
];
const plus = (a: Complex, b: number): Complex => [a[0] + b, a[1]];
const size = (a: Complex): number => Math.hypot(a[0], a[1]);

/** Magnitudes of the analogue prototypes at w = f/fc, by resonance. */
const prototypes: Record<string, (w: number, resonance: number) => number> = {
  'low-pass-12': (w, r) => 1 / Math.hypot(1 - w * w, twoPoleDamping(r) * w),
  'low-pass-18': (w, r) => 1 / size(times([1, w], [1 - w * w, threePoleDamping(r) * w])),
  'low-pass-24': (w, r) => {
    const two = times([1, w], [1, w]);
    return 1 / size(plus(times(two, two), ladderLoopGain(r)));
  },
  diode: (w, r) => {
    const all = diodePoles.reduce<Complex>((h, p) => times(h, [1, w / p]), [1, 0]);
    return 1 / size(plus(all, diodeLoopGain(r)));
  },
};
const kinds = Object.keys(prototypes) as ModuleKind[];
const db = (ratio: number): number => 20 * Math.log10(ratio);
const response = (kind: ModuleKind, cutoff: number, resonance: number, seconds = 0.4) => {
  const sound = impulseResponse(kind, { cutoff, resonance }, seconds);
  return (hz: number): number => amplitudeAt(sound, hz) / 1e-3;
};

describe('level at the cutoff is within 0.25 dB of the prototype', () => {
  it.each(kinds)('%s, 40 Hz to 12 kHz', (kind) => {
    for (const resonance of [0, 0.05, 0.1, 0.4, 0.7]) {
      for (const cutoff of [40, 333, 1000, 5000, 12000]) {
        const found = db(response(kind, cutoff, resonance)(cutoff));
        const wanted = db(prototypes[kind]!(1, resonance));
        expect(Math.abs(found - wanted)).toBeLessThan(0.25);
      }
    }
  });

  it('is -3.01, -3.01 and -12.04 dB with no resonance', () => {
    for (const [kind, level] of [
      ['low-pass-12', -3.01],
      ['low-pass-18', -3.01],
      ['low-pass-24', -12.04],
    ] as const) {
      expect(db(response(kind, 500, 0)(500))).toBeCloseTo(level, 1);
    }
  });
});

describe('slope', () => {
  it.each(kinds)('%s is within 1 dB of the prototype two octaves above, to 1 kHz', (kind) => {
    for (const cutoff of [60, 250, 1000]) {
      const at = response(kind, cutoff, 0.3);
      for (const w of [1.5, 2, 3, 4]) {
        expect(Math.abs(db(at(w * cutoff)) - db(prototypes[kind]!(w, 0.3)))).toBeLessThan(1);
      }
    }
  });
});

describe('resonance', () => {
  /** Finds the peak of a filter where its prototype has one, and says how many cents, and how high, it is off. */
  const offBy = (
    kind: ModuleKind,
    params: Record<string, number | string>,
    cutoff: number,
    sampleRate: number,
  ): { cents: number; decibels: number } => {
    const resonance = Number(params.resonance);
    const prototype =
      params.mode === 'high'
        ? (w: number) => prototypes['low-pass-12']!(1 / w, resonance)
        : (w: number) => prototypes[kind]!(w, resonance);
    const wanted = cutoff * peakBetween(prototype, 0.3, 3);
    const seconds = Math.min(4, 60 / cutoff + 0.3);
    const sound = impulseResponse(kind, { cutoff, ...params }, seconds, sampleRate);
    const level = (hz: number): number => amplitudeAt(sound, hz, sampleRate) / 1e-3;
    const found = peakBetween(level, 0.94 * wanted, 1.06 * wanted);
    return {
      cents: Math.abs(1200 * Math.log2(found / wanted)),
      decibels: Math.abs(db(level(wanted)) - db(prototype(wanted / cutoff))),
    };
  };

  it.each([
    ['low-pass-12', {}, [0.08, 0.3, 0.6, 1]],
    ['low-pass-18', {}, [0.1, 0.3, 0.6, 0.87]],
    ['low-pass-24', {}, [0.15, 0.3, 0.6, 0.9]],
    ['diode', {}, [0.2, 0.4, 0.6, 0.795]],
    ['state-variable', { mode: 'high' }, [0.2, 0.6, 1]],
  ] as [ModuleKind, object, number[]][])(
    '%s %j peaks within 3 cents and 0.25 dB of the prototype, be it weak or strong',
    (kind, params, resonances) => {
      for (const resonance of resonances) {
        for (const cutoff of [40, 220, 1500, 6000, 9100, 12000]) {
          const off = offBy(kind, { ...params, resonance }, cutoff, 48000);
          expect(off.cents).toBeLessThan(3);
          // A strong resonance at a low cutoff rings on when the recording has ended.
          if (cutoff > 1000 || resonance < 0.7) expect(off.decibels).toBeLessThan(0.25);
        }
      }
    },
  );

  it.each(kinds)('%s does at other sample rates', (kind) => {
    for (const [rate, cutoff] of [
      [44100, 12000],
      [96000, 12000],
      [44100, 5000],
    ] as const)
      expect(offBy(kind, { resonance: 0.33 }, cutoff, rate).cents).toBeLessThan(3);
  });

  it('of a band and a notch stands at the cutoff', () => {
    for (const cutoff of [300, 12000]) {
      const sound = impulseResponse(
        'state-variable',
        { cutoff, resonance: 0.2, mode: 'band' },
        0.3,
      );
      const found = peakBetween((hz) => amplitudeAt(sound, hz), 0.9 * cutoff, 1.1 * cutoff);
      expect(Math.abs(1200 * Math.log2(found / cutoff))).toBeLessThan(3);
      const notch = impulseResponse(
        'state-variable',
        { cutoff, resonance: 0.2, mode: 'notch' },
        0.3,
      );
      expect(amplitudeAt(notch, cutoff) / 1e-3).toBeLessThan(1e-3);
    }
  });

  it('of the two-pole filters reaches Q 25', () =>
    expect(response('low-pass-12', 440, 1, 3)(440)).toBeCloseTo(25, 1));

  it('takes bass from the ladder, and `bass` gives it back', () => {
    const bassOf = (bass: number): number =>
      amplitudeAt(impulseResponse('low-pass-24', { cutoff: 4000, resonance: 0.5, bass }, 1), 30) /
      1e-3;
    expect(bassOf(0)).toBeCloseTo(1 / (1 + ladderLoopGain(0.5)), 3);
    expect(bassOf(100)).toBeCloseTo(1, 2);
  });
});

describe('whistle', () => {
  const whistle = (kind: ModuleKind, cutoff: number, resonance = 1, seconds = 3): Float64Array => {
    const graph = benchGraph(
      { filter: [kind, { cutoff, resonance }], out: ['output'] },
      ['filter.out > out.in'],
      'out',
    );
    return record(graph, 'filter.out', seconds).subarray((seconds - 0.5) * RATE);
  };

  it.each(['low-pass-18', 'low-pass-24', 'diode'] as ModuleKind[])(
    '%s is within 3 cents of its cutoff from 40 Hz to 8 kHz',
    (kind) => {
      for (const cutoff of [40, 110, 440, 2000, 8000]) {
        const sound = whistle(kind, cutoff, 1, cutoff < 100 ? 12 : 4);
        expect(Math.max(...sound)).toBeGreaterThan(0.5);
        expect(Math.max(...sound)).toBeLessThanOrEqual(20);
        expect(Math.abs(1200 * Math.log2(countedHz(sound) / cutoff))).toBeLessThan(3);
      }
    },
  );

  it.each(['low-pass-18', 'low-pass-24', 'diode'] as ModuleKind[])(
    '%s is as loud at high cutoffs as at low ones',
    (kind) => {
      const loud = [200, 3000, 10700].map((cutoff) =>
        Math.hypot(...whistle(kind, cutoff, 1, 2).subarray(-4800)),
      );
      expect(Math.abs(db(loud[1]! / loud[0]!))).toBeLessThan(1);
      expect(Math.abs(db(loud[2]! / loud[0]!))).toBeLessThan(1);
    },
  );

  it('can be played: tracking at 100 % follows the keys', () => {
    const graph = benchGraph(
      {
        keys: ['keyboard'],
        filter: ['low-pass-24', { cutoff: 261.6256, resonance: 1, track: 100 }],
        out: ['output'],
      },
      ['keys.pitch1 > filter.pitch', 'filter.out > out.in'],
      'out',
    );
    const sound = record(graph, 'filter.out', 2, {
      notes: [{ start: 0, duration: 9, note: 76, velocity: 90 }],
    });
    expect(Math.abs(1200 * Math.log2(countedHz(sound.subarray(RATE)) / 659.2551))).toBeLessThan(3);
  });

  it.each([
    ['low-pass-18', 0.9],
    ['low-pass-24', 0.9],
    ['diode', 0.79],
  ] as [ModuleKind, number][])('%s does not below resonance %p', (kind, resonance) =>
    expect(Math.max(...whistle(kind, 440, resonance))).toBeLessThan(1e-3),
  );
});

describe('kinds of two-pole filter', () => {
  const at = (params: Record<string, number | string>, hz: number): number =>
    amplitudeAt(impulseResponse('state-variable', { cutoff: 1000, ...params }, 0.5), hz) / 1e-3;

  it.each([
    ['low', 1, Math.SQRT1_2, 0],
    ['high', 0, Math.SQRT1_2, 1],
    ['band', 0, 1, 0],
    ['notch', 1, 0, 1],
  ])('%s', (mode, low, middle, high) => {
    expect(at({ mode }, 10)).toBeCloseTo(low, 1);
    expect(at({ mode }, 1000)).toBeCloseTo(middle, 2);
    expect(at({ mode }, 20000)).toBeCloseTo(high, 1);
  });

  it('morphs from low over band to high', () => {
    for (const [morph, mode] of [
      [0, 'low'],
      [0.5, 'band'],
      [1, 'high'],
    ] as const) {
      for (const hz of [200, 1000, 5000])
        expect(at({ mode: 'morph', morph }, hz)).toBeCloseTo(at({ mode }, hz), 6);
    }
  });

  it('in series multiply, side by side add up to half', () => {
    const pair = (routing: string, hz: number): number =>
      amplitudeAt(
        impulseResponse('filter-pair', { routing, cutoff1: 500, cutoff2: 500 }, 0.5),
        hz,
      ) / 1e-3;
    expect(db(pair('series', 500))).toBeCloseTo(-6.02, 1);
    expect(db(pair('parallel', 500))).toBeCloseTo(-3.01, 1);
  });

  it('high-pass stands 3 dB down at its cutoff', () =>
    expect(
      db(amplitudeAt(impulseResponse('high-pass-12', { cutoff: 700 }, 0.5), 700) / 1e-3),
    ).toBeCloseTo(-3.01, 1));
});

describe('bank and tilt', () => {
  it('lets a band through alone', () => {
    const off = Object.fromEntries(Array.from({ length: 10 }, (_, i) => [`band${i + 1}`, 0]));
    const sound = impulseResponse('bank', { ...off, band6: 1 }, 0.5);
    expect(amplitudeAt(sound, 1000) / 1e-3).toBeCloseTo(1, 2);
    expect(db(amplitudeAt(sound, 100) / 1e-3)).toBeLessThan(-22);
  });

  it('tilts by as much up as down', () => {
    const sound = impulseResponse('tilt', { pivot: 640, tilt: 6 }, 0.5);
    expect(db(amplitudeAt(sound, 10) / 1e-3)).toBeCloseTo(-6, 1);
    expect(db(amplitudeAt(sound, 20000) / 1e-3)).toBeCloseTo(6, 1);
  });
});
