import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { KeepBar } from './kept/keep-bar';
import { TransportBar } from './transport/transport-bar';
import { Toasts } from './ui/toasts';

@Component({
  selector: 'hur-root',
  imports: [KeepBar, RouterOutlet, Toasts, TransportBar],
  template: `<hur-keep-bar /><router-outlet />
    @defer (on immediate) {
      <hur-transport-bar />
    }
    <hur-toasts />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class App {}
