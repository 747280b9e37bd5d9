import type { Song } from './schema';
import { type Job, shareOut } from './share-out';
import type { Work } from './ways';

const step = (id: string, seconds: number, ear = false): Work =>
  ({
    kind: 'movement',
    id,
    control: id,
    seconds,
    ...(ear ? { target: 'until it sings' } : {}),
  }) as Work;
const job = (steps: Work[], more: Partial<Job> = {}): Job => ({
  panel: 'p',
  person: 'low',
  walk: 0,
  side: undefined,
  song: 'two',
  last: -1,
  until: 1,
  free: false,
  steps,
  ...more,
});
const songs = [
  { id: 'one', pause: 0 },
  { id: 'two', pause: 10 },
] as Song[];

describe('one person’s work', () => {
  it('takes what one hand can do while the other plays, and leaves what wants both', () => {
    const [, second] = shareOut([job([step('ear', 8, true), step('knob', 3)])], songs, (_, needs) =>
      needs === 'both' ? 0 : 5,
    );
    expect(second!.during.map((p) => p.steps.map((s) => s.id))).toEqual([['knob']]);
    expect(second!.portions.map((p) => p.steps.map((s) => s.id))).toEqual([['ear']]);
    expect(second!.used).toBe(8);
  });

  it('lays no more into a stretch than lies within its time, hand by hand', () => {
    // The left hand is free for 10 s, the right for 4: eight and three do, but not eight and five.
    const free = (needs: string): number => (needs === 'left' ? 10 : needs === 'right' ? 4 : 10);
    const during = (right: number): string[] =>
      shareOut(
        [
          job([step('a', 7)], { side: 'left' }),
          job([step('b', right)], { side: 'right', panel: 'q' }),
        ],
        songs,
        (_, needs) => free(needs),
      )[1]!.during.flatMap((p) => p.steps.map((s) => s.id));
    expect(during(3)).toEqual(['a', 'b']);
    // Ten are full with seven and three: a fourth second is not there, though the right hand has it.
    expect(during(4)).toEqual(['a']);
  });

  it('counts the way to a panel once in each stretch', () => {
    const [, second] = shareOut(
      [
        job([step('a', 2), step('b', 2)], { walk: 3 }),
        job([step('c', 1)], { walk: 3, free: true }),
      ],
      songs,
      () => 0,
    );
    expect(second!.used).toBe(8);
    expect(second!.portions.reduce((sum, p) => sum + p.seconds, 0)).toBe(8);
  });
});
