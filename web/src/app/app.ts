import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { FileDrop } from './files/file-drop';
import { KeepBar } from './kept/keep-bar';
import { HearsPanels } from './midi/hears-panels';
import { TransportBar } from './transport/transport-bar';
import { Toasts } from './ui/toasts';

@Component({
  selector: 'hur-root',
  imports: [FileDrop, HearsPanels, KeepBar, RouterOutlet, Toasts, TransportBar],
  template: `<hur-keep-bar /><router-outlet />
    @defer (on immediate) {
      <hur-transport-bar /><hur-hears-panels />
    }
    <hur-file-drop /><hur-toasts />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class App {}
