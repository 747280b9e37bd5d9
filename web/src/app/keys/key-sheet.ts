import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { keyNames } from './key-names';
import { keysOf, ShortcutsService } from './shortcuts';

/** Every key that does something where one is. */
@Component({
  selector: 'hur-key-sheet',
  template: `
    <div class="modal-header">
      <h2 class="modal-title" id="key-sheet-title">Keys</h2>
      <button
        type="button"
        class="btn-close"
        aria-label="Close"
        ngbAutofocus
        (click)="dialog.dismiss()"
      ></button>
    </div>
    <div class="modal-body groups">
      @for (group of groups(); track group.title) {
        <section>
          <h3>{{ group.title }}</h3>
          <dl>
            @for (line of group.lines; track line.says) {
              <dt>
                @for (keys of line.keys; track $index) {
                  <span class="chord">
                    @for (key of keys; track $index) {
                      <kbd>{{ key }}</kbd>
                    }
                  </span>
                }
              </dt>
              <dd>{{ line.says }}</dd>
            }
          </dl>
        </section>
      }
    </div>
  `,
  styleUrl: './key-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeySheet {
  protected readonly dialog = inject(NgbActiveModal);
  private readonly shortcuts = inject(ShortcutsService);
  /** Where one is comes first; what is so everywhere last. */
  protected readonly groups = computed(() =>
    [...this.shortcuts.groups()].reverse().map(({ title, shortcuts }) => ({
      title,
      lines: shortcuts.map((s) => ({ keys: keysOf(s).map(keyNames), says: s.says })),
    })),
  );
}
