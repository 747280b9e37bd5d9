import { signal } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideState, Store } from '@ngrx/store';
import { type Control, instrumentSchema, type Patch, shownAs, shownId } from '@hurrel/core';
import curlewFile from '../../../../library/instruments/staithe-curlew.json';
import { Subject } from 'rxjs';
import { openPatch } from '../../testing/open-patch';
import { MidiInService, type MovedAt } from '../midi/midi-in.service';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';
import { ShownActions, shownFeature } from '../shown/shown.document';
import { ShownPanel } from '../shown/shown-panel';
import { KnobsHeard } from './knobs-heard';

const silent = instrumentSchema.parse(curlewFile);
/** The same, with two controls that say where they stand. */
const curlew = {
  ...silent,
  controls: silent.controls.map((c): Control =>
    c.id === 'cutoff' ? { ...c, cc: 74 } : c.id === 'osc1-wave' ? { ...c, cc: 20 } : c,
  ),
};
const input = { id: 'one', name: 'Curlew' };
let moved = new Subject<MovedAt>();
let fixture: ComponentFixture<KnobsHeard>;
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
const patch = (): Patch =>
  TestBed.inject(Store).selectSignal(patchFeature.selectPatchState)().present!;
const panelAt = (control: string): unknown =>
  TestBed.inject(Store).selectSignal(shownFeature.selectShownState)().present?.shown?.panel
    .settings[control];

async function open(instrument = curlew): Promise<void> {
  localStorage.clear();
  moved = new Subject();
  moved.next({ input, channel: 1, cc: 74, sent: 3 });
  openPatch(instrument, {}, [
    provideState(shownFeature),
    ShownPanel,
    {
      provide: MidiInService,
      useValue: {
        moved,
        chosen: new Subject(),
        supported: true,
        inputs: signal(['Curlew']),
        fault: signal(''),
        connectIfAllowed: async () => undefined,
      },
    },
  ]);
  fixture = TestBed.createComponent(KnobsHeard);
  const store = TestBed.inject(Store);
  const id = shownId(instrument.id, '');
  TestBed.inject(ShownPanel).stand(id, 'p', 'tried');
  await fixture.whenStable();
  const document = {
    shown: shownAs({ id: 'p', name: 'tried', patch: patch() }, new Date().toISOString()),
  };
  store.dispatch(
    ShownActions.opened({ stored: { id, version: 0, updatedAt: '', document }, context: {} }),
  );
  await fixture.whenStable();
}
const move = async (cc: number, sent: number, channel = 1): Promise<void> => {
  moved.next({ input, channel, cc, sent });
  await fixture.whenStable();
};

const press = async (name: string): Promise<void> => {
  [...page().querySelectorAll('button')].find((b) => b.textContent.trim() === name)!.click();
  await fixture.whenStable();
};

describe('knobs that are heard over MIDI', () => {
  it('are spoken of only where some control sends a number', async () => {
    await open(silent);
    expect(page().textContent).toBe('');
  });

  it('are believed once somebody has said that it is this panel', async () => {
    await open();
    await move(74, 64);
    expect(panelAt('cutoff')).toBeUndefined();
    expect(page().textContent).toMatch(/cutoff 5 was heard at\s+Curlew, channel 1/i);
    await press('It is this panel');
    expect(panelAt('cutoff')).toEqual({ kind: 'set', value: 0.5 });
    expect(page().textContent).toMatch(/Heard at Curlew, channel 1/);
    await move(74, 127, 2);
    expect(panelAt('cutoff')).toEqual({ kind: 'set', value: 0.5 });
  });

  it('are another’s where one says so, and asked for no more', async () => {
    await open();
    await move(74, 64);
    await press('It is another');
    await move(74, 90);
    expect(panelAt('cutoff')).toBeUndefined();
    expect(page().textContent).not.toContain('was heard at');
    await move(74, 90, 2);
    expect(page().textContent).toContain('channel 2');
  });

  it('say where the panel stands, and leave the record alone', async () => {
    await open();
    // What was moved before is no news.
    expect(page().textContent).not.toContain('was heard at');
    await move(74, 64);
    await press('It is this panel');
    expect(panelAt('cutoff')).toEqual({ kind: 'set', value: 0.5 });
    expect(patch().settings['cutoff']).toBeUndefined();
    expect(page().querySelector('[role="status"]')!.textContent).toMatch(/cutoff\s+5/i);
    await move(99, 12);
    expect(page().querySelector('[role="status"]')!.textContent).toMatch(/cutoff/i);
  });

  it('are recorded where one says so, one movement one step to undo', async () => {
    await open();
    await move(74, 3);
    await press('It is this panel');
    page().querySelector('input')!.click();
    await fixture.whenStable();
    for (const sent of [10, 40, 127]) await move(74, sent);
    await move(20, 127);
    const last = curlew.controls.find((c) => c.id === 'osc1-wave')!;
    const positions = 'positions' in last ? last.positions : [];
    expect(patch().settings['cutoff']).toEqual({ kind: 'set', value: 1 });
    expect(patch().settings['osc1-wave']).toEqual({ kind: 'set', value: positions.at(-1)!.id });
    const store = TestBed.inject(Store);
    store.dispatch(PatchActions.undo());
    store.dispatch(PatchActions.undo());
    expect(patch().settings['cutoff']).toBeUndefined();
  });
});
