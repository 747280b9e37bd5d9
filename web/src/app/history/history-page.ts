import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { type Difference, diffPatches } from '@hurrel/core';
import { format, isToday } from 'date-fns';
import { answer, API, type StoredPatch } from '../api/client';
import { PatchActions } from '../patch/patch.actions';
import { documentOf } from '../patch/patch.kind';
import { patchFeature } from '../patch/patch.reducer';
import { ToastService } from '../ui/toasts';

interface VersionItem {
  number: number;
  origin: string;
  createdAt: string;
}

const PAGE = 50;

/** Every state the patch has been in, what changed between them, and the way back. */
@Component({
  selector: 'hur-history-page',
  templateUrl: './history-page.html',
  styleUrl: './history-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HistoryPage {
  private readonly api = inject(API);
  private readonly store = inject(Store);
  private readonly toasts = inject(ToastService);

  private readonly state = this.store.selectSignal(patchFeature.selectPatchState);
  protected readonly versions = signal<VersionItem[]>([]);
  protected readonly total = signal(0);
  protected readonly chosen = signal<number | null>(null);
  /** Compared with the version before, or with what is on the panel now. */
  protected readonly against = signal<'before' | 'now'>('before');
  protected readonly error = signal('');
  private readonly contents = signal<Record<number, StoredPatch>>({});

  protected readonly current = computed(() => this.state().stored?.version ?? 0);
  private readonly other = computed(() => {
    const number = this.chosen();
    if (number === null) return null;
    return this.against() === 'now' ? this.current() : number - 1;
  });
  protected readonly differences = computed<Difference[] | null>(() => {
    const { instrument } = this.state();
    const [number, other] = [this.chosen(), this.other()];
    if (!instrument || number === null || other === null || other < 1) return null;
    const [a, b] = [this.contents()[other], this.contents()[number]];
    if (!a || !b) return null;
    // Towards now it reads: what has changed since; towards before: what this version changed.
    return this.against() === 'now'
      ? diffPatches(instrument, b.patch, a.patch)
      : diffPatches(instrument, a.patch, b.patch);
  });

  constructor() {
    effect(() => {
      const version = this.current();
      if (version > 0) void this.read();
    });
    effect(() => {
      for (const number of [this.chosen(), this.other()])
        if (number !== null && number > 0) void this.fetch(number);
    });
  }

  protected when(date: string): string {
    const at = new Date(date);
    return format(at, isToday(at) ? 'HH:mm:ss' : 'd MMM yyyy HH:mm');
  }

  protected async more(): Promise<void> {
    await this.read(Math.floor(this.versions().length / PAGE) + 1);
  }

  protected async goBack(number: number): Promise<void> {
    const { id, stored } = this.state();
    if (!id || !stored) return;
    try {
      const back = await answer<StoredPatch>(
        this.api.patches[':id'].versions[':number'].restore.$post({
          param: { id, number: String(number) },
          header: { 'if-match': `"${stored.version}"` },
        }),
      );
      this.store.dispatch(PatchActions.replaced({ stored: documentOf(back) }));
      this.toasts.show(`Version ${number} is back, as version ${back.version}.`, {
        label: 'Undo',
        run: () => this.store.dispatch(PatchActions.undo()),
      });
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  private async read(page = 1): Promise<void> {
    const id = this.state().id;
    if (!id) return;
    try {
      const part = await answer<{ items: VersionItem[]; total: number }>(
        this.api.patches[':id'].versions.$get({
          param: { id },
          query: { page: String(page), size: String(PAGE) },
        }),
      );
      this.total.set(part.total);
      this.versions.update((all) => (page === 1 ? part.items : [...all, ...part.items]));
      if (page === 1) this.chosen.set(part.items[0]?.number ?? null);
    } catch (error) {
      this.error.set((error as Error).message);
    }
  }

  private async fetch(number: number): Promise<void> {
    const id = this.state().id;
    if (!id || this.contents()[number]) return;
    const version = await answer<StoredPatch>(
      this.api.patches[':id'].versions[':number'].$get({ param: { id, number: String(number) } }),
    );
    this.contents.update((all) => ({ ...all, [number]: version }));
  }
}
