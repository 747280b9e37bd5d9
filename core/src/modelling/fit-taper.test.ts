import fc from 'fast-check';
import { taperValue } from '../reading/taper';
import { controlOf } from '../testing/sluice';
import type { ContinuousControl } from '../instrument';
import { fitTapers } from './fit-taper';
import { readTaperPoints } from './taper-points';

const cutoff = controlOf('cutoff') as ContinuousControl;
const kinds = (points: [number, number][], unit: 'Hz' | 's' | '%' | 'dB'): string[] =>
  fitTapers(points, unit).map((f) => f.taper.kind);

describe('tapers through measured places', () => {
  it('an even ratio through three places of one, exactly', () => {
    // 20 Hz times 1000 to the travel: by hand 20, 632.456, 20000.
    const [best] = fitTapers(
      [
        [0, 20],
        [0.5, 632.4555],
        [1, 20000],
      ],
      'Hz',
    );
    expect(best!.taper).toEqual({ kind: 'exponential', lo: 20, hi: 20000, unit: 'Hz' });
    expect(best!.worst).toBeLessThan(1e-5);
  });

  it('through two places an even ratio for frequencies and times, a straight line for the rest', () => {
    expect(
      kinds(
        [
          [0, 20],
          [1, 18000],
        ],
        'Hz',
      ),
    ).toEqual(['exponential', 'linear']);
    expect(
      kinds(
        [
          [0, 0.002],
          [1, 8],
        ],
        's',
      )[0],
    ).toBe('exponential');
    expect(
      kinds(
        [
          [0, 10],
          [1, 90],
        ],
        '%',
      )[0],
    ).toBe('linear');
    expect(
      kinds(
        [
          [0.25, -6],
          [1, 6],
        ],
        'dB',
      ),
    ).toEqual(['linear']);
  });

  it('a table where neither comes near: 20, 600 and 18000 at 0, 5 and 10 is an even ratio within 1 %', () => {
    // By hand: ln 20, ln 600, ln 18000 lie on a line exactly (600/20 = 18000/600 = 30).
    expect(
      kinds(
        [
          [0, 20],
          [0.5, 600],
          [1, 18000],
        ],
        'Hz',
      )[0],
    ).toBe('exponential');
    const fitted = fitTapers(
      [
        [0, 30],
        [0.3, 2000],
        [0.5, 2400],
        [1, 9000],
      ],
      'Hz',
    );
    expect(fitted[0]!.taper.kind).toBe('table');
    expect(fitted[0]!.worst).toBeLessThan(1e-12);
    expect(fitted.map((f) => f.errors.length)).toEqual([4, 4, 4]);
    expect(fitted.at(-1)!.worst).toBeGreaterThan(0.03);
  });

  it('leads a table on to the ends of travel, and keeps it rising and within the parameter', () => {
    const [best] = fitTapers(
      [
        [0.2, 100],
        [0.4, 900],
        [0.6, 1000],
      ],
      'Hz',
      [20, 5000],
    );
    const { taper } = best!;
    expect(taper.kind === 'table' && [taper.points[0]![0], taper.points.at(-1)![0]]).toEqual([
      0, 1,
    ]);
    const at = Array.from({ length: 101 }, (_, i) => taperValue(taper, i / 100));
    expect(at.every((v, i) => i === 0 || v >= at[i - 1]!)).toBe(true);
    expect(Math.min(...at)).toBeGreaterThanOrEqual(20);
    expect(Math.max(...at)).toBeLessThanOrEqual(5000);
  });

  it('finds again any line and any ratio that it is given places of', () => {
    const places = fc.uniqueArray(fc.integer({ min: 0, max: 100 }), { minLength: 3, maxLength: 8 });
    fc.assert(
      fc.property(
        places,
        fc.double({ min: 0.01, max: 100, noNaN: true }),
        fc.double({ min: 1.5, max: 1000, noNaN: true }),
        fc.boolean(),
        (at, lo, ratio, byRatio) => {
          const taper = {
            kind: byRatio ? 'exponential' : 'linear',
            lo,
            hi: lo * ratio,
            unit: 'Hz',
          } as const;
          const points = at
            .sort((a, b) => a - b)
            .map((n): [number, number] => [n / 100, taperValue(taper, n / 100)]);
          const fitted = fitTapers(points, 'Hz').find((f) => f.taper.kind === taper.kind)!;
          expect(fitted.worst).toBeLessThan(1e-4);
        },
      ),
    );
  });

  it('nothing through one place, or where the values turn round', () => {
    expect(fitTapers([[0, 5]], 'Hz')).toEqual([]);
    expect(
      fitTapers(
        [
          [0, 5],
          [0.5, 9],
          [1, 7],
        ],
        'Hz',
      ),
    ).toEqual([]);
    expect(
      fitTapers(
        [
          [0, 5],
          [0, 9],
        ],
        'Hz',
      ),
    ).toEqual([]);
  });
});

describe('places as they are said', () => {
  it('are readings of the control, with numbers in its unit or another', () => {
    expect(readTaperPoints('0 is 20 Hz, 5 is 600, 10 is 18k', cutoff, 'Hz')).toEqual({
      ok: true,
      points: [
        [0, 20],
        [0.5, 600],
        [1, 18000],
      ],
    });
    expect(readTaperPoints('max = 1.2 s; min = 3ms', cutoff, 's')).toEqual({
      ok: true,
      points: [
        [0, 0.003],
        [1, 1.2],
      ],
    });
    expect(readTaperPoints('10: 2 oct', cutoff, 'cents')).toMatchObject({ points: [[1, 2400]] });
    expect(readTaperPoints('10: 50%', cutoff, 'x')).toMatchObject({ points: [[1, 0.5]] });
  });

  it('are refused where they stand', () => {
    expect(readTaperPoints('0 is 20 Hz, 5 is loud', cutoff, 'Hz')).toEqual({
      ok: false,
      message: '"loud" is no number',
      from: 11,
      to: 21,
    });
    for (const text of ['5', 'twelve is 5', '5 is 3 dB', '0-5 is 20 Hz'])
      expect(readTaperPoints(text, cutoff, 'Hz').ok).toBe(false);
  });

  it('joins frequencies by ratio: 96 of 128 lies between 950 Hz and 20 kHz, not an octave above', () => {
    const points: [number, number][] = [
      [35 / 128, 180],
      [64 / 128, 950],
      [1, 20000],
    ];
    const table = fitTapers(points, 'Hz').find((f) => f.taper.kind === 'table')!.taper;
    // By hand: the even ratio from 950 to 20,000 is at 4,359 in its middle.
    expect(Math.abs(Math.log2(taperValue(table, 0.75) / 4359))).toBeLessThan(0.2);
    const all = Array.from({ length: 1001 }, (_, i) => taperValue(table, i / 1000));
    expect(all.every((v, i) => i === 0 || v > all[i - 1]!)).toBe(true);
    const octaves = all.slice(1).map((v, i) => Math.log2(v / all[i]!));
    const corners = octaves.slice(1).map((o, i) => Math.abs(o - octaves[i]!));
    expect(Math.max(...corners)).toBeLessThan(0.001);
  });

  it('takes a control that starts late, or does no more from somewhere on', () => {
    const [best, ...rest] = fitTapers(
      [
        [0, 0],
        [0.82, 1],
        [1, 1],
      ],
      '',
    );
    expect(rest).toEqual([]);
    expect([0, 0.41, 0.82, 0.9, 1].map((p) => taperValue(best!.taper, p))).toEqual([
      0,
      expect.closeTo(0.5, 0),
      1,
      1,
      1,
    ]);
    const [late] = fitTapers(
      [
        [0, 0],
        [0.82, 0],
        [1, 1],
      ],
      '',
    );
    expect(taperValue(late!.taper, 0.8)).toBe(0);
    expect(
      fitTapers(
        [
          [0, 1],
          [1, 1],
        ],
        '',
      ),
    ).toEqual([]);
    expect(
      fitTapers(
        [
          [0, 1],
          [0.5, 1],
          [1, 1],
        ],
        '',
      ),
    ).toEqual([]);
  });
});
