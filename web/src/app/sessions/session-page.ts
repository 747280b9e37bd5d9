import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { formatDuration } from '@hurrel/core';
import { DocumentActs, SavedLine } from '../document/document-acts';
import { openDocument } from '../document/open-document';
import { removeDocument } from '../document/remove-document';
import { useShortcuts } from '../keys/shortcuts';
import { PatchPicker } from '../picker/patch-picker';
import { NumberField } from '../ui/number-field';
import { MainPages } from '../ui/main-pages';
import { MixService } from './mix.service';
import { OrderPanel } from './order-panel';
import { PassGrid } from './pass-grid';
import { PassPanel } from './pass-panel';
import { SessionDesk } from './session-desk';
import { SessionTakes } from './session-takes';
import { SessionActions, sessionFeature, sessionSides } from './session.document';
import { SessionsService } from './sessions.service';

/** A track made of passes: its parts over bars, what plays in them, and what is still to be recorded. */
@Component({
  selector: 'hur-session-page',
  imports: [
    RouterLink,
    DocumentActs,
    NumberField,
    OrderPanel,
    PassGrid,
    PassPanel,
    PatchPicker,
    MainPages,
    RouterLink,
    SavedLine,
  ],
  providers: [MixService, SessionDesk, SessionTakes],
  templateUrl: './session-page.html',
  styleUrl: './session.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SessionPage {
  readonly id = input.required<string>();

  protected readonly desk = inject(SessionDesk);
  protected readonly takes = inject(SessionTakes);
  /** Whether one is asked before takes are removed for good. */
  protected readonly clearing = signal(false);
  protected readonly mix = inject(MixService);
  protected readonly document = openDocument(
    'session',
    () => this.id(),
    sessionFeature.selectSessionState,
    SessionActions,
    () => sessionSides,
  );
  protected readonly remove = removeDocument(this.document.state, {
    service: inject(SessionsService),
    list: '/sessions',
    page: '/session',
  });
  protected readonly length = computed(() => formatDuration(this.desk.seconds()));

  constructor() {
    useShortcuts('Recording', [
      { keys: 'Space', says: 'Hear it all, or stop', act: () => void this.takes.hear() },
    ]);
  }
}
