import { computed, inject, Injectable, signal } from '@angular/core';
import { answer, API, type PatchSummary, type StoredPatch } from '../api/client';
import { type Page, PAGE_SIZE } from '../api/pages';

/** Quiet time after a key before the library is asked. */
const QUIET_MS = 120;

/** Looks for patches on the server, a page at a time, the newest wish only. */
@Injectable()
export class PatchSearch {
  private readonly api = inject(API);
  readonly words = signal('');
  readonly items = signal<PatchSummary[]>([]);
  private readonly total = signal<number | null>(null);
  private readonly trouble = signal('');
  private readonly names = signal<ReadonlyMap<string, string>>(new Map());
  /** What is to be said while there is nothing to show. */
  readonly saying = computed(() => {
    if (this.trouble() !== '') return this.trouble();
    if (this.total() === null) return 'Reading the library';
    return this.words() === '' ? 'No patch yet.' : 'No patch has all of these words.';
  });

  private instrument: string | undefined;
  private page = 0;
  private reading = false;
  /** Number of the wish that counts. */
  private wish = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;

  begin(instrument: string | undefined): void {
    this.instrument = instrument;
    this.restart('');
  }

  find(words: string): void {
    this.words.set(words);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.restart(words), QUIET_MS);
  }

  forget(): void {
    clearTimeout(this.timer);
    this.wish++;
    this.words.set('');
  }

  /** Reads the next page, when there is one. */
  async readOn(): Promise<void> {
    const total = this.total();
    if (this.reading || (total !== null && this.items().length >= total)) return;
    this.reading = true;
    const [wish, page] = [this.wish, this.page + 1];
    const { instrument } = this;
    const query = {
      q: this.words(),
      first: 'called' as const,
      page: String(page),
      size: String(PAGE_SIZE),
      ...(instrument === undefined ? {} : { instrument }),
    };
    try {
      const found = await answer<Page<PatchSummary>>(this.api.patches.$get({ query }));
      if (wish !== this.wish) return;
      this.page = page;
      this.items.update((all) => [...(page === 1 ? [] : all), ...found.items]);
      this.total.set(found.total);
    } catch (error) {
      if (wish === this.wish) this.trouble.set((error as Error).message);
    } finally {
      if (wish === this.wish) this.reading = false;
    }
  }

  nameOf(id: string): string {
    return id === ''
      ? ''
      : (this.items().find((p) => p.id === id)?.name ?? this.names().get(id) ?? '');
  }

  /** Finds out what a patch is called that has not been looked for. */
  async readName(id: string): Promise<void> {
    if (this.nameOf(id) !== '') return;
    let name = 'a patch that is gone';
    try {
      const request = this.api.patches[':id'].$get({ param: { id } });
      name = (await answer<StoredPatch>(request)).patch.name;
    } catch {
      // Gone, or out of reach: the field says so, and another can be picked.
    }
    this.names.update((all) => new Map(all).set(id, name));
  }

  private restart(words: string): void {
    this.wish++;
    this.reading = false;
    this.words.set(words);
    this.page = 0;
    this.total.set(null);
    this.trouble.set('');
    void this.readOn();
  }
}
