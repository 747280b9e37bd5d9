import { inject, Injectable, signal } from '@angular/core';
import { Router } from '@angular/router';
import type { Instrument } from '@hurrel/core';
import { LibraryService } from '../library/library.service';
import { ToastService } from '../ui/toasts';
import { InstrumentsService } from './instruments.service';

/** What leads away from an instrument's page: its next patch, and a copy of it. One at a time. */
@Injectable()
export class InstrumentActs {
  private readonly library = inject(LibraryService);
  private readonly instruments = inject(InstrumentsService);
  private readonly router = inject(Router);
  private readonly toasts = inject(ToastService);
  readonly busy = signal(false);

  /** @param number of the patch that is recorded on it */
  record({ id: instrument, name }: Instrument, number: number): Promise<void> {
    return this.once(async () => {
      const { id } = await this.library.create({
        from: 'nothing',
        instrument,
        name: `${name} ${number}`.slice(0, 80),
        song: '',
        role: 'other',
      });
      await this.router.navigate(['/patch', id, 'chart']);
    });
  }

  /** One of its own to be changed, with its circuit and all. */
  copy(instrument: Instrument): Promise<void> {
    return this.once(async () => {
      const { id } = await this.instruments.copy(instrument);
      await this.router.navigate(['/instrument', id]);
      this.toasts.show('This is the copy: it is yours, and changes as you type.');
    });
  }

  private async once(act: () => Promise<void>): Promise<void> {
    if (this.busy()) return;
    this.busy.set(true);
    try {
      await act();
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
    this.busy.set(false);
  }
}
