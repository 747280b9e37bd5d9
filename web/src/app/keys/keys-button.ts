import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { KeySheet } from './key-sheet';
import { useShortcuts } from './shortcuts';

/** Opens the sheet of keys; `?` and F1 do it too. */
@Component({
  selector: 'hur-keys-button',
  template: `
    <button type="button" class="btn btn-plain" title="Keys (?)" aria-label="Keys" (click)="open()">
      <i class="bi bi-keyboard" aria-hidden="true"></i>
    </button>
  `,
  styles: '.btn { --bs-btn-padding-x: 8px; font-size: 17px; }',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeysButton {
  private readonly modals = inject(NgbModal);

  constructor() {
    useShortcuts('Everywhere', [
      { keys: ['?', 'F1'], says: 'This sheet', act: () => this.open() },
      { keys: 'Tab', says: 'On to the next thing' },
      { keys: 'Escape', says: 'Close what is open, give up what is begun' },
    ]);
  }

  protected open(): void {
    this.modals.open(KeySheet, {
      size: 'lg',
      ariaLabelledBy: 'key-sheet-title',
      scrollable: true,
    });
  }
}
