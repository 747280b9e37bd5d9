import { inject, Injectable } from '@angular/core';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { Store } from '@ngrx/store';
import type { Setting } from '@hurrel/core';
import { PatchActions } from '../patch/patch.actions';
import { ToastService } from '../ui/toasts';
import { ChartDesk } from './chart-desk';

/** Notes in lines, read in a dialog and taken as one step to undo. */
@Injectable()
export class NotesDialog {
  private readonly store = inject(Store);
  private readonly modal = inject(NgbModal);
  private readonly toasts = inject(ToastService);
  private readonly desk = inject(ChartDesk);

  /** @param text what was pasted; empty for a blank sheet */
  async open(text = ''): Promise<void> {
    const [instrument, patch] = [this.desk.instrument(), this.desk.patch()];
    if (!instrument || !patch) return;
    const { NoteLines } = await import('./note-lines');
    const dialog = this.modal.open(NoteLines, { size: 'lg', ariaLabelledBy: 'note-lines-title' });
    dialog.componentInstance.start(instrument, patch, text);
    dialog.result.then(
      (settings: Record<string, Setting | null>) => {
        this.store.dispatch(PatchActions.setControls({ settings }));
        this.toasts.show(`${Object.keys(settings).length} controls recorded from notes.`, {
          label: 'Undo',
          run: () => this.store.dispatch(PatchActions.undo()),
        });
      },
      () => undefined,
    );
  }
}
