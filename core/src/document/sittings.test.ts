import fc from 'fast-check';
import { sittingsOf } from './sittings';

const at = (minute: number) => ({ number: minute, minute });
const sittings = (minutes: readonly number[]) =>
  sittingsOf(minutes.map(at), (v) => v.minute * 60_000);

describe('sittings', () => {
  it('end with a rest of ten minutes', () => {
    const told = sittings([45, 40, 38, 20, 12, 3]).map((s) => s.versions.map((v) => v.number));
    expect(told).toEqual([
      [45, 40, 38],
      [20, 12, 3],
    ]);
    expect(sittings([30, 20])).toHaveLength(2);
    expect(sittings([])).toEqual([]);
  });

  it('hold every version once, in order', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 2000 })), (minutes) => {
        const sorted = minutes.sort((a, b) => b - a);
        const found = sittings(sorted);
        expect(found.flatMap((s) => s.versions)).toEqual(sorted.map(at));
        for (const s of found) {
          expect(s.newest).toBe(s.versions[0]);
          expect(s.oldest).toBe(s.versions.at(-1));
        }
      }),
    );
  });
});
