import { jest } from '@jest/globals';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import {
  type EveningPlan,
  eveningSchema,
  instrumentSchema,
  loadedKey,
  type Marks,
  type WalkMark,
  withMark,
  type Work,
  workKey,
} from '@hurrel/core';
import estuaryFile from '../../../../library/instruments/marram-estuary.json';
import { PanelsHeard } from '../midi/panels-heard';
import type { Chosen } from '../midi/sent';
import { SetDesk } from '../sets/set-desk';
import { WalkLine } from '../walk/walk-line';
import { LoadedByHand } from './loaded-by-hand';
import { StageAstray } from './stage-astray';
import { StageDesk } from './stage-desk';
import { TurnedByHand } from './turned-by-hand';

const face = instrumentSchema.parse(estuaryFile);
const load: Work = { kind: 'load', id: 'load', place: 'A12', text: 'Load A12', seconds: 4 };
const turn = (id: string): Work => ({
  ...{ kind: 'movement', id, control: id, section: 'filter' },
  ...{ from: '0', to: '1', toValue: 1, seconds: 3 },
});
const evening = eveningSchema.parse({
  format: 'hurrel-set',
  version: 1,
  name: 'Skerrow Lock',
  people: [{ id: 'low', name: 'low keys' }],
  panels: [{ id: 'e', name: 'Estuary', instrument: face.id }],
  songs: ['one', 'two', 'three'].map((id) => ({
    ...{ id, name: id, pause: 60 },
    plays: [{ panel: 'e', patch: `patch-${id}` }],
  })),
});
/** The first song is loaded, the second is set by hand from there, the third needs nothing. */
const plan = {
  breaks: [[load], [turn('cutoff'), turn('resonance')], []].map((steps, i) => ({
    song: evening.songs[i]!.id,
    portions: [{ panel: 'e', person: 'low', song: evening.songs[i]!.id, steps, early: false }],
    during: [],
  })),
  compromises: [],
} as unknown as EveningPlan;

function onStage() {
  const chosen = signal<Chosen | undefined>(undefined);
  const marks = signal<Marks>({});
  const said: Omit<WalkMark, 'clock' | 'value'> = { device: 'd', at: '2026-12-12T21:00:00.000Z' };
  const say = (key: string, value: string, more: Partial<WalkMark> = {}): void =>
    marks.update((all) => withMark(all, key, { ...said, ...more, value }));
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      provideRouter([]),
      StageDesk,
      LoadedByHand,
      { provide: TurnedByHand, useValue: { all: () => [] } },
      { provide: PanelsHeard, useValue: { chosenOn: () => chosen() } },
      {
        provide: SetDesk,
        useValue: {
          evening: signal(evening),
          plan: signal(plan),
          played: () => ({ patch: { settings: {} }, face, sounds: face }),
          freeze: () => undefined,
          panelName: () => 'Estuary',
          timed: signal([]),
        },
      },
      { provide: WalkLine, useValue: { walk: signal({ kind: 'stage', before: {} }), marks, say } },
    ],
  });
  const [stage, loaded] = [TestBed.inject(StageDesk), TestBed.inject(LoadedByHand)];
  stage.person.set('low');
  TestBed.tick();
  /** Program 11 of the first bank is A12. */
  const choose = async (...programs: number[]): Promise<void> => {
    for (const program of programs) {
      chosen.set({ program, at: Date.now() });
      TestBed.tick();
      await jest.advanceTimersByTimeAsync(100);
    }
    await jest.advanceTimersByTimeAsync(500);
  };
  return { stage, loaded, marks, choose, say };
}

describe('a place that is chosen on an instrument', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());

  it('is said in the walk once nobody steps on', async () => {
    const { marks, choose } = onStage();
    await jest.advanceTimersByTimeAsync(1000);
    await choose(9, 10, 11);
    expect(marks()[loadedKey('e')]).toMatchObject({ value: 'A12', clock: 1 });
    await choose(100);
    expect(marks()[loadedKey('e')]?.value).toBe('A12');
  });

  it('has arrived where it is to be loaded, until that is taken back', async () => {
    const { stage, loaded, choose, say } = onStage();
    const now = () => stage.now()!;
    expect(loaded.arrived(now())).toBe(false);
    await choose(10);
    expect(loaded.arrived(now())).toBe(false);
    expect(loaded.over()).toEqual([]);
    await choose(11);
    expect(loaded.arrived(now())).toBe(true);
    stage.tick();
    expect(loaded.over()).toEqual([]);
    stage.back();
    expect(loaded.arrived(now())).toBe(false);
    // And once more on the instrument.
    say(loadedKey('e'), 'A12');
    expect(loaded.arrived(now())).toBe(true);
  });

  it('is told where the song wants another, and led back', async () => {
    const { stage, loaded, choose } = onStage();
    stage.tick();
    await choose(12);
    expect(loaded.over()).toMatchObject([{ name: 'Estuary', place: 'A13', shall: 'A12' }]);
    expect(loaded.over()[0]!.undone.map((w) => w.step.id)).toEqual(['load']);
    await choose(11);
    expect(loaded.over()).toEqual([]);
  });

  describe('over what was set by hand', () => {
    const setByHand = () => {
      const on = onStage();
      on.stage.tick();
      on.stage.go(1);
      on.stage.tick();
      on.stage.tick();
      const show = () => {
        const fixture = TestBed.createComponent(StageAstray);
        fixture.detectChanges();
        const page = fixture.nativeElement as HTMLElement;
        const says = (): string => page.textContent.replace(/\s+/g, ' ').trim();
        return { fixture, page, says };
      };
      return { ...on, show };
    };

    it('is told with the way to its rebuild, until somebody says that it stands again', async () => {
      const { stage, loaded, choose, show } = setByHand();
      // Also the place from which it was loaded before.
      await choose(11);
      const { fixture, page, says } = show();
      expect(says()).toContain('Estuary A12 was loaded over what stood there');
      expect(page.querySelector('a')!.getAttribute('href')).toBe('/patch/patch-two/rebuild');
      // A movement made once more is not all that may be another.
      stage.again(stage.done().slice(0, 1));
      stage.tick();
      expect(loaded.over()).toHaveLength(1);
      page.querySelector('button')!.click();
      fixture.detectChanges();
      expect(says()).toBe('');
      expect(stage.turn()).toEqual([]);
    });

    it('is told in a later song too', async () => {
      const { stage, choose, show } = setByHand();
      stage.go(2);
      await choose(11);
      const { page } = show();
      expect(page.querySelector('a')!.getAttribute('href')).toBe('/patch/patch-three/rebuild');
    });
  });

  it('is told before a song is set by hand too: its movements are from what stood there', async () => {
    const { stage, loaded, choose, say } = onStage();
    stage.tick();
    stage.go(1);
    await choose(12);
    expect(loaded.over()).toMatchObject([{ place: 'A13', undone: [] }]);
    say(workKey('two', 'e', 'cutoff'), 'done');
    expect(loaded.over()).toHaveLength(1);
    await choose(11);
    // Now what was made is gone.
    expect(loaded.over()).toMatchObject([{ place: 'A12' }]);
  });
});
