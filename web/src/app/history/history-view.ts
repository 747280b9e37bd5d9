import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { type Difference, type Sitting, sittingsOf } from '@hurrel/core';
import { format, isToday } from 'date-fns';
import { ToastService } from '../ui/toasts';
import type { Answered, VersionItem, VersionsApi } from './versions-api';

const PAGE = 50;

/** Every state that a document has been in, what changed between them, and the way back. */
@Component({
  selector: 'hur-history',
  templateUrl: './history-view.html',
  styleUrl: './history-view.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HistoryView<D> {
  readonly versionsOf = input.required<VersionsApi>();
  /** The newest version. */
  readonly current = input.required<number>();
  /** The document of what a version was answered as. */
  readonly documentOf = input.required<(answered: Answered) => D | Promise<D>>();
  /** What differs, in words; null: it cannot be told yet. */
  readonly tell = input.required<((before: D, after: D) => Difference[]) | null>();
  /** An old version is the newest again. */
  readonly returned = output<{ answered: Answered; number: number }>();

  private readonly toasts = inject(ToastService);

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
  private readonly contents = signal<Record<number, D>>({});

  private readonly other = computed(() => {
    const number = this.chosen();
    if (number === null) return null;
    return this.against() === 'now' ? this.current() : (this.since() ?? number - 1);
  });
  protected readonly differences = computed<Difference[] | null>(() => {
    const tell = this.tell();
    const [number, other] = [this.chosen(), this.other()];
    if (!tell || number === null || other === null || other < 1) return null;
    const [a, b] = [this.contents()[other], this.contents()[number]];
    if (a === undefined || b === undefined) return null;
    // Towards now it reads: what has changed since; towards before: what this version changed.
    return this.against() === 'now' ? tell(b, a) : tell(a, b);
  });
  /** The name of what is chosen. */
  protected readonly name = computed(
    () => this.versions().find((v) => v.number === this.chosen())?.name ?? '',
  );

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
    try {
      const answered = await this.versionsOf().goBack(number, this.current());
      this.returned.emit({ answered, number });
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  /** Gives what is chosen a name: as played at Skerrow Lock. */
  protected async call(name: string): Promise<void> {
    const number = this.chosen();
    if (number === null || name.trim() === this.name()) return;
    try {
      const { name: now } = await this.versionsOf().call(number, name.trim());
      this.versions.update((all) =>
        all.map((v) => (v.number === number ? { ...v, name: now } : v)),
      );
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  private async read(page = 1): Promise<void> {
    try {
      const part = await this.versionsOf().list(page, PAGE);
      this.error.set('');
      this.total.set(part.total);
      this.versions.update((all) => (page === 1 ? part.items : [...all, ...part.items]));
      if (page === 1) this.choose(part.items[0]?.number ?? 1);
    } catch (error) {
      this.error.set((error as Error).message);
    }
  }

  private async fetch(number: number): Promise<void> {
    if (this.contents()[number] !== undefined) return;
    try {
      const document = await this.documentOf()(await this.versionsOf().read(number));
      this.contents.update((all) => ({ ...all, [number]: document }));
    } catch (error) {
      this.error.set((error as Error).message);
    }
  }
}
