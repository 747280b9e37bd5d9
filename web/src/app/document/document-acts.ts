import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { OnDisk } from '../api/on-disk';
import type { OpenDocument } from './open-document';

type Opened = OpenDocument<unknown, unknown>;

/** Undo and redo. */
@Component({
  selector: 'hur-document-acts',
  template: `
    <button
      type="button"
      class="btn btn-plain"
      [disabled]="!of().canUndo()"
      [title]="
        of().canUndo()
          ? 'Undo (Ctrl+Z)'
          : 'Nothing done since this page was opened. What was before is in History.'
      "
      aria-label="Undo"
      (click)="of().undo()"
    >
      <i class="bi bi-arrow-counterclockwise" aria-hidden="true"></i>
    </button>
    <button
      type="button"
      class="btn btn-plain"
      [disabled]="!of().canRedo()"
      title="Redo (Ctrl+Shift+Z)"
      aria-label="Redo"
      (click)="of().redo()"
    >
      <i class="bi bi-arrow-clockwise" aria-hidden="true"></i>
    </button>
  `,
  styleUrl: './document-acts.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DocumentActs {
  readonly of = input.required<Pick<Opened, 'canUndo' | 'canRedo' | 'undo' | 'redo'>>();
}

/** The line that tells how far edits are kept; what must be done about it is a button. */
@Component({
  selector: 'hur-saved-line',
  template: `
    <div class="saved" [class]="of().kept()" role="status" data-testid="save-state">
      @switch (of().kept()) {
        @case ('conflict') {
          <button type="button" class="btn" (click)="of().decide()">{{ of().saying() }}</button>
        }
        @case ('refused') {
          <button type="button" class="btn" (click)="of().retry()">{{ of().saying() }}</button>
        }
        @default {
          {{ of().saying() }}
          @if (of().kept() === 'offline' && disk.behind() > 0) {
            · not on this device’s disk yet
          }
        }
      }
    </div>
  `,
  styleUrl: './document-acts.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SavedLine {
  protected readonly disk = inject(OnDisk);
  readonly of = input.required<Pick<Opened, 'kept' | 'saying' | 'decide' | 'retry'>>();
}
