import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { KeepBar } from './kept/keep-bar';
import { Toasts } from './ui/toasts';

@Component({
  selector: 'hur-root',
  imports: [KeepBar, RouterOutlet, Toasts],
  template: `<hur-keep-bar /><router-outlet /><hur-toasts />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class App {}
