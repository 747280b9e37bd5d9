import fc from 'fast-check';
import { diodeLadder, ladder, peakSquared, threePole, twoPole } from '../../theory/prototypes';
import { compensateWarp } from './warp';
import { Ask, prepareLine, WarpCompensator } from './warp-compensator';
import { runs } from '../../testing/runs';

const turned = (
  compensator: WarpCompensator,
  damping: number,
  cutoff: number,
  lean = 1,
): WarpCompensator => {
  compensator.ask[Ask.damping] = damping;
  compensator.ask[Ask.cutoff] = cutoff;
  compensator.ask[Ask.lean] = lean;
  compensator.turn();
  return compensator;
};

describe('Unbender', () => {
  it.each([
    ['two poles', twoPole],
    ['three poles', threePole],
    ['ladder', ladder],
    ['diode ladder', diodeLadder],
  ])('%s: between the places of its table it is what is solved there', (_, proto) => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.05, max: 0.75, noNaN: true }),
        fc.double({ min: 0.005, max: 0.27, noNaN: true }),
        (share, cutoff) => {
          const damping = proto.free * share;
          fc.pre(peakSquared(proto.power(damping)) > 0.16);
          // Solved on the way up to this cutoff.
          const way = Array.from({ length: 20 }, (__, i) => (cutoff * (i + 1)) / 20);
          const wanted = compensateWarp(proto, 'low', damping, way).at(-1)!;
          const found = turned(new WarpCompensator(proto), damping, cutoff);
          // A cent is 0.0008 octaves.
          expect(Math.abs(found.octaves - wanted.octaves)).toBeLessThan(0.0016);
          expect(found.damping / (damping * wanted.damping)).toBeCloseTo(1, 2);
        },
      ),
      { numRuns: runs(60) },
    );
  });

  it('goes on from where it was, and stands when nothing is turned', () => {
    const compensator = turned(new WarpCompensator(ladder), 0.5, 0.1);
    expect(compensator.dampingWas).toBe(compensator.damping);
    expect(compensator.pastSlope).toBe(0);
    const before = compensator.damping;
    turned(compensator, 0.4, 0.2);
    expect(compensator.dampingWas).toBe(before);
    expect(compensator.damping).not.toBe(before);
    turned(compensator, 0.4, 0.2);
    expect(compensator.dampingWas).toBe(compensator.damping);
  });

  it('leaves alone what does not lean, and goes half as far for what leans by half', () => {
    const still = turned(new WarpCompensator(twoPole), 0.7, 0.2, 0);
    expect([still.octaves, still.damping, still.pastWas, still.gainWas]).toEqual([0, 0.7, 0, 1]);
    const [half, whole] = [0.5, 1].map((lean) =>
      turned(new WarpCompensator(twoPole), 0.7, 0.2, lean),
    );
    expect(half!.octaves).toBeCloseTo(whole!.octaves / 2, 9);
    expect(half!.pastWas).toBeCloseTo(whole!.pastWas / 2, 9);
  });

  it('shifts no whistle, and keeps it as loud', () => {
    for (const proto of [threePole, ladder, diodeLadder]) {
      const whistle = turned(new WarpCompensator(proto), -0.1, 0.25);
      expect(whistle.octaves).toBe(0);
      // How loud it gets grows as the root of what undamps it; the taps make it louder by as much.
      const taps = Math.hypot(1 - whistle.pastWas, whistle.pastWas);
      expect(taps * Math.sqrt(whistle.damping / -0.1)).toBeCloseTo(1, 1);
    }
  });

  it('is the same whether its lines were there before or not', () => {
    const before = turned(new WarpCompensator(twoPole), 0.31, 0.13, -1).octaves;
    for (let i = 0; i < 200; i++) prepareLine();
    expect(turned(new WarpCompensator(twoPole), 0.31, 0.13, -1).octaves).toBe(before);
  });
});
