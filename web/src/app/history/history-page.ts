import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { type Difference, diffPatches, type Sitting, sittingsOf } from '@hurrel/core';
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
  /** What was done between two rests. The newest stands open. */
  protected readonly sittings = computed(() =>
    sittingsOf(this.versions(), (v) => Date.parse(v.createdAt)),
  );
  private readonly unfolded = signal<ReadonlySet<number>>(new Set());
  protected readonly chosen = signal<number | null>(null);
  /** Version before what is chosen: its own, or that before a whole sitting. */
  private readonly since = signal<number | null>(null);
  /** Compared with the version before, or with what is on the panel now. */
  protected readonly against = signal<'before' | 'now'>('before');
  protected readonly error = signal('');
  private readonly contents = signal<Record<number, StoredPatch>>({});

  protected readonly current = computed(() => this.state().stored?.version ?? 0);
  private readonly other = computed(() => {
    const number = this.chosen();
    if (number === null) return null;
    return this.against() === 'now' ? this.current() : (this.since() ?? number - 1);
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

  protected span({ oldest, newest }: Sitting<VersionItem>): string {
    const [from, to] = [new Date(oldest.createdAt), new Date(newest.createdAt)];
    const day = isToday(from) ? 'Today' : format(from, 'd MMM yyyy');
    const [begin, end] = [from, to].map((at) => format(at, 'HH:mm'));
    return `${day} ${begin}${begin === end ? '' : ` to ${end}`}`;
  }

  /** The first sitting of the list stands open until it is folded; the others when they are unfolded. */
  protected isOpen({ oldest }: Sitting<VersionItem>): boolean {
    const first = this.sittings()[0]?.oldest.number === oldest.number;
    return this.unfolded().has(oldest.number) !== first;
  }

  protected fold({ oldest }: Sitting<VersionItem>): void {
    const next = new Set(this.unfolded());
    if (!next.delete(oldest.number)) next.add(oldest.number);
    this.unfolded.set(next);
  }

  protected choose(number: number, since: number | null = null): void {
    this.chosen.set(number);
    this.since.set(since);
  }

  /** All of a sitting at once; that of the first version begins with what it made. */
  protected chooseWhole({ oldest, newest }: Sitting<VersionItem>): void {
    const alone = oldest.number === newest.number;
    this.choose(newest.number, alone ? null : Math.max(1, oldest.number - 1));
  }

  /** The versions of a whole sitting that is chosen, in words; a single version says nothing more. */
  protected readonly through = computed(() => {
    const [number, since] = [this.chosen(), this.since()];
    return number === null || since === null || since === number - 1
      ? ''
      : `Versions ${since + 1} to ${number}`;
  });

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
