import type { EnvironmentProviders, Provider } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideState, provideStore, Store } from '@ngrx/store';
import { type Instrument, instrumentOf, readOutline } from '@hurrel/core';
import { InstrumentActions, instrumentFeature } from '../app/instruments/instrument.document';

/** An instrument as it is described in words. */
export const describedAs = (text: string): Instrument =>
  instrumentOf(readOutline(text).outline, text);

/** Opens an instrument in a store of its own, as its page has it; nothing is saved. */
export function openInstrument(
  instrument: Instrument,
  providers: (Provider | EnvironmentProviders)[],
): { present: () => Instrument; undo: () => void } {
  TestBed.configureTestingModule({
    providers: [provideStore(), provideState(instrumentFeature), ...providers],
  });
  const store = TestBed.inject(Store);
  const stored = { id: instrument.id, version: 1, updatedAt: '', document: instrument };
  store.dispatch(InstrumentActions.open({ id: instrument.id }));
  store.dispatch(InstrumentActions.opened({ stored, context: {} }));
  const present = store.selectSignal(instrumentFeature.selectPresent);
  return { present: () => present()!, undo: () => store.dispatch(InstrumentActions.undo()) };
}
