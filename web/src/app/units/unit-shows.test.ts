import { signal } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { blankPatch, instrumentSchema, type Shown, shownAs, shownTurned } from '@hurrel/core';
import curlewFile from '../../../../library/instruments/staithe-curlew.json';
import { ShownPanel } from '../shown/shown-panel';
import { UnitDesk } from './unit-desk';
import { UnitShows } from './unit-shows';

const curlew = instrumentSchema.parse(curlewFile);
const AT = '2026-11-29T18:00:00.000Z';
const patch = blankPatch(curlew, 'Fog');
const known = shownAs({ id: 'p1', name: 'Fog', patch }, AT);

let fixture: ComponentFixture<UnitShows>;
const now = signal<Shown | null>(null);
const asked: string[] = [];
const turned: string[] = [];
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
const text = (): string => page().textContent!.replace(/\s+/g, ' ').trim();
const button = (): HTMLButtonElement => page().querySelector('button')!;

beforeEach(async () => {
  now.set(null);
  asked.length = turned.length = 0;
  const shown = {
    now,
    says: () => 'This panel shows Fog, for 3 hours.',
    stand: (panel: string) => asked.push(panel),
    turned: (of: { id: string }) => turned.push(of.id),
  };
  const desk = { unit: signal({ instrument: curlew.id }), instrument: signal(curlew) };
  TestBed.configureTestingModule({
    providers: [
      provideRouter([]),
      { provide: ShownPanel, useValue: shown },
      { provide: UnitDesk, useValue: desk },
    ],
  });
  fixture = TestBed.createComponent(UnitShows);
  fixture.componentRef.setInput('unit', 'u7');
  await fixture.whenStable();
});

describe('what the panel of a unit shows', () => {
  it('is asked of that unit, and said to be unknown where nobody knows', () => {
    expect(asked).toEqual(['unit-u7']);
    expect(text()).toContain('Unknown');
    expect(page().querySelector('button')).toBeNull();
  });

  it('is told, with the way to its rebuild', async () => {
    now.set(known);
    await fixture.whenStable();
    expect(text()).toContain('This panel shows Fog, for 3 hours.');
    expect(page().querySelector('a')!.getAttribute('href')).toBe('/patch/p1/rebuild');
    expect(text()).not.toContain('elsewhere');
    button().click();
    expect(turned).toEqual([curlew.id]);
  });

  it('may stand elsewhere in parts or in all', async () => {
    now.set({ ...known, uncertain: ['cutoff', 'resonance'] });
    await fixture.whenStable();
    expect(text()).toContain('2 controls may stand elsewhere.');
    expect(button().disabled).toBe(false);
    now.set(shownTurned(known, curlew, AT));
    await fixture.whenStable();
    expect(text()).toContain(`${curlew.controls.length} controls may stand elsewhere.`);
    expect(button().disabled).toBe(true);
  });

  it('leads nowhere where it is no patch of the library', async () => {
    const { patch: _, ...loose } = known;
    now.set(loose);
    await fixture.whenStable();
    expect(page().querySelector('a')).toBeNull();
  });
});
