import fc from 'fast-check';
import {
  diodeLadder,
  ladder,
  peakSquared,
  threePole,
  twoPole,
  valueOf,
} from '../../theory/prototypes';
import { type Side, compensateWarp } from './warp';
import { runs } from '../../testing/runs';

const all = [
  ['two poles', twoPole, 'low'],
  ['two poles', twoPole, 'high'],
  ['three poles', threePole, 'low'],
  ['ladder', ladder, 'low'],
  ['diode ladder', diodeLadder, 'low'],
] as const;

describe('prototypes', () => {
  it('peak where a closed form says so', () => {
    for (const damping of [0.1, 0.7, 1.2])
      expect(peakSquared(twoPole.power(damping))).toBeCloseTo(1 - damping ** 2 / 2, 9);
    // (1 + x)^3 = k (3 - x) with x the square of the frequency and k the loop gain.
    for (const gain of [0.5, 2, 3.9]) {
      const x = peakSquared(ladder.power(1 - gain / 4));
      expect((1 + x) ** 3).toBeCloseTo(gain * (3 - x), 9);
    }
  });

  it('have no peak without resonance', () => {
    for (const proto of [threePole, ladder, diodeLadder])
      expect(peakSquared(proto.power(proto.free))).toBe(0);
    expect(peakSquared(twoPole.power(Math.SQRT2 + 1e-9))).toBe(0);
  });

  it.each(all)('%s: no damping means no end at the cutoff', (_, proto) =>
    expect(valueOf(proto.power(0), 1)).toBeCloseTo(0, 9),
  );
});

/** Squared magnitude of the digital filter, from the unit circle. */
function digital(
  proto: (typeof all)[number][1],
  side: Side,
  damping: number,
  cutoff: number,
  u: ReturnType<typeof compensateWarp>[number],
  frequency: number,
): number {
  const g = Math.tan(Math.PI * cutoff * 2 ** u.octaves);
  const w = Math.tan(Math.PI * frequency) / g;
  const power = proto.power(damping * u.damping);
  const taps = 1 + u.lift * Math.sin(Math.PI * frequency) ** 2;
  if (side === 'low') return (taps * power[0]!) / valueOf(power, w * w);
  return (taps * (g / (Math.PI * cutoff)) ** 4) / valueOf(power, 1 / (w * w));
}

describe('compensation', () => {
  const cutoffs = Array.from({ length: 36 }, (_, i) => (i + 1) / 80);

  it.each(all)('%s: level at the cutoff and at the peak are right (%#)', (_, proto, side) => {
    fc.assert(
      fc.property(fc.double({ min: 0.02, max: 0.8, noNaN: true }), (share) => {
        const damping = proto.free * share;
        const power = proto.power(damping);
        const top = Math.sqrt(peakSquared(power));
        compensateWarp(proto, side, damping, cutoffs).forEach((u, i) => {
          const cutoff = cutoffs[i]!;
          const peak = side === 'low' ? cutoff * top : cutoff / top;
          if (cutoff > 0.28 || peak > 0.4) return;
          const at = (f: number): number => digital(proto, side, damping, cutoff, u, f);
          expect((at(cutoff) * valueOf(power, 1)) / power[0]!).toBeCloseTo(1, 6);
          expect((at(peak) * valueOf(power, top * top)) / power[0]!).toBeCloseTo(1, 6);
          // Nothing near the peak stands above it.
          for (const aside of [0.99, 1.01]) expect(at(aside * peak)).toBeLessThan(at(peak));
        });
      }),
      { numRuns: runs(20) },
    );
  });

  it.each(all)(
    '%s: without resonance the level at the cutoff is right up to the top (%#)',
    (_, proto, side) => {
      const power = proto.power(proto.free);
      compensateWarp(proto, side, proto.free, cutoffs.slice(0, 34)).forEach((u, i) => {
        const found = digital(proto, side, proto.free, cutoffs[i]!, u, cutoffs[i]!);
        expect((found * valueOf(power, 1)) / power[0]!).toBeCloseTo(1, 6);
      });
    },
  );

  it.each(all)(
    '%s: nothing is bent where the cutoff is far below the sample rate (%#)',
    (_, proto, side) => {
      const [u] = compensateWarp(proto, side, proto.free / 2, [1e-3]);
      expect(u!.octaves).toBeCloseTo(0, 4);
      expect(u!.damping).toBeCloseTo(1, 4);
    },
  );
});
