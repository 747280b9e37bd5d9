import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { Break, Evening, EveningPlan } from '@hurrel/core';
import { planChanges, sayPlanChange } from './plan-changes';

const brk = (song: string, over = 0): Break => ({
  song,
  length: 60,
  portions: [],
  during: [],
  loads: {},
  over,
});
const plan = (seconds: number, ...breaks: Break[]): EveningPlan => ({
  breaks,
  seconds,
  movements: 0,
  worst: -1,
  gone: [],
  kept: [],
  noPlaces: [],
  compromises: [],
  handed: [],
  handedSure: true,
  keptSure: true,
});
const nameOf = (song: string): string => song.toUpperCase();

describe('what a change of a set changed', () => {
  it('is nothing where the plan is the same', () => {
    expect(sayPlanChange(plan(60, brk('a')), plan(60.2, brk('a', 0.3)), nameOf)).toBe('');
  });

  it('is told in hands and breaks', () => {
    const [before, after] = [
      plan(90, brk('a', 20), brk('b'), brk('c', 5)),
      plan(60, brk('a'), brk('b', 12), brk('c', 5)),
    ];
    expect(sayPlanChange(before, after, nameOf)).toBe(
      'This change: hands 0:30 less; the break before A is long enough now; the break before B lacks 0:12, 0:00 before.',
    );
  });

  it('is cut short where it is much; songs that are new are no change', () => {
    const songs = 'abcdef'.split('');
    const [before, after] = [
      plan(60, ...songs.map((s) => brk(s, 9))),
      plan(60, ...songs.map((s) => brk(s)), brk('g', 40)),
    ];
    expect(sayPlanChange(before, after, nameOf)).toMatch(/and 2 more breaks\.$/);
    expect(sayPlanChange(before, after, nameOf)).not.toContain('G');
  });

  it('goes from each plan to the next, and stays while nothing changes', () => {
    const now = signal<EveningPlan | null>(null);
    const evening = signal({ songs: [{ id: 'a', name: 'Winch Room' }] } as Evening);
    const says = TestBed.runInInjectionContext(() => planChanges(now, evening));
    const steps: [EveningPlan, string][] = [
      [plan(60, brk('a', 10)), ''],
      [plan(60, brk('a')), 'This change: the break before Winch Room is long enough now.'],
      [plan(60, brk('a')), 'This change: the break before Winch Room is long enough now.'],
      [plan(70, brk('a')), 'This change: hands 0:10 more.'],
    ];
    for (const [next, said] of steps) {
      now.set(next);
      TestBed.tick();
      expect(says()).toBe(said);
    }
  });
});
