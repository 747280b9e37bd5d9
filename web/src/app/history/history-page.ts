import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { diffPatches, type Patch } from '@hurrel/core';
import { type StoredPatch } from '../api/client';
import { PatchActions } from '../patch/patch.actions';
import { documentOf } from '../patch/patch.kind';
import { patchFeature } from '../patch/patch.reducer';
import { ToastService } from '../ui/toasts';
import { HistoryView } from './history-view';
import { type Answered, versionsApi } from './versions-api';

/** The history of the open patch. Going back can be undone like an edit. */
@Component({
  selector: 'hur-history-page',
  imports: [HistoryView],
  template: `
    <hur-history
      [versionsOf]="versions"
      [current]="current()"
      [documentOf]="patchOf"
      [tell]="tell()"
      (returned)="take($event)"
    />
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HistoryPage {
  private readonly store = inject(Store);
  private readonly toasts = inject(ToastService);
  private readonly state = this.store.selectSignal(patchFeature.selectPatchState);
  protected readonly versions = versionsApi('patch', () => this.state().id ?? '');
  protected readonly current = computed(() => this.state().stored?.version ?? 0);
  protected readonly patchOf = (answered: Answered): Patch => (answered as StoredPatch).patch;
  protected readonly tell = computed(() => {
    const { instrument } = this.state();
    return instrument && ((a: Patch, b: Patch) => diffPatches(instrument, a, b));
  });

  protected take({ answered, number }: { answered: Answered; number: number }): void {
    this.store.dispatch(PatchActions.replaced({ stored: documentOf(answered as StoredPatch) }));
    this.toasts.show(`Version ${number} is back, as version ${answered.version}.`, {
      label: 'Undo',
      run: () => this.store.dispatch(PatchActions.undo()),
    });
  }
}
