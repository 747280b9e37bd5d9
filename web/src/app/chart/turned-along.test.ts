import { signal } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { blankPatch, instrumentSchema, type Patch, type Shown, shownAs } from '@hurrel/core';
import curlewFile from '../../../../library/instruments/staithe-curlew.json';
import { openPatch } from '../../testing/open-patch';
import { PatchActions } from '../patch/patch.actions';
import { ShownPanel } from '../shown/shown-panel';
import { KeysService } from '../sound/keys.service';
import { TurnedAlong } from './turned-along';

const curlew = instrumentSchema.parse(curlewFile);
const AT = '2026-11-29T18:00:00.000Z';
type Moved = Pick<Patch, 'settings' | 'cables'>;

let fixture: ComponentFixture<TurnedAlong>;
const now = signal<Shown | null>(null);
const wheel = signal(0);
const done: { was: Moved; is: Moved }[] = [];
const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
const along = (): HTMLInputElement | null => page().querySelector('input');
const shownIs = (id: string): void =>
  now.set(shownAs({ id, name: 'tried', patch: blankPatch(curlew, 'tried') }, AT));

async function open(changes: Partial<Patch> = {}): Promise<Store> {
  now.set(null);
  wheel.set(0);
  done.length = 0;
  const shown = {
    now,
    says: () => 'This panel shows tried, for a moment.',
    stand: () => undefined,
    alongWith: (was: Moved, is: Moved) => done.push({ was, is }),
  };
  TestBed.overrideProvider(ShownPanel, { useValue: shown });
  openPatch(curlew, changes, [{ provide: KeysService, useValue: { wheel } }]);
  fixture = TestBed.createComponent(TurnedAlong);
  await fixture.whenStable();
  return TestBed.inject(Store);
}
const turn = async (store: Store, control: string, value: number): Promise<void> => {
  store.dispatch(PatchActions.setControl({ control, setting: { kind: 'set', value } }));
  await fixture.whenStable();
};

describe('a panel that is turned along', () => {
  it('is spoken of only where it is known to show this patch', async () => {
    await open();
    expect(along()).toBeNull();
    shownIs('another');
    await fixture.whenStable();
    expect(along()).toBeNull();
    shownIs('p');
    await fixture.whenStable();
    expect(page().textContent).toContain('This panel shows tried');
    expect(along()!.checked).toBe(false);
  });

  it('is turned along once one says so, and not before', async () => {
    const store = await open();
    shownIs('p');
    await fixture.whenStable();
    await turn(store, 'cutoff', 0.3);
    expect(done).toEqual([]);
    along()!.click();
    await fixture.whenStable();
    expect(done).toEqual([]);
    await turn(store, 'cutoff', 0.4);
    expect(done.map(({ was, is }) => [was.settings['cutoff'], is.settings['cutoff']])).toEqual([
      [
        { kind: 'set', value: 0.3 },
        { kind: 'set', value: 0.4 },
      ],
    ]);
    store.dispatch(PatchActions.undo());
    await fixture.whenStable();
    expect(done[1]!.is.settings['cutoff']).toEqual({ kind: 'set', value: 0.3 });
  });

  it('is not turned by looking at a variation', async () => {
    const settings = { cutoff: { kind: 'set', value: 0.9 } as const };
    const variations = [
      { id: 'v1', name: 'bright', about: '', settings, pulled: [], plugged: [], rows: [] },
    ];
    const store = await open({ variations });
    shownIs('p');
    await fixture.whenStable();
    along()!.click();
    await fixture.whenStable();
    store.dispatch(PatchActions.showVariation({ variation: 'v1' }));
    await fixture.whenStable();
    expect(done).toEqual([]);
  });

  it('has its wheel where a wheel over MIDI was moved to', async () => {
    await open();
    shownIs('p');
    await fixture.whenStable();
    wheel.set(0.2);
    await fixture.whenStable();
    expect(done).toEqual([]);
    along()!.click();
    await fixture.whenStable();
    wheel.set(0.7);
    await fixture.whenStable();
    expect(done.map((d) => d.is.settings)).toEqual([{ wheel: { kind: 'set', value: 0.7 } }]);
  });
});
