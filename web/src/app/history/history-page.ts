import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import {
  diffPatches,
  type Difference,
  editionOf,
  type Instrument,
  panelOf,
  type Patch,
} from '@hurrel/core';
import { API, type StoredPatch } from '../api/client';
import { descriptionFor } from '../api/description';
import { PatchActions } from '../patch/patch.actions';
import { documentOf } from '../patch/patch.kind';
import { patchFeature } from '../patch/patch.reducer';
import { ToastService } from '../ui/toasts';
import { HistoryView } from './history-view';
import { type Answered, versionsApi } from './versions-api';

/** A patch, and the panel that it was recorded on. */
interface Recorded {
  patch: Patch;
  panel: Instrument;
}

/** The history of the open patch. Going back can be undone like an edit. */
@Component({
  selector: 'hur-history-page',
  imports: [HistoryView],
  template: `
    <hur-history
      [versionsOf]="versions"
      [current]="current()"
      [documentOf]="recorded"
      [tell]="tell"
      (returned)="take($event)"
    />
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HistoryPage {
  private readonly store = inject(Store);
  private readonly api = inject(API);
  private readonly toasts = inject(ToastService);
  private readonly state = this.store.selectSignal(patchFeature.selectPatchState);
  protected readonly versions = versionsApi('patch', () => this.state().id ?? '');
  protected readonly current = computed(() => this.state().stored?.version ?? 0);
  /** A version and the panel that it was recorded on: another description reads the same places otherwise. */
  protected readonly recorded = async (answered: Answered): Promise<Recorded> => {
    const { patch } = answered as StoredPatch;
    return { patch, panel: panelOf(await this.descriptionOf(patch), patch) };
  };
  protected readonly tell = (a: Recorded, b: Recorded): Difference[] =>
    diffPatches(b.panel, a.patch, b.patch, a.panel);

  private readonly descriptions = new Map<string, Promise<Instrument>>();
  private descriptionOf(patch: Patch): Promise<Instrument> {
    const name = `${patch.instrument} ${editionOf(patch)}`;
    const found = this.descriptions.get(name) ?? descriptionFor(this.api, patch);
    this.descriptions.set(name, found);
    found.catch(() => this.descriptions.delete(name));
    return found;
  }

  protected take({ answered, number }: { answered: Answered; number: number }): void {
    this.store.dispatch(PatchActions.replaced({ stored: documentOf(answered as StoredPatch) }));
    this.toasts.show(`Version ${number} is back, as version ${answered.version}.`, {
      label: 'Undo',
      run: () => this.store.dispatch(PatchActions.undo()),
    });
  }
}
