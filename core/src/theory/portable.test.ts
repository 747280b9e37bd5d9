import fc from 'fast-check';
import { cosTurns, exp, exp2, log2, power, sinTurns, tanTurns } from './portable';

const real = (min: number, max: number) => fc.double({ min, max, noNaN: true });

describe('functions that give the same bits everywhere', () => {
  it('powers of two', () => {
    fc.assert(
      fc.property(real(-300, 300), (x) => {
        expect(Math.abs(exp2(x) / 2 ** x - 1)).toBeLessThan(1e-13);
      }),
    );
    expect(exp2(3)).toBe(8);
    expect(exp2(-4)).toBe(1 / 16);
    expect(exp(1)).toBeCloseTo(Math.E, 13);
  });

  it('sine, cosine and tangent of turns', () => {
    fc.assert(
      fc.property(real(-50, 50), (x) => {
        expect(Math.abs(sinTurns(x) - Math.sin(2 * Math.PI * x))).toBeLessThan(1e-11);
        expect(Math.abs(cosTurns(x) - Math.cos(2 * Math.PI * x))).toBeLessThan(1e-11);
      }),
    );
    fc.assert(
      fc.property(real(0, 0.24), (x) => {
        expect(Math.abs(tanTurns(x) - Math.tan(2 * Math.PI * x))).toBeLessThan(1e-8);
      }),
    );
    expect(sinTurns(0)).toBe(0);
    expect(sinTurns(0.5)).toBeCloseTo(0, 12);
  });

  it('logarithm from the smallest number to the largest', () => {
    fc.assert(
      fc.property(
        fc.double({ min: Number.MIN_VALUE, noNaN: true, noDefaultInfinity: true }),
        (x) => {
          expect(Math.abs(log2(x) - Math.log2(x))).toBeLessThan(
            1e-12 * Math.abs(Math.log2(x)) + 1e-14,
          );
        },
      ),
    );
    for (let n = -1074; n < 1024; n++) expect(log2(2 ** n)).toBe(n);
    expect([log2(0), log2(-1), log2(Infinity), log2(NaN)]).toEqual([-Infinity, NaN, Infinity, NaN]);
  });

  it('logarithm and powers', () => {
    fc.assert(
      fc.property(real(1e-6, 1e6), real(-3, 3), (base, exponent) => {
        expect(Math.abs(log2(base) - Math.log2(base))).toBeLessThan(1e-12);
        expect(Math.abs(power(base, exponent) / base ** exponent - 1)).toBeLessThan(1e-11);
      }),
    );
  });
});
