import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Toasts } from './ui/toasts';

@Component({
  selector: 'hur-root',
  imports: [RouterOutlet, Toasts],
  template: `<router-outlet /><hur-toasts />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class App {}
