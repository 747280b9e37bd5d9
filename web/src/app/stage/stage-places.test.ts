import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import {
  eveningSchema,
  type EveningPlan,
  instrumentSchema,
  type Marks,
  panelAtStart,
  patchSchema,
  planRebuild,
  type WalkMark,
  withMark,
  workOf,
} from '@hurrel/core';
import sluiceFile from '../../../../library/instruments/oxbow-sluice.json';
import bassFile from '../../../../library/patches/winch-room-bass.json';
import { SetDesk } from '../sets/set-desk';
import { WalkLine } from '../walk/walk-line';
import { MadeAhead } from './made-ahead';
import type { Sound, SoundRequest } from './messages';
import { StageDesk } from './stage-desk';
import { StageListen } from './stage-listen';
import { StagePlaces } from './stage-places';
import { StageSound } from './stage-sound';

const face = instrumentSchema.parse(sluiceFile);
const patch = patchSchema.parse(bassFile);
const rebuild = planRebuild(face, panelAtStart(face), patch);
const steps = workOf(rebuild);
const [first, second] = rebuild.steps.filter((s) => s.kind === 'listening');
/** Steps of a rebuild before one of its stops. */
const before = (id: string) =>
  workOf({
    ...rebuild,
    steps: rebuild.steps.slice(
      0,
      rebuild.steps.findIndex((s) => s.id === id),
    ),
  });
const [upToFirst, upToSecond] = [before(first!.id), before(second!.id)];

/** One changeover of the Sluice, its last steps another's if they are parted. */
function onStage(parted = steps.length, variation?: string) {
  const evening = eveningSchema.parse({
    format: 'hurrel-set',
    version: 1,
    name: 'Skerrow Lock',
    people: ['low', 'high'].map((id) => ({ id, name: id })),
    panels: [{ id: 's', name: 'Sluice', instrument: face.id, by: 'low' }],
    songs: [
      {
        id: 'one',
        name: 'one',
        pause: 60,
        plays: [{ panel: 's', patch: 'bass', ...(variation ? { variation } : {}) }],
      },
    ],
  });
  const portion = (person: string, of: typeof steps) => ({
    panel: 's',
    person,
    song: 'one',
    steps: of,
    seconds: 3,
    early: false,
  });
  const plan = {
    breaks: [
      {
        song: 'one',
        portions: [portion('low', steps.slice(0, parted)), portion('high', steps.slice(parted))],
        during: [],
      },
    ],
    compromises: [],
  } as unknown as EveningPlan;
  const marks = signal<Marks>({});
  const say = (key: string, value: string, more: Partial<WalkMark> = {}) =>
    marks.update((all) =>
      withMark(all, key, { value, device: 'd', at: '2026-12-12T21:00:00.000Z', ...more }),
    );
  const asked: SoundRequest[] = [];
  const played: [string, Sound][] = [];
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      StageDesk,
      StagePlaces,
      {
        provide: MadeAhead,
        useValue: {
          sound: (request: SoundRequest) => {
            asked.push(request);
            return Promise.resolve({ channels: [new Float32Array([0.5])], sampleRate: 1 });
          },
        },
      },
      {
        provide: StageSound,
        useValue: {
          playing: () => false,
          unheard: () => '',
          forget: () => undefined,
          toggle: (name: string, sound: Sound) => played.push([name, sound]),
        },
      },
      {
        provide: SetDesk,
        useValue: {
          evening: signal(evening),
          plan: signal(plan),
          played: () => ({ patch, face, sounds: face }),
          freeze: () => undefined,
          timed: signal([]),
        },
      },
      { provide: WalkLine, useValue: { walk: signal({ kind: 'stage', before: {} }), marks, say } },
    ],
  });
  const [stage, places] = [TestBed.inject(StageDesk), TestBed.inject(StagePlaces)];
  stage.person.set('low');
  const make = (count: number): void => {
    for (let i = 0; i < count; i++) stage.tick();
  };
  return { stage, places, make, asked, played };
}

describe('places to listen on stage', () => {
  it('come behind the last movement before them, and are left with the next', () => {
    const { places, make } = onStage();
    make(upToFirst.length - 1);
    expect(places.now()).toBeUndefined();
    make(1);
    expect(places.now()?.id).toBe(first!.id);
    make(1);
    expect(places.now()).toBeUndefined();
    make(upToSecond.length - upToFirst.length - 1);
    expect(places.now()?.id).toBe(second!.id);
  });

  it('stay the same while others say something: whose turn it is to be heard is not forgotten', () => {
    const { places, make } = onStage();
    make(upToFirst.length);
    const here = places.now();
    TestBed.inject(WalkLine).say('at/high', 'one');
    expect(places.now()).toBe(here);
    expect(here?.id).toBe(first!.id);
  });

  it('wait for whoever else moves the panel', () => {
    const { stage, places, make } = onStage(upToFirst.length - 1);
    make(upToFirst.length - 1);
    expect(stage.now()).toBeUndefined();
    expect(places.now()).toBeUndefined();
    stage.person.set('high');
    make(1);
    expect(places.now()?.id).toBe(first!.id);
  });

  it('are known before the break, as they will be asked for', () => {
    const { places, make, stage } = onStage();
    const coming = places.coming(0);
    make(upToFirst.length);
    expect(places.now()?.sounds).toEqual([coming[0]]);
    expect(coming.length).toBeGreaterThan(1);
    stage.person.set('high');
    expect(places.coming(0)).toEqual([]);
    expect(places.coming(1)).toEqual([]);
  });

  it('are not those of a variation, which sounds otherwise', () => {
    const { places, make } = onStage(steps.length, patch.variations[0]?.id ?? 'any');
    make(upToFirst.length);
    expect(places.coming(0)).toEqual([]);
    expect(places.now()).toBeUndefined();
  });

  it('say which key to play and what is heard, and play it as far as it is built', async () => {
    const { places, make, asked, played } = onStage();
    const fixture = TestBed.createComponent(StageListen);
    const page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
    expect(page.textContent.trim()).toBe('');
    make(upToFirst.length);
    await fixture.whenStable();
    expect(page.textContent).toContain(`You should hear: ${patch.checkpoints[0]!.hear}`);
    page.querySelector('button')!.click();
    await fixture.whenStable();
    expect(asked).toEqual(places.now()!.sounds);
    expect(played).toHaveLength(1);
  });
});
