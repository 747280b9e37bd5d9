import { jest } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import { API } from '../api/client';
import { Subject } from 'rxjs';
import { type Answer, answerOf, problemOf } from '../../testing/answers';
import { type ChosenAt, MidiInService, type MovedAt } from './midi-in.service';
import { PanelInputs, type Place } from './panel-inputs';
import { PanelsHeard } from './panels-heard';

const place = (channel: number): Place => ({ input: { id: 'one', name: 'one' }, channel });

function listen(answers: () => Answer) {
  TestBed.resetTestingModule();
  const moved = new Subject<MovedAt>();
  const chosen = new Subject<ChosenAt>();
  const told: unknown[] = [];
  const heard = {
    $post: async (asked: unknown) => {
      told.push(asked);
      return answers();
    },
  };
  TestBed.configureTestingModule({
    providers: [
      { provide: API, useValue: { shown: { ':panel': { heard } } } },
      {
        provide: MidiInService,
        useValue: { moved, chosen, connectIfAllowed: async () => undefined },
      },
    ],
  });
  TestBed.inject(PanelInputs).say('unit-a', place(1));
  const panels = TestBed.inject(PanelsHeard);
  const move = (channel: number, cc: number, sent: number): void => {
    moved.next({ ...place(channel), cc, sent });
  };
  const choose = (channel: number, program: number): void => {
    chosen.next({ ...place(channel), program, coarse: 1 });
  };
  const later = (ms: number) => jest.advanceTimersByTimeAsync(ms);
  return { panels, told, move, choose, later };
}
const ok = () => answerOf({ shown: null });

describe('panels that are heard', () => {
  beforeEach(() => {
    localStorage.clear();
    jest.useFakeTimers();
  });
  afterEach(() => void jest.useRealTimers());

  it('are told together when the hand rests, each control where it was last', async () => {
    const { panels, told, move, later } = listen(ok);
    move(1, 74, 10);
    move(1, 74, 60);
    move(1, 71, 5);
    await later(300);
    expect(told).toEqual([]);
    await later(200);
    expect(told).toEqual([
      {
        param: { panel: 'unit-a' },
        json: {
          moved: [
            { cc: 74, sent: 60, ago: 0.4 },
            { cc: 71, sent: 5, ago: 0.4 },
          ],
        },
      },
    ]);
    expect([...panels.of('unit-a')].map(([cc, { sent }]) => [cc, sent])).toEqual([
      [74, 60],
      [71, 5],
    ]);
    await later(60_000);
    expect(told).toHaveLength(1);
  });

  it('are remembered with when they were heard', async () => {
    const { panels, move, later } = listen(ok);
    move(1, 74, 10);
    await later(1000);
    const now = Date.now();
    move(1, 71, 5);
    expect([...panels.since('unit-a', now)]).toEqual([[71, 5]]);
    expect(panels.since('unit-a', now + 1).size).toBe(0);
    expect(panels.since('unit-b', 0).size).toBe(0);
  });

  it('are not believed where nobody has said what is heard there', async () => {
    const { panels, told, move, later } = listen(ok);
    move(2, 74, 10);
    await later(1000);
    expect(told).toEqual([]);
    expect(panels.of('unit-a').size).toBe(0);
  });

  it('are told to have loaded a place of their memory, with what was moved after it alone', async () => {
    const { panels, told, move, choose, later } = listen(() => answerOf({ shown: null }));
    const loaded: unknown[] = [];
    panels.loaded.subscribe((one) => loaded.push(one));
    move(1, 74, 10);
    choose(2, 3);
    choose(1, 11);
    move(1, 71, 5);
    await later(500);
    expect(told).toEqual([
      {
        param: { panel: 'unit-a' },
        json: {
          loaded: { program: 11, coarse: 1, ago: 0.4 },
          moved: [{ cc: 71, sent: 5, ago: 0.4 }],
        },
      },
    ]);
    expect(loaded).toEqual([{ panel: 'unit-a', shown: null }]);
    expect([...panels.of('unit-a').keys()]).toEqual([71]);
    expect(panels.chosenOn('unit-a')).toMatchObject({ program: 11, coarse: 1 });
    expect(panels.chosenOn('unit-b')).toBeUndefined();
  });

  it('are told again until the server has it', async () => {
    let away = true;
    const gone = () => problemOf('away');
    const { told, move, later } = listen(() => (away ? gone() : ok()));
    move(1, 74, 10);
    await later(500);
    expect(told).toHaveLength(1);
    away = false;
    await later(4000);
    expect(told).toHaveLength(2);
    await later(60_000);
    expect(told).toHaveLength(2);
  });

  it('are left to the page that stands before them', async () => {
    const { panels, told, move, later } = listen(ok);
    TestBed.runInInjectionContext(() => panels.tellsItself(() => 'unit-a'));
    move(1, 74, 10);
    await later(1000);
    expect(told).toEqual([]);
    expect(panels.of('unit-a').get(74)?.sent).toBe(10);
  });

  it('are told by the next page when the server was away until this one was closed', async () => {
    const before = listen(() => problemOf('away'));
    before.move(1, 74, 10);
    await before.later(500);
    expect(before.told).toHaveLength(1);
    await before.later(3000);
    const { told, later } = listen(ok);
    await later(500);
    expect(told).toEqual([
      { param: { panel: 'unit-a' }, json: { moved: [{ cc: 74, sent: 10, ago: 3.5 }] } },
    ]);
    await later(60_000);
    expect(told).toHaveLength(1);
    expect(localStorage.getItem('hurrel.heard-untold')).toBeNull();
  });

  it('are told too when what waited is of an older Hurrel, and what was loaded waits like the rest', async () => {
    const kept = [[74, { sent: 10, at: Date.now() - 2000 }]];
    localStorage.setItem('hurrel.heard-untold', JSON.stringify({ 'unit-a': kept }));
    const { told, later } = listen(ok);
    await later(500);
    expect(told).toEqual([
      { param: { panel: 'unit-a' }, json: { moved: [{ cc: 74, sent: 10, ago: 2 }] } },
    ]);
    const before = listen(() => problemOf('away'));
    before.choose(1, 11);
    await before.later(3000);
    const after = listen(ok);
    await after.later(500);
    expect(after.told).toMatchObject([{ json: { moved: [], loaded: { program: 11, coarse: 1 } } }]);
  });
});
