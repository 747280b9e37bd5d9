import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { format } from 'date-fns';
import { answer, API } from '../api/client';
import { MainPages } from '../ui/main-pages';
import { ToastService } from '../ui/toasts';
import type { DocumentName } from './versions-api';

interface Removed {
  kind: DocumentName;
  id: string;
  name: string;
  removedAt: string;
}

const WORDS: Record<DocumentName, string> = {
  patch: 'patch',
  unit: 'unit',
  session: 'recording',
  evening: 'set',
  instrument: 'instrument',
};

/** What was removed and can be taken back, whatever it is. */
@Component({
  selector: 'hur-removed-page',
  imports: [MainPages, RouterLink],
  templateUrl: './removed-page.html',
  styleUrl: './removed-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RemovedPage {
  private readonly api = inject(API);
  private readonly toasts = inject(ToastService);
  protected readonly items = signal<Removed[] | null>(null);
  protected readonly error = signal('');
  protected readonly words = WORDS;

  constructor() {
    void this.read();
  }

  protected when(date: string): string {
    return format(new Date(date), 'd MMM yyyy HH:mm');
  }

  protected async takeBack({ kind, id, name }: Removed): Promise<void> {
    const param = { param: { id } };
    const restore: Record<DocumentName, () => Promise<unknown>> = {
      patch: () => answer(this.api.patches[':id'].restore.$post(param)),
      unit: () => answer(this.api.units[':id'].restore.$post(param)),
      session: () => answer(this.api.sessions[':id'].restore.$post(param)),
      evening: () => answer(this.api.evenings[':id'].restore.$post(param)),
      instrument: () => answer(this.api.instruments[':id'].restore.$post(param)),
    };
    try {
      await restore[kind]();
      this.items.update((all) => all?.filter((i) => i.id !== id) ?? null);
      this.toasts.show(`"${name}" is back.`);
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  private async read(): Promise<void> {
    try {
      const { items } = await answer<{ items: Removed[] }>(this.api.removed.$get());
      this.items.set(items);
    } catch (error) {
      this.error.set((error as Error).message);
    }
  }
}
