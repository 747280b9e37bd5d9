import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { signal } from '@angular/core';
import {
  blankPatch,
  type Calls,
  eveningSchema,
  type EveningPlan,
  instrumentSchema,
  type Setting,
} from '@hurrel/core';
import document from '../../../../library/instruments/oxbow-sluice.json';
import { Preparation } from './preparation';
import { SetDesk } from './set-desk';

const instrument = instrumentSchema.parse(document);
const evening = eveningSchema.parse({
  format: 'hurrel-set',
  version: 1,
  name: 'Skerrow Lock',
  people: [{ id: 'low', name: 'low keys' }],
  panels: [{ id: 's', name: 'Sluice', instrument: 'oxbow-sluice', by: 'low' }],
  songs: ['one', 'two'].map((id) => ({
    id,
    name: `Song ${id}`,
    pause: 60,
    plays: [{ panel: 's', patch: id }],
  })),
});
const NOTHING: EveningPlan = {
  breaks: [{ song: 'one', length: 1800, portions: [], during: [], loads: {}, over: 0 }],
  seconds: 0,
  movements: 0,
  worst: -1,
  gone: [],
  kept: [],
  noPlaces: [],
  compromises: [],
  handed: [],
  handedSure: true,
  keptSure: true,
};
const plan = signal<EveningPlan | null>(null);
const calls = signal<Calls>({});

let fixture: ComponentFixture<Preparation>;
const text = (): string =>
  [...(fixture.nativeElement as HTMLElement).querySelectorAll('h3, li, p')]
    .map((e) => e.textContent!.replace(/\s+/g, ' ').trim())
    .join(' | ');
async function show(changes: Partial<EveningPlan>): Promise<string> {
  plan.set({ ...NOTHING, ...changes });
  await fixture.whenStable();
  return text();
}

beforeEach(() => {
  calls.set({});
  const desk = {
    plan,
    evening: () => ({ ...evening, calls: calls() }),
    panelName: () => 'Sluice',
    notSeen: () => ({ start: [], unknown: [] }),
    patchName: (id: string) => blankPatch(instrument, `Patch ${id}`).name,
    face: (id: string) => (id === 'gone' ? undefined : instrument),
  };
  TestBed.configureTestingModule({ providers: [{ provide: SetDesk, useValue: desk }] });
  fixture = TestBed.createComponent(Preparation);
});

describe('what is done before the evening', () => {
  it('is nothing yet, in words that say how there can be something', async () => {
    plan.set(null);
    await fixture.whenStable();
    expect(text()).toBe('');
    expect(await show({})).toBe(
      'At home: store | Nothing. Name the places that may be stored into, at a panel with a memory. | ' +
        'At sound check: let it stand | No setting has to serve two songs. | Before doors | Nothing to move.',
    );
  });

  it('stores a sound in its place, and says what that spares', async () => {
    const kept = [
      {
        panel: 's',
        place: 'A3',
        play: { panel: 's', patch: 'one' },
        songs: ['one'],
        movements: 14,
        seconds: 42,
        saves: 95,
      },
    ] as unknown as EveningPlan['kept'];
    expect(await show({ kept })).toContain(
      'A3 on Sluice: Patch one 14 movements, 0:42; spares 1:35',
    );
  });

  it('says where time is lacking and not every choice was tried', async () => {
    const says = 'Not every choice was tried: a better one may exist.';
    expect(await show({ worst: 0, keptSure: false })).toContain(says);
    expect(await show({ worst: 0 })).not.toContain(says);
    expect(await show({ keptSure: false })).not.toContain(says);
  });

  it('complains of places that a panel does not have', async () => {
    await show({ noPlaces: [{ panel: 's', place: 'Z99' }] });
    const alert = (fixture.nativeElement as HTMLElement).querySelector('[role="alert"]');
    expect(alert?.textContent?.trim()).toBe('Sluice has no place Z99.');
  });

  it('lets a setting stand for two songs, read from its own panel', async () => {
    const setting: Setting = { kind: 'set', value: 0.392 };
    const compromises = [
      { panel: 's', control: 'cutoff', from: 'one', to: 'two', setting },
    ] as unknown as EveningPlan['compromises'];
    expect(await show({ compromises })).toMatch(
      /Sluice Filter cutoff 3\.92 ?from Song one to Song two/,
    );
  });

  it('says what whoever has the most needs before doors', async () => {
    const step = { kind: 'movement', id: 'a', seconds: 3 };
    const portion = {
      panel: 's',
      person: 'low',
      song: 'one',
      steps: [step, step],
      seconds: 6,
      early: false,
    };
    const first = { ...NOTHING.breaks[0]!, portions: [portion], loads: { low: 6, high: 4 } };
    expect(await show({ breaks: [first] as unknown as EveningPlan['breaks'] })).toContain(
      '2 movements on 1 panel; whoever has the most needs 0:06 of 30:00.',
    );
  });

  it('says at which call it is done, where that is known', async () => {
    calls.set({ soundCheck: '17:30', doors: '20:00' });
    const says = await show({});
    expect(says).toContain('At sound check, 17:30: let it stand');
    expect(says).toContain('Before doors, 20:00');
  });
});
