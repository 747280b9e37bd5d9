import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { PanelsHeard } from './panels-heard';

/** Hears panels from the first page on; shows nothing. */
@Component({
  selector: 'hur-hears-panels',
  template: '',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HearsPanels {
  protected readonly heard = inject(PanelsHeard);
}
