import fc from 'fast-check';
import { compile } from '../circuit';
import { initWith, sluice } from '../testing/sluice';
import { levelPath, peakOf } from './level';
import { type Picture, takePicture } from './picture';
import { fundamentalOf } from './pitch';
import { spectrum, toBands } from './spectrum';
import { runs } from '../testing/runs';

const RATE = 48000;
const sine = (hz: number, amplitude = 1, length = 16384): Float64Array =>
  Float64Array.from({ length }, (_, i) => amplitude * Math.sin((2 * Math.PI * hz * i) / RATE));

describe('spectrum', () => {
  it('reads a sine of peak 1 as 0 dB, and its side lobes below -90 dB', () => {
    const bin = 700;
    const found = spectrum(sine((bin * RATE) / 16384), RATE, 0, 16384);
    expect(found.decibels[bin]).toBeCloseTo(0, 3);
    for (const away of [5, 20, 300]) expect(found.decibels[bin + away]).toBeLessThan(-90);
  });

  it('shows every bin at most once over log frequency, and keeps the highest', () => {
    const bands = toBands(spectrum(sine(1000), RATE, 0, 16384), 20, 20000, 300);
    const hz = bands.map((b) => b.hz);
    expect([...hz].sort((a, b) => a - b)).toEqual(hz);
    expect(new Set(hz).size).toBe(hz.length);
    const top = bands.reduce((a, b) => (b.db > a.db ? b : a));
    expect(Math.abs(top.hz - 1000)).toBeLessThan(2 * (RATE / 16384));
  });
});

describe('pitch', () => {
  it('is found within 2 cents, harmonics or none', () => {
    fc.assert(
      fc.property(fc.double({ min: 40, max: 1000, noNaN: true }), fc.boolean(), (hz, rich) => {
        const sound = sine(hz, 1, 4096);
        if (rich)
          for (const n of [2, 3, 4]) sine(n * hz, 1 / n, 4096).forEach((v, i) => (sound[i]! += v));
        expect(Math.abs(1200 * Math.log2(fundamentalOf(sound, RATE)! / hz))).toBeLessThan(2);
      }),
      { numRuns: runs(30) },
    );
  });

  it('is none in silence', () =>
    expect(fundamentalOf(new Float64Array(4096), RATE)).toBeUndefined());
});

describe('level', () => {
  it('reads a full-scale sine as 0 dB', () => {
    for (const { value } of levelPath(sine(1000, 1, RATE), RATE)) expect(value).toBeCloseTo(0, 1);
    expect(peakOf([0.1, -0.7, 0.2])).toBe(0.7);
  });
});

describe('picture', () => {
  it('shows a note as it is: pitch, period, level, cutoff over time', () => {
    const patch = initWith({
      cutoff: 0.35,
      'filter-amount': 0.8,
      'env2-decay': 0.5,
      'env2-sustain': 0,
      'env1-attack': 0,
    });
    const picture = takePicture(compile(sluice, patch), { note: 57 });
    expect(Math.abs(1200 * Math.log2(picture.fundamental! / 220))).toBeLessThan(3);
    expect(picture.period.at(-1)!.time).toBeCloseTo(2 / 220, 3);
    expect(Math.max(...picture.cutoff.map((p) => p.value))).toBeGreaterThan(224 * 2 ** 2.7);
    expect(picture.cutoff.at(-1)!.value).toBeCloseTo(224.4, 0);
    const after = picture.level.filter((p) => p.time > 1.5);
    expect(Math.max(...after.map((p) => p.value))).toBeLessThan(-60);
    const loudest = picture.spectrum.reduce((a, b) => (b.db > a.db ? b : a));
    expect(Math.abs(loudest.hz - 220)).toBeLessThan(6);
  });

  it('comes early, from the beginning of the note, and then whole', () => {
    const early: Picture[] = [];
    const graph = compile(sluice, initWith());
    const whole = takePicture(graph, { note: 57, early: (p) => early.push(p) });
    expect(early).toHaveLength(1);
    expect(early[0]!.fundamental).toBe(whole.fundamental);
    expect(early[0]!.level.at(-1)!.time).toBeLessThan(1);
    expect(whole.level.at(-1)!.time).toBeGreaterThan(1.9);
    expect(takePicture(graph, { note: 57 })).toEqual(whole);
  });

  it('of a silent patch is silent', () => {
    const picture = takePicture(compile(sluice, initWith({ level: 0 })), { note: 57 });
    expect(picture.peakVolts).toBe(0);
    expect(picture.fundamental).toBeUndefined();
  });
});
