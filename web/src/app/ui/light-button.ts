import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { LightService } from './light';

/** Goes from desk light to stage light and back. */
@Component({
  selector: 'hur-light-button',
  template: `
    <button
      type="button"
      class="btn btn-plain"
      [title]="other()"
      [attr.aria-label]="other()"
      (click)="light.toggle()"
    >
      <i
        class="bi"
        [class.bi-moon-stars]="light.light() === 'desk'"
        [class.bi-sun]="light.light() === 'stage'"
        aria-hidden="true"
      ></i>
    </button>
  `,
  styles: '.btn { --bs-btn-padding-x: 8px; font-size: 17px; }',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LightButton {
  protected readonly light = inject(LightService);
  protected readonly other = computed(() =>
    this.light.light() === 'desk' ? 'Stage light' : 'Desk light',
  );
}
