import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { eveningSchema, type WalkKind } from '@hurrel/core';
import { type Walk, WALK_API } from '../walk/walk.api';
import { WalkStore } from '../walk/walk-store';
import { StageStart } from './stage-start';

const evening = eveningSchema.parse({
  format: 'hurrel-set',
  version: 1,
  name: 'Skerrow Lock',
  people: [
    { id: 'low', name: 'low keys' },
    { id: 'high', name: 'high keys' },
  ],
  panels: [],
  songs: [{ id: 'one', name: 'one', pause: 60, plays: [] }],
});
const walk = (id: string, kind: WalkKind, endedAt: string | null = null): Walk => ({
  id,
  evening: 'e',
  kind,
  before: {},
  createdAt: '2026-12-12T20:00:00.000Z',
  endedAt,
});

let fixture: ComponentFixture<StageStart>;
let begun: [WalkKind, object][];
let ended: string[];
let opened: { walk: string; at?: number }[];
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
const text = (): string => page().textContent!.replace(/\s+/g, ' ');
const press = async (words: string): Promise<void> => {
  [...page().querySelectorAll('button')].find((b) => b.textContent!.includes(words))!.click();
  await new Promise((done) => setTimeout(done));
  await fixture.whenStable();
};

async function open(
  walks: Walk[] | Error,
  inputs: Record<string, unknown> = {},
  refuses?: Error,
): Promise<void> {
  [begun, ended, opened] = [[], [], []];
  const api = {
    of: () => (walks instanceof Error ? Promise.reject(walks) : Promise.resolve(walks)),
    begin: (_: string, kind: WalkKind, before: object) => {
      if (refuses) return Promise.reject(refuses);
      begun.push([kind, before]);
      return Promise.resolve(walk('new', kind));
    },
    end: (id: string) => Promise.resolve(ended.push(id)),
  };
  TestBed.configureTestingModule({
    providers: [
      provideRouter([]),
      { provide: WALK_API, useValue: api },
      { provide: WalkStore, useValue: { of: () => [walk('kept', 'stage')] } },
    ],
  });
  fixture = TestBed.createComponent(StageStart);
  const all = { setId: 'e', evening, before: { s: { settings: {} } }, ...inputs };
  for (const [name, value] of Object.entries(all)) fixture.componentRef.setInput(name, value);
  fixture.componentInstance.opened.subscribe((one) => opened.push(one));
  await fixture.whenStable();
  await new Promise((done) => setTimeout(done));
  await fixture.whenStable();
}

describe('before a walk', () => {
  it('begins an evening or a rehearsal with what the panels show', async () => {
    await open([]);
    await press('Begin the evening');
    await press('Rehearse against the clock');
    expect(begun.map(([kind]) => kind)).toEqual(['stage', 'rehearsal']);
    expect(begun[0]![1]).toEqual({ s: { settings: {} } });
    expect(opened).toEqual([{ walk: 'new' }, { walk: 'new' }]);
  });

  it('goes on with the one that is not over, or ends it', async () => {
    await open([walk('old', 'stage', '2026-12-12T23:00:00.000Z'), walk('now', 'stage')]);
    await press('Resume');
    expect(opened).toEqual([{ walk: 'now' }]);
    await press('End it');
    expect(ended).toEqual(['now']);
    expect(text()).toContain('Begin the evening');
  });

  it('drills the hardest breaks and movements, each from where it is', async () => {
    await open([], {
      hardest: [{ at: 4, name: 'oars', needs: 98, length: 100 }],
      moves: [{ at: 2, says: 'gates: Mix osc 2', why: 'went wrong twice' }],
    });
    expect(text()).toContain('5 oars 1:38 of 1:40');
    expect(text()).toContain('gates: Mix osc 2 went wrong twice');
    await press('oars');
    await press('gates: Mix osc 2');
    expect(begun.map(([kind]) => kind)).toEqual(['rehearsal', 'rehearsal']);
    expect(opened).toEqual([
      { walk: 'new', at: 4 },
      { walk: 'new', at: 2 },
    ]);
  });

  it('has what this device kept when there is no server, and says what needs one', async () => {
    const away = new Error('The server does not answer.');
    await open(away, {}, away);
    await press('Resume');
    expect(opened).toEqual([{ walk: 'kept' }]);
    await press('Rehearse');
    expect(page().querySelector('[role="alert"]')!.textContent).toBe(
      'The server does not answer. A walk begins where there is a server.',
    );
  });

  it('begins nothing where there are no songs', async () => {
    await open([], { evening: { ...evening, songs: [] } });
    expect(text()).toContain('This set has no songs yet.');
    expect(text()).not.toContain('Begin the evening');
  });
});
