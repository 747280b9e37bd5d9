import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import {
  eveningSchema,
  type EveningPlan,
  type Marks,
  placeKey,
  type Timed,
  type WalkMark,
  withMark,
  type Work,
  workKey,
} from '@hurrel/core';
import { SetDesk } from '../sets/set-desk';
import { WalkLine } from '../walk/walk-line';
import { StageDesk } from './stage-desk';

const evening = eveningSchema.parse({
  format: 'hurrel-set',
  version: 1,
  name: 'Skerrow Lock',
  people: [
    { id: 'low', name: 'low keys' },
    { id: 'high', name: 'high keys' },
  ],
  panels: [
    { id: 's', name: 'Sluice', instrument: 'oxbow-sluice', by: 'low' },
    { id: 'e', name: 'Estuary', instrument: 'marram-estuary', by: 'high' },
  ],
  songs: ['one', 'two'].map((id) => ({
    id,
    name: id,
    pause: 60,
    plays: [
      { panel: 's', patch: 'bass' },
      { panel: 'e', patch: 'pad' },
    ],
  })),
});
const step = (id: string): Work => ({
  kind: 'movement',
  id,
  control: id,
  section: 'x',
  from: '0',
  to: '1',
  toValue: 1,
  seconds: 3,
});
/** Keys of the first movements of its break. */
const keysOf = (stage: StageDesk) => {
  const keys = stage.work().map((w) => w.key);
  return (count: number): ReadonlySet<string> => new Set(keys.slice(0, count));
};
const portion = (panel: string, song: string, ...ids: string[]) => ({
  panel,
  person: panel === 's' ? 'low' : 'high',
  song,
  steps: ids.map(step),
  seconds: 3 * ids.length,
  early: false,
});
const plan: EveningPlan = {
  breaks: [
    {
      song: 'one',
      length: 60,
      portions: [portion('s', 'one', 'a', 'b', 'c'), portion('e', 'one', 'd')],
      during: [],
      loads: {},
      over: 0,
    },
    {
      song: 'two',
      length: 60,
      portions: [portion('s', 'two', 'a')],
      during: [portion('s', 'two', 'x')],
      loads: {},
      over: 0,
    },
  ],
  seconds: 15,
  movements: 5,
  worst: -1,
  gone: [],
  kept: [],
  handed: [],
  handedSure: true,
  keptSure: true,
  noPlaces: [],
  compromises: [],
};

function onStage(person = 'low', kind: 'stage' | 'rehearsal' = 'stage') {
  const timed = signal<readonly Timed[]>([]);
  const marks = signal<Marks>({});
  const line = {
    walk: signal({ kind, before: {} }),
    marks,
    say: (key: string, value: string, more: Partial<WalkMark> = {}) =>
      marks.update((all) =>
        withMark(all, key, { value, device: 'd', at: '2026-12-12T21:00:00.000Z', ...more }),
      ),
  };
  const desk = {
    evening: signal(evening),
    plan: signal(plan),
    played: () => undefined,
    freeze: () => undefined,
    timed,
  };
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      StageDesk,
      { provide: SetDesk, useValue: desk },
      { provide: WalkLine, useValue: line },
    ],
  });
  const stage = TestBed.inject(StageDesk);
  stage.person.set(person);
  const ids = () => stage.turn().map((w) => w.step.id);
  return { stage, line, ids, timed };
}

describe('one person’s way through the breaks', () => {
  it('is only what they move, one after another', () => {
    const { stage, ids } = onStage();
    expect(ids()).toEqual(['a', 'b', 'c']);
    expect(stage.needs()).toBe(9);
    stage.tick();
    expect(ids()).toEqual(['b', 'c']);
    stage.later();
    expect(ids()).toEqual(['c', 'b']);
    stage.back();
    expect(ids()).toEqual(['a', 'c', 'b']);
    expect(onStage('high').ids()).toEqual(['d']);
    expect(onStage('').ids()).toEqual(['a', 'b', 'c', 'd']);
  });

  it('begins the break’s time with the first tick, once', () => {
    const { stage } = onStage();
    expect(stage.begun()).toBeNull();
    stage.tick();
    const begun = stage.begun();
    expect(begun).not.toBeNull();
    stage.tick();
    expect(stage.begun()).toBe(begun);
    stage.again(stage.work());
    expect(stage.begun()).toBeNull();
  });

  it('counts what is done during the song before only once that is over', () => {
    const { stage } = onStage();
    stage.go(1);
    const left = 3 * stage.work().filter((w) => w.left).length;
    expect(stage.needs()).toBe(left + 3);
    stage.tick(stage.work().find((w) => w.during));
    expect(stage.begun()).toBeNull();
    stage.back();
    stage.begin();
    expect(stage.needs()).toBe(left + 6);
  });

  it('is each person’s own: nobody waits for anybody else', () => {
    const { stage, line, ids } = onStage();
    line.say(placeKey('high'), 'two');
    expect(stage.at()).toBe(0);
    stage.go(1);
    expect(stage.song()?.id).toBe('two');
    // What was left open before comes first, but for what this song moves anyway.
    expect(ids()).toEqual(['b', 'c', 'x', 'a']);
    stage.go(7);
    expect(stage.at()).toBe(1);
  });

  it('tells how far the others are', () => {
    const { stage, line } = onStage();
    expect(stage.others()).toEqual([{ id: 'high', name: 'high keys', all: 1, left: 1 }]);
    line.say(workKey('one', 'e', 'd'), 'done');
    expect(stage.others()[0]!.left).toBe(0);
  });

  it('takes the time from one tick to the next, and tells what was slow', () => {
    const { stage, line } = onStage();
    stage.tick();
    expect(line.marks()[workKey('one', 's', 'a')]).toMatchObject({ value: 'done', person: 'low' });
    stage.tick();
    expect(line.marks()[workKey('one', 's', 'b')]!.seconds).toBeLessThan(1);
    line.say(workKey('one', 's', 'c'), 'done', { seconds: 9 });
    expect(stage.slow().map((s) => s.work.step.id)).toEqual(['c']);
    expect(stage.took()).toBeGreaterThanOrEqual(9);
  });

  it('is set right by a look: the first so many are done, the others open', () => {
    const { stage, ids } = onStage();
    const first = keysOf(stage);
    stage.settle(stage.work(), first(2));
    expect(ids()).toEqual(['c']);
    stage.settle(stage.work(), first(0));
    expect(ids()).toEqual(['a', 'b', 'c']);
  });

  it('remembers what had been ticked and did not stand, until it is ticked again and after', () => {
    const { stage, line } = onStage();
    const missed = (id: string) => line.marks()[workKey('one', 's', id)]?.missed;
    const first = keysOf(stage);
    stage.tick();
    stage.tick();
    stage.settle(stage.work(), first(1));
    expect([missed('a'), missed('b'), missed('c')]).toEqual([undefined, 1, undefined]);
    stage.tick();
    expect(line.marks()[workKey('one', 's', 'b')]).toMatchObject({ value: 'done', missed: 1 });
    // Once more for practice, or taken back at once, is no miss.
    stage.again(stage.work());
    expect(missed('b')).toBe(1);
    stage.tick();
    stage.back();
    expect(missed('a')).toBeUndefined();
  });

  it('brings up first what was slow or went wrong before, where it is rehearsed', () => {
    const tick = (id: string, seconds: number, more: Partial<Timed> = {}): Timed => ({
      key: workKey('one', 's', id),
      person: 'low',
      kind: 'knob',
      seconds,
      at: '2026-12-01T10:00:00.000Z',
      ...more,
    });
    const before = [
      ...Array.from({ length: 15 }, (_, i) => tick(`e${i}`, 2)),
      tick('b', 2, { missed: 1 }),
      tick('c', 9),
    ];
    const rehearsed = onStage('low', 'rehearsal');
    rehearsed.timed.set(before);
    expect(rehearsed.ids()).toEqual(['b', 'c', 'a']);
    const played = onStage('low', 'stage');
    played.timed.set(before);
    expect(played.ids()).toEqual(['a', 'b', 'c']);
    expect([...played.stage.hard().keys()]).toEqual([
      workKey('one', 's', 'c'),
      workKey('one', 's', 'b'),
    ]);
  });
});
