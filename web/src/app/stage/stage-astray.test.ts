import { jest } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import { signal } from '@angular/core';
import {
  heardKey,
  instrumentSchema,
  loadedKey,
  type Marks,
  type Setting,
  type WalkMark,
} from '@hurrel/core';
import estuaryFile from '../../../../library/instruments/marram-estuary.json';
import { PanelsHeard } from '../midi/panels-heard';
import type { Sent } from '../midi/sent';
import { WalkLine } from '../walk/walk-line';
import { StageAstray } from './stage-astray';
import { LoadedByHand } from './loaded-by-hand';
import { StageDesk } from './stage-desk';
import { TurnedByHand } from './turned-by-hand';

const face = instrumentSchema.parse(estuaryFile);
const [first, second] = ['resonance', 'env1-attack'].map((id) =>
  face.controls.find((c) => c.id === id),
);
const low: Setting = { kind: 'set', value: 0 };

/** Said at a time in ms, and the later the later. */
const mark = (at: number, value = 'done'): WalkMark => ({
  value,
  clock: at,
  device: 'other',
  at: new Date(at).toISOString(),
});

/** Two controls shall stand at 0; the first was turned to 10 at a time. */
async function stand(done: Record<string, number> = {}, open: string[] = [], marks: Marks = {}) {
  TestBed.resetTestingModule();
  const sent = signal<Sent>(new Map([[first!.cc!, { sent: 127, at: 100 }]]));
  TestBed.configureTestingModule({
    providers: [
      TurnedByHand,
      { provide: LoadedByHand, useValue: { over: () => [] } },
      {
        provide: PanelsHeard,
        useValue: { of: (id: string) => (id === 'unit-e' ? sent() : new Map()) },
      },
      {
        provide: StageDesk,
        useValue: {
          song: () => ({ id: 'two' }),
          turn: () => open.map((id) => ({ panel: 'e', step: { id } })),
          plays: () => [{ panel: 'e' }, { panel: 'gone' }],
          goal: (_: string, panel: string) =>
            panel === 'e'
              ? { face, patch: { settings: { [first!.id]: low, [second!.id]: low } } }
              : null,
          keptAs: (id: string) => `unit-${id}`,
          panelName: () => 'Estuary',
          lastDone: (_: string, step: string) => done[step] && mark(done[step]),
          panels: () => [{ id: 'e' }],
          faceOf: () => face,
        },
      },
      { provide: WalkLine, useValue: { walk: () => null, marks: () => marks } },
    ],
  });
  const fixture = TestBed.createComponent(StageAstray);
  await fixture.whenStable();
  const says = (): string =>
    (fixture.nativeElement as HTMLElement).textContent.replace(/\s+/g, ' ').trim();
  return { fixture, sent, says };
}

describe('what was turned while a song was played', () => {
  it('is told with where it stands and where it shall, until it is heard to be back', async () => {
    const { fixture, sent, says } = await stand();
    expect(says()).toMatch(/^Estuary .+ was turned to 10: back to 0$/);
    sent.set(new Map([[first!.cc!, { sent: 0, at: 200 }]]));
    await fixture.whenStable();
    expect(says()).toBe('');
  });

  it('is not told where it is moved in this break anyhow', async () => {
    expect((await stand({}, [first!.id])).says()).toBe('');
  });

  it.each([
    ['was set by a movement since', { [first!.id]: 150 }],
    ['was loaded over since', { load: 150 }],
  ])('is not told where it %s', async (_, done) => {
    expect((await stand(done)).says()).toBe('');
  });

  it('is not told where a place of the memory was chosen since', async () => {
    const loaded = { [loadedKey('e')]: mark(150, 'A12') };
    expect((await stand({}, [], loaded)).says()).toBe('');
    expect((await stand({}, [], { [loadedKey('e')]: mark(50, 'A12') })).says()).toContain(
      'back to 0',
    );
  });

  it('is told where it was turned after it was set', async () => {
    const done = { [first!.id]: 50, load: 50, [second!.id]: 150 };
    expect((await stand(done)).says()).toContain('back to 0');
  });

  describe('at another screen', () => {
    const said = (at: number, sent: string) => ({
      [heardKey('e', second!.id)]: mark(at, sent),
    });

    it('is told here too', async () => {
      const { says } = await stand({ [first!.id]: 150 }, [], said(50, '127'));
      expect(says()).toMatch(/^Estuary .+ was turned to .+: back to /);
    });

    it('is not told where it was set since, or stands as it shall', async () => {
      const set = { [first!.id]: 150, [second!.id]: 60 };
      expect((await stand(set, [], said(50, '127'))).says()).toBe('');
      expect((await stand({ [first!.id]: 150 }, [], said(50, '0'))).says()).toBe('');
    });

    it('is where it was heard last, at whichever screen', async () => {
      const later = { [heardKey('e', first!.id)]: mark(100 + 60_000, '0') };
      expect((await stand({}, [], later)).says()).toBe('');
      const before = { [heardKey('e', first!.id)]: mark(50, '0') };
      expect((await stand({}, [], before)).says()).toContain('was turned to 10');
    });
  });
});

describe('what is heard on stage', () => {
  const listen = () => {
    const sent = signal<Sent>(new Map());
    const said: [string, string][] = [];
    let set: WalkMark | undefined;
    TestBed.configureTestingModule({
      providers: [
        TurnedByHand,
        { provide: PanelsHeard, useValue: { of: () => sent() } },
        {
          provide: StageDesk,
          useValue: {
            panels: () => [{ id: 'e' }],
            keptAs: (id: string) => `unit-${id}`,
            faceOf: () => face,
            lastDone: (_: string, step: string) => (step === first!.id ? set : undefined),
          },
        },
        {
          provide: WalkLine,
          useValue: {
            walk: () => ({ id: 'w' }),
            marks: () => ({}),
            say: (key: string, value: string) => said.push([key, value]),
          },
        },
      ],
    });
    TestBed.inject(TurnedByHand);
    const hear = (of: number, value: number): void => {
      sent.update((all) => new Map(all).set(of, { sent: value, at: Date.now() }));
      TestBed.tick();
    };
    TestBed.tick();
    return { said, hear, setNow: () => (set = mark(Date.now())) };
  };
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());
  const later = (ms: number) => jest.advanceTimersByTimeAsync(ms);

  it('is said in the walk once the hand rests, each control where it was last', async () => {
    const { said, hear } = listen();
    await later(1000);
    hear(first!.cc!, 10);
    await later(300);
    hear(first!.cc!, 20);
    hear(second!.cc!, 30);
    expect(said).toEqual([]);
    await later(500);
    const all = [
      [heardKey('e', first!.id), '20'],
      [heardKey('e', second!.id), '30'],
    ];
    expect(said.sort()).toEqual(all.sort());
    hear(second!.cc!, 31);
    await later(500);
    expect(said).toHaveLength(3);
    expect(said.at(-1)).toEqual([heardKey('e', second!.id), '31']);
  });

  it('is not said of what a movement has set since', async () => {
    const { said, hear, setNow } = listen();
    hear(first!.cc!, 10);
    await later(100);
    setNow();
    await later(1000);
    expect(said).toEqual([]);
  });
});
