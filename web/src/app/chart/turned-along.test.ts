import { signal } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideState, Store } from '@ngrx/store';
import {
  blankPatch,
  instrumentSchema,
  type Patch,
  type Shown,
  shownAs,
  shownId,
} from '@hurrel/core';
import curlewFile from '../../../../library/instruments/staithe-curlew.json';
import { openPatch } from '../../testing/open-patch';
import { PatchActions } from '../patch/patch.actions';
import { ShownActions, shownFeature } from '../shown/shown.document';
import { KeysService } from '../sound/keys.service';
import { TurnedAlong } from './turned-along';

const curlew = instrumentSchema.parse(curlewFile);
const PANEL = shownId(curlew.id, '');

let fixture: ComponentFixture<TurnedAlong>;
const wheel = signal(0);
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
const along = (): HTMLInputElement | null => page().querySelector('input');
const shown = (): Shown | null =>
  TestBed.inject(Store).selectSignal(shownFeature.selectShownState)().present?.shown ?? null;
const at = (control: string): unknown => shown()?.panel.settings[control];

/** The panel is known to show a patch. */
async function shows(id: string): Promise<void> {
  const patch = { ...blankPatch(curlew, 'tried'), settings: {} };
  const document = { shown: shownAs({ id, name: 'tried', patch }, new Date().toISOString()) };
  const stored = { id: PANEL, version: 0, updatedAt: '', document };
  TestBed.inject(Store).dispatch(ShownActions.opened({ stored, context: {} }));
  await fixture.whenStable();
}
async function open(changes: Partial<Patch> = {}): Promise<Store> {
  wheel.set(0);
  openPatch(curlew, changes, [
    provideState(shownFeature),
    { provide: KeysService, useValue: { wheel } },
  ]);
  fixture = TestBed.createComponent(TurnedAlong);
  await fixture.whenStable();
  return TestBed.inject(Store);
}
const turn = async (store: Store, control: string, value: number): Promise<void> => {
  store.dispatch(PatchActions.setControl({ control, setting: { kind: 'set', value } }));
  await fixture.whenStable();
};

const set = (value: number) => ({ kind: 'set', value });

describe('a panel that is turned along', () => {
  it('is spoken of only where it is known to show this patch', async () => {
    await open();
    expect(along()).toBeNull();
    await shows('another');
    expect(along()).toBeNull();
    await shows('p');
    expect(page().textContent).toContain('This panel shows tried, for a moment.');
    expect(along()!.checked).toBe(false);
  });

  it('is turned along once one says so, and not before', async () => {
    const store = await open();
    await shows('p');
    await turn(store, 'cutoff', 0.3);
    expect(at('cutoff')).toBeUndefined();
    along()!.click();
    await fixture.whenStable();
    expect(at('cutoff')).toBeUndefined();
    await turn(store, 'cutoff', 0.4);
    expect(at('cutoff')).toEqual(set(0.4));
    store.dispatch(PatchActions.undo());
    await fixture.whenStable();
    expect(at('cutoff')).toEqual(set(0.3));
    along()!.click();
    await turn(store, 'cutoff', 0.8);
    expect(at('cutoff')).toEqual(set(0.3));
  });

  it('is not turned by looking at a variation', async () => {
    const settings = { cutoff: { kind: 'set', value: 0.9 } as const };
    const variations = [
      { id: 'v1', name: 'bright', about: '', settings, pulled: [], plugged: [], rows: [] },
    ];
    const store = await open({ variations });
    await shows('p');
    along()!.click();
    await fixture.whenStable();
    store.dispatch(PatchActions.showVariation({ variation: 'v1' }));
    await fixture.whenStable();
    expect(at('cutoff')).toBeUndefined();
    // What is turned while it is looked at is.
    await turn(store, 'resonance', 0.2);
    expect([at('cutoff'), at('resonance')]).toEqual([undefined, set(0.2)]);
  });

  it('has its wheel where a wheel over MIDI was moved to', async () => {
    await open();
    await shows('p');
    wheel.set(0.2);
    await fixture.whenStable();
    expect(at('wheel')).toBeUndefined();
    along()!.click();
    await fixture.whenStable();
    wheel.set(0.7);
    await fixture.whenStable();
    expect(at('wheel')).toEqual(set(0.7));
  });
});
