import type { Timed } from '@hurrel/core';
import { learnedBy } from './learned-times';

const people = [{ id: 'low' }, { id: 'high' }];
const knob = (seconds: number, at: string): Timed => ({
  person: 'low',
  kind: 'knob',
  seconds,
  at: `2026-12-${at}:00.000Z`,
  key: 'work/a/p/x',
});

describe('what people have learned', () => {
  const rehearsed = [1, 2, 3].map((s, i) => knob(s, `01T10:0${i}`));
  const played = [8, 8, 8, 8].map((s, i) => knob(s, `12T20:0${i}`));

  it('is of those who have done something often enough', () => {
    const learned = learnedBy(people, rehearsed);
    expect(Object.keys(learned)).toEqual(['low']);
    expect(learned['low']!.times.knob).toBe(2);
    expect(learnedBy(people, rehearsed.slice(0, 2))).toEqual({});
  });

  it('stays what it was when a walk began, on whichever screen and however late it is opened', () => {
    const all = [...rehearsed, ...played];
    const began = '2026-12-12T19:59:00.000Z';
    expect(learnedBy(people, all, began)).toEqual(learnedBy(people, rehearsed));
    expect(learnedBy(people, all)['low']!.times.knob).toBe(8);
  });
});
