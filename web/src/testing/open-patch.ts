import type { EnvironmentProviders, Provider } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideState, provideStore, Store } from '@ngrx/store';
import {
  blankPatch,
  type Instrument,
  instrumentSchema,
  type Patch,
  type Pattern,
} from '@hurrel/core';
import eelpot from '../../../library/instruments/oxbow-eelpot.json';
import shoal from '../../../library/instruments/marram-shoal.json';
import { PatchActions } from '../app/patch/patch.actions';
import { patchFeature } from '../app/patch/patch.reducer';
import { SequenceService } from '../app/sequence/sequence.service';

/** Ready-made instruments with sequencers: a bass line of one voice, and drum tracks with own values. */
export const lineBox: Instrument = instrumentSchema.parse(eelpot);
export const drumBox: Instrument = instrumentSchema.parse(shoal);

/** Opens a patch of an instrument in a store of its own, as the pages have it; nothing is saved. */
export function openPatch(
  instrument: Instrument,
  changes: Partial<Patch> = {},
  providers: (Provider | EnvironmentProviders)[] = [],
): { sequence: SequenceService; patch: () => Patch; undo: () => void } {
  TestBed.configureTestingModule({
    providers: [provideStore(), provideState(patchFeature), SequenceService, ...providers],
  });
  const store = TestBed.inject(Store);
  const patch = { ...blankPatch(instrument, 'tried'), ...changes };
  const stored = { id: 'p', version: 1, updatedAt: '', document: patch };
  store.dispatch(PatchActions.open({ id: 'p' }));
  store.dispatch(PatchActions.opened({ stored, context: instrument }));
  const present = store.selectSignal(patchFeature.selectPresent);
  return {
    sequence: TestBed.inject(SequenceService),
    patch: () => present()!,
    undo: () => store.dispatch(PatchActions.undo()),
  };
}

/** The notes of a track of the first pattern, by step; null for rests. */
export const notesOf = (pattern: Pattern | undefined, track = 0): (number[] | null)[] =>
  pattern?.tracks[track]?.steps.map((s) => s.notes ?? null) ?? [];
