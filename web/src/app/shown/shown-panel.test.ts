import { TestBed } from '@angular/core/testing';
import { provideState, provideStore, Store } from '@ngrx/store';
import { blankPatch, instrumentSchema, type Shown, shownAs } from '@hurrel/core';
import { Subject } from 'rxjs';
import curlewFile from '../../../../library/instruments/staithe-curlew.json';
import { isDirty } from '../document/document.reducer';
import { PanelsHeard } from '../midi/panels-heard';
import { ShownActions, shownFeature } from './shown.document';
import { ShownPanel } from './shown-panel';

const curlew = instrumentSchema.parse(curlewFile);
const cable = { id: 'c1', from: 'j-lfo', to: 'j-cutoff' };
const goal = (name: string, cables = [cable]) => ({
  ...{ id: `${name} id`, name },
  patch: { ...blankPatch(curlew, name), cables },
});
const AT = '2026-11-29T18:00:00.000Z';

/** Stands before the unit u7, of which something is known. */
function stand(known: Shown | null) {
  const loaded = new Subject<{ panel: string; shown: Shown | null }>();
  TestBed.configureTestingModule({
    providers: [
      provideStore(),
      provideState(shownFeature),
      ShownPanel,
      { provide: PanelsHeard, useValue: { loaded } },
    ],
  });
  const [panel, store] = [TestBed.inject(ShownPanel), TestBed.inject(Store)];
  panel.stand('unit-u7', 'p2', 'Bell');
  TestBed.tick();
  const stored = { id: 'unit-u7', version: 0, updatedAt: '', document: { shown: known } };
  store.dispatch(ShownActions.opened({ stored, context: {} }));
  TestBed.tick();
  const dirty = (): boolean => isDirty(store.selectSignal(shownFeature.selectShownState)());
  return { panel, loaded, dirty };
}

describe('the panel before which one stands', () => {
  it('shows what the server says when a place of its memory was chosen, and that is not said again', () => {
    const { panel, loaded, dirty } = stand(shownAs(goal('Fog'), AT));
    const chosen: Shown[] = [];
    panel.chosen.subscribe((shown) => chosen.push(shown));
    const bell = shownAs(goal('Bell'), AT);
    loaded.next({ panel: 'unit-other', shown: bell });
    loaded.next({ panel: 'unit-u7', shown: null });
    expect(panel.now()?.name).toBe('Fog');
    loaded.next({ panel: 'unit-u7', shown: bell });
    expect(panel.now()).toEqual(bell);
    expect(panel.began()).toEqual(bell);
    expect(panel.origin()).toBe('shown');
    expect(chosen).toEqual([bell]);
    expect(dirty()).toBe(false);
  });

  it('keeps its cables when a sound is said to be loaded, and that is to be saved', () => {
    const { panel, dirty } = stand(shownAs(goal('Fog'), AT));
    panel.loads(goal('Bell', []));
    expect(panel.now()).toMatchObject({ name: 'Bell', finished: true, panel: { cables: [cable] } });
    expect(panel.says()).toMatch(/^This panel shows Bell, for /);
    expect(dirty()).toBe(true);
  });

  it('is uncertain in all when somebody has turned things, and says nothing where nothing is known', () => {
    const { panel } = stand(shownAs(goal('Fog'), AT));
    panel.turned(curlew);
    expect(panel.now()?.uncertain).toHaveLength(curlew.controls.length);
    TestBed.resetTestingModule();
    const unknown = stand(null);
    unknown.panel.turned(curlew);
    expect(unknown.panel.now()).toBeNull();
    expect(unknown.panel.says()).toBe('');
    expect(unknown.panel.origin()).toBe('');
  });
});
