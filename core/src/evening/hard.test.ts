import { hardMovements } from './hard';
import { type Timed, timedIn } from './learned';
import { inTurn, type OpenWork } from './open-work';
import { type Marks, workKey, workOfKey } from './walk';

const tick = (key: string, seconds: number, day = 1, more: Partial<Timed> = {}): Timed => ({
  key,
  person: 'low',
  kind: 'knob',
  seconds,
  at: `2026-12-${String(day).padStart(2, '0')}T10:00:00.000Z`,
  ...more,
});
const easy = Array.from({ length: 15 }, (_, i) => tick(`work/a/s/easy${i}`, 2));

describe('what is hard in a set', () => {
  it('is what took half as long again as that person usually needs, the hardest first', () => {
    const timed = [
      ...easy,
      tick('work/a/s/x', 3.2),
      tick('work/a/s/y', 5),
      tick('work/a/s/z', 2.9),
    ];
    expect(hardMovements(timed).map((h) => [h.key, h.seconds, h.usual])).toEqual([
      ['work/a/s/y', 5, 2],
      ['work/a/s/x', 3.2, 2],
    ]);
  });

  it('is what did not stand as it should, however quick it was', () => {
    const timed = [...easy, tick('work/a/s/x', 2, 1, { missed: 2 }), tick('work/a/s/y', 3.2)];
    expect(hardMovements(timed).map((h) => [h.key, h.missed])).toEqual([
      ['work/a/s/x', 2],
      ['work/a/s/y', 0],
    ]);
  });

  it('is remembered over days, and forgotten once it was learned', () => {
    const days = (...seconds: number[]): Timed[] =>
      seconds.map((s, i) => tick('work/a/s/x', s, 1 + i, s > 5 ? { missed: 1 } : {}));
    const isHard = (timed: Timed[]): boolean =>
      hardMovements([...easy, ...timed]).some((h) => h.key === 'work/a/s/x');
    expect(isHard(days(9))).toBe(true);
    expect(isHard(days(9, 2))).toBe(true);
    expect(isHard(days(9, 2, 2, 2))).toBe(false);
  });

  it('belongs to whoever it is hard for', () => {
    const timed = [
      ...easy,
      tick('work/a/s/x', 9),
      ...Array.from({ length: 15 }, () => tick('work/a/s/x', 9, 2, { person: 'high' })),
    ];
    expect(hardMovements(timed, 'low').map((h) => h.person)).toEqual(['low']);
    // Who always takes nine seconds is not slow there.
    expect(hardMovements(timed, 'high')).toEqual([]);
    expect(hardMovements(timed)).toHaveLength(1);
  });

  it('is read from marks, and comes up first where it is practised', () => {
    const mark = (missed?: number) => ({
      value: 'done',
      clock: 1,
      device: 'd',
      at: '2026-12-01T10:00:00.000Z',
      person: 'low',
      kind: 'knob' as const,
      seconds: 2,
      ...(missed ? { missed } : {}),
    });
    const marks: Marks = { 'work/a/s/x': mark(), 'work/a/s/y': mark(1) };
    const hard = hardMovements(timedIn([marks]));
    expect(hard.map((h) => h.key)).toEqual(['work/a/s/y']);
    const work = (key: string, state: OpenWork['state']) => ({ key, state }) as OpenWork;
    const all = [work('a', 'open'), work('b', 'later'), work('c', 'open'), work('d', 'done')];
    const keys = (first?: Set<string>): string[] => inTurn(all, first).map((w) => w.key);
    expect(keys()).toEqual(['a', 'c', 'b']);
    expect(keys(new Set(['c', 'b']))).toEqual(['c', 'a', 'b']);
  });

  it('is named by its key, which can be read back', () => {
    expect(workOfKey(workKey('winch', 'sluice', 'osc1-width'))).toEqual({
      song: 'winch',
      panel: 'sluice',
      step: 'osc1-width',
    });
    expect(workOfKey(workKey('a', 'b', 'c/d'))?.step).toBe('c/d');
    for (const other of ['at/low', 'begun/winch', 'work/winch/sluice', 'work']) {
      expect(workOfKey(other)).toBeUndefined();
    }
  });
});
