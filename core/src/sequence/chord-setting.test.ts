import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { instrumentSchema } from '../instrument/schema';
import { chordNotes } from '../theory/chord';
import { readChord } from '../theory/chord-name';
import { chordSetting } from './chord-setting';

const read = (name: string) =>
  instrumentSchema.parse(
    JSON.parse(
      readFileSync(new URL(`../../../library/instruments/${name}.json`, import.meta.url), 'utf8'),
    ),
  );
const skimmer = read('staithe-skimmer');

describe('a chord oscillator', () => {
  it('plays any chord that it has, in any inversion, from the right key', () => {
    const types = ['major', 'minor', 'sus4', 'seventh', 'minor7', 'major7', 'add9'] as const;
    fc.assert(
      fc.property(
        fc.integer({ min: 36, max: 72 }),
        fc.constantFrom(...types),
        fc.integer({ min: 0, max: 2 }),
        (key, type, inversion) => {
          const wanted = chordNotes(type, inversion).map((n) => key + n);
          const found = chordSetting(skimmer, wanted)!;
          expect([found.missing, found.strange]).toEqual([0, 0]);
          expect(found.notes[0]).toBe(Math.min(...wanted));
        },
      ),
    );
  });

  it('is told as one sets it', () => {
    const found = chordSetting(skimmer, readChord('Am7')!)!;
    expect(found.told).toMatch(/^minor ?7, inversion .*, hold A3$/i);
    expect(found.settings).toMatchObject({ 'chord-type': 'minor7', inversion: 'i0' });
  });

  it('gives the nearest of what it has not, and says how far that is', () => {
    const found = chordSetting(skimmer, readChord('Cdim7')!)!;
    expect(found.missing + found.strange).toBeGreaterThan(0);
    expect(chordSetting(read('oxbow-sluice'), [60, 64, 67])).toBeUndefined();
    expect(chordSetting(skimmer, [])).toBeUndefined();
  });
});
