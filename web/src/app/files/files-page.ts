import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import { answer, API, type PatchSummary } from '../api/client';
import { type Page, readAll } from '../api/pages';
import { MainPages } from '../ui/main-pages';
import { ToastService } from '../ui/toasts';
import { SettingsTable } from './settings-table';
import { SomePatches } from './some-patches';
import {
  type Decision,
  type Looked,
  type Opened,
  ParcelsService,
  type Standing,
} from './parcels.service';

const KINDS: Record<Looked['kind'], string> = {
  instrument: 'instrument',
  unit: 'unit',
  patch: 'patch',
  session: 'recording',
  evening: 'set',
};
/** How differences say that there is nothing. */
const NOTHING = new Set(['', '?', 'none', 'empty', 'nothing']);
const GROUPS: { standing: Standing; title: string; note: string }[] = [
  { standing: 'conflict', title: 'Different here', note: 'Yours is kept unless you choose.' },
  { standing: 'new', title: 'New', note: 'Not in your library yet.' },
  { standing: 'removed', title: 'Removed here', note: 'Comes back as it is in the file.' },
  { standing: 'same', title: 'The same', note: 'Nothing changes.' },
];

/** Documents out as one zip, and in after a look: what is new, the same, or otherwise here. */
@Component({
  selector: 'hur-files-page',
  imports: [MainPages, RouterLink, SettingsTable, SomePatches],
  templateUrl: './files-page.html',
  styleUrl: './files-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FilesPage {
  private readonly api = inject(API);
  private readonly service = inject(ParcelsService);
  private readonly toasts = inject(ToastService);
  private stop: AbortController | null = null;

  protected readonly patches = signal<readonly PatchSummary[]>([]);
  protected readonly songs = signal<{ song: string; ids: string }[]>([]);
  /** Name of the song whose patches are saved, as chosen in the list. */
  protected readonly chosenSong = signal('');
  protected readonly songToSave = computed(
    () => this.songs().find(({ song }) => song === this.chosenSong()) ?? this.songs()[0],
  );
  protected readonly name = signal('');
  protected readonly opened = signal<Opened | null>(null);
  protected readonly decisions = signal<Record<string, Decision>>({});
  /** Of what is merged, the differences that are taken as they come. */
  private readonly picks = signal<Record<string, string[]>>({});
  protected readonly error = signal('');
  /** What is under way, with its share, 0 to 1. */
  protected readonly busy = signal<{ what: string; share: number } | null>(null);
  /** Whether it is really meant is being asked. */
  protected readonly asked = signal(false);
  /** The copy of what was here, once another library is in its place. */
  protected readonly placed = signal('');
  protected readonly kinds = KINDS;
  protected readonly groups = computed(() => {
    const items = this.opened()?.items ?? [];
    return GROUPS.map((group) => ({
      ...group,
      items: items.filter((i) => i.standing === group.standing),
    })).filter(({ items }) => items.length > 0);
  });
  /** How many documents would be stored. */
  protected readonly coming = computed(
    () =>
      (this.opened()?.items ?? []).filter(({ key, standing }) => {
        const decided = this.decisions()[key];
        if (standing === 'conflict') return decided !== undefined && decided !== 'mine';
        return standing !== 'same' && decided !== 'out';
      }).length,
  );

  constructor() {
    void this.readSongs();
    effect(() => {
      const file = this.service.offered();
      if (!file) return;
      untracked(() => {
        this.service.offered.set(null);
        void this.look(file);
      });
    });
  }

  protected choose(field: HTMLInputElement): void {
    const file = field.files?.[0];
    field.value = '';
    if (file) void this.look(file);
  }

  protected picked(item: Looked, pointer: string): boolean {
    return this.picks()[item.key]?.includes(pointer) ?? false;
  }

  protected pick({ key }: Looked, pointer: string, theirs: boolean): void {
    this.picks.update((all) => {
      const others = (all[key] ?? []).filter((p) => p !== pointer);
      return { ...all, [key]: theirs ? [...others, pointer] : others };
    });
  }

  protected decide(item: Looked, text: string): void {
    const { key } = item;
    this.decisions.update((all) => ({ ...all, [key]: text as Decision }));
    // What mine says nothing of is taken from theirs, until one says otherwise.
    const bare = item.differences.filter((d) => NOTHING.has(d.before)).map((d) => d.pointer);
    if (text === 'merged' && !this.picks()[key])
      this.picks.update((all) => ({ ...all, [key]: bare }));
  }

  protected decideAll(decision: Decision): void {
    const all = (this.opened()?.items ?? []).filter((i) => i.standing === 'conflict');
    this.decisions.update((now) => ({
      ...now,
      ...Object.fromEntries(all.map(({ key }) => [key, decision])),
    }));
  }

  protected decided(key: string, standing: Standing): Decision {
    return this.decisions()[key] ?? (standing === 'conflict' ? 'mine' : 'theirs');
  }

  protected async takeIn(): Promise<void> {
    const opened = this.opened();
    if (!opened || this.busy()) return;
    this.error.set('');
    this.busy.set({ what: 'Importing', share: 0 });
    try {
      const { stored, shortened } = await this.service.takeIn(
        opened.token,
        this.decisions(),
        this.picks(),
        (done, total) => this.busy.set({ what: 'Importing', share: total ? done / total : 0 }),
      );
      this.opened.set(null);
      const lost =
        shortened.length > 0
          ? ` Of ${shortened.slice(0, 3).join(', ')} something has no place on the instrument that was kept.`
          : '';
      this.toasts.show(`${stored} ${stored === 1 ? 'document is' : 'documents are'} in.${lost}`);
      void this.readSongs();
    } catch (error) {
      this.error.set(`${(error as Error).message} Nothing was stored.`);
    }
    this.busy.set(null);
  }

  /** Puts a whole library in the place of this one: from then on every page shows what is in it. */
  protected async putInPlace(): Promise<void> {
    const opened = this.opened();
    if (!opened || this.busy()) return;
    this.error.set('');
    this.asked.set(false);
    this.busy.set({ what: 'Replacing the library', share: 0 });
    try {
      const { copy } = await this.service.putInPlace(opened.token);
      this.opened.set(null);
      this.placed.set(copy);
    } catch (error) {
      this.error.set(`${(error as Error).message} Nothing was changed.`);
    }
    this.busy.set(null);
  }

  protected reload(): void {
    location.assign('/library');
  }

  protected async putDown(): Promise<void> {
    const opened = this.opened();
    this.opened.set(null);
    this.asked.set(false);
    this.error.set('');
    if (opened) await this.service.drop(opened.token).catch(() => undefined);
  }

  protected cancel(): void {
    this.stop?.abort();
  }

  private async look(file: File): Promise<void> {
    await this.putDown();
    this.name.set(file.name);
    this.decisions.set({});
    this.picks.set({});
    this.stop = new AbortController();
    this.busy.set({ what: 'Sending', share: 0 });
    try {
      this.opened.set(
        await this.service.look(
          file,
          (share) => this.busy.set({ what: share < 1 ? 'Sending' : 'Looking at it', share }),
          this.stop.signal,
        ),
      );
    } catch (error) {
      this.error.set(`${file.name}: ${(error as Error).message}`);
    }
    this.busy.set(null);
  }

  protected async readSongs(): Promise<void> {
    try {
      const patches = await readAll((page) =>
        answer<Page<PatchSummary>>(this.api.patches.$get({ query: { page, size: '200' } })),
      );
      this.patches.set(patches);
      const songs = new Map<string, string[]>();
      for (const { song, id } of patches)
        if (song) songs.set(song, [...(songs.get(song) ?? []), id]);
      this.songs.set([...songs].map(([song, ids]) => ({ song, ids: ids.join(',') })));
    } catch {
      // Everything can be had as one file all the same.
    }
  }
}
