import { computed, DestroyRef, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import equal from 'fast-deep-equal';
import { proxy } from 'comlink';
import {
  applyVariation,
  type Better,
  editionOf,
  type Evening,
  type EveningPlan,
  formatDuration,
  freeName,
  type HandTimes,
  type Instrument,
  panelOf,
  panelsNotSeen,
  type PanelBefore,
  type Patch,
  type Calibrations,
  readOn,
  type Recorded,
  type LearnedTimes,
  type Song,
  type SongPatch,
  songPatchSchema,
  songSchema,
  type StagePanel,
  stagePanelSchema,
  withReserve,
  type Timed,
  unitFace,
} from '@hurrel/core';
import { answer, API, saysNothing, type StoredPatch } from '../api/client';
import { descriptionFor } from '../api/description';
import { WALK_API } from '../walk/walk.api';
import { ask, Cancelled } from '../workers/ask';
import { EveningActions, eveningFeature } from './evening.document';
import type { EveningRequest, EveningWorker } from './messages';
import { learnedBy } from './learned-times';
import { Planner } from './planner';
import { PanelsBefore } from './panels-before';
import { SetUnits } from './set-units';
import { startWorker } from '../workers/start';

/** Patches that are read at a time, and ms until one that could not be is tried again. */
const AT_ONCE = 6;
const AGAIN_MS = 3000;
/** Ms after the last change until the plan is worked out anew. */
const PAUSE = 200;

/** A patch as it stands on a panel of the set. */
export interface Played {
  patch: Patch;
  face: Instrument;
  /** The face with the values that were measured on its unit. */
  sounds: Instrument;
}

/** The open set with all that it names, and its plan. */
@Injectable()
export class SetDesk {
  private readonly api = inject(API);
  private readonly store = inject(Store);
  private readonly walks = inject(WALK_API);
  private readonly units = inject(SetUnits);

  readonly evening = this.store.selectSignal(eveningFeature.selectPresent);
  /** What is planned of songs in reserve: that they are not played, or that they are. */
  readonly playsReserve = signal(false);
  private readonly plans = signal<Plans | null>(null);
  /** The plan that is looked at. */
  readonly plan = computed(() => {
    const plans = this.plans();
    return (this.playsReserve() && plans?.withReserve) || (plans?.without ?? null);
  });
  /** With the reserve where `plan` is without it, and the other way round; null where nothing is in reserve. */
  readonly otherPlan = computed(() => {
    const plans = this.plans();
    if (!plans?.withReserve) return null;
    return this.playsReserve() ? plans.without : plans.withReserve;
  });
  /** Panels that nobody has seen. */
  readonly notSeen = computed(() => {
    const [evening, request] = [this.evening(), this.request()];
    return evening && request ? panelsNotSeen(evening, request.before) : { start: [], unknown: [] };
  });
  readonly error = signal('');
  /** What is being looked for, in words; empty when nothing is. */
  readonly looking = signal('');
  /** Number of the break that is looked at. */
  readonly chosen = signal(0);
  private readonly library = signal<Readonly<Record<string, Recorded>>>({});
  private readonly panels = inject(PanelsBefore);
  /** What panels showed when a walk began: what is turned in it changes nothing of its plan. */
  private readonly walking = signal(false);
  private readonly frozen = signal<Readonly<Record<string, PanelBefore>> | null>(null);
  /** How long movements took, of every person of the set who ever walked through it. */
  readonly timed = signal<readonly Timed[]>([]);
  /** What a movement takes each person, and which of that was learned. */
  readonly learned = computed((): Readonly<Record<string, LearnedTimes>> =>
    learnedBy(this.evening()?.people ?? [], this.timed()),
  );
  /** When the walk began that is gone through; empty when none is. */
  private readonly since = signal('');
  private readonly times = computed(
    (): Record<string, HandTimes> => {
      const then = learnedBy(this.evening()?.people ?? [], this.timed(), this.since());
      return Object.fromEntries(Object.entries(then).map(([id, { times }]) => [id, times]));
    },
    { equal },
  );
  /** Patches that were asked for and are not there. */
  private readonly gone = signal<ReadonlySet<string>>(new Set());
  private readonly planner = new Planner();
  private readonly stop = new AbortController();
  private search: AbortController | null = null;

  private readonly request = computed((): EveningRequest | null => {
    const [evening, library, gone] = [this.evening(), this.library(), this.gone()];
    if (!evening || (this.walking() && !this.frozen())) return null;
    const wanted = evening.songs.flatMap((s) => s.plays.map((p) => p.patch));
    if (wanted.some((id) => !library[id] && !gone.has(id))) return null;
    const units = this.units.known();
    if (!units) return null;
    const before = this.frozen() ?? this.panels.shown();
    if (!before) return null;
    return { evening, library, before, times: this.times(), units };
  });

  constructor() {
    effect(() => this.units.of(Object.values(this.library())));
    effect(() => {
      const wanted = new Set(this.evening()?.songs.flatMap((s) => s.plays.map((p) => p.patch)));
      untracked(() => void this.read(wanted));
    });
    effect((onCleanup) => {
      const request = this.request();
      if (!request) return;
      const stop = new AbortController();
      const timer = setTimeout(() => void this.work(request, stop.signal), PAUSE);
      onCleanup(() => {
        clearTimeout(timer);
        // A plan that is under way is of what was before.
        stop.abort();
      });
    });
    inject(DestroyRef).onDestroy(() => {
      this.stop.abort();
      this.search?.abort();
      this.planner.close();
    });
  }

  /**
   * Plans from what panels showed when a walk began; `null` while that is not known yet: no other plan is shown meanwhile.
   * `undefined`: there is no walk.
   * @param since when it began: what people learned later changes nothing in it
   */
  freeze(before: Readonly<Record<string, PanelBefore>> | null | undefined, since = ''): void {
    this.since.set(since);
    const walking = before !== undefined;
    if (walking === this.walking() && equal(before ?? null, this.frozen())) return;
    this.walking.set(walking);
    this.frozen.set(before ?? null);
    this.plans.set(null);
  }

  /** What panels show now, as far as anybody knows. */
  get shownNow(): Readonly<Record<string, PanelBefore>> {
    return this.panels.shown() ?? {};
  }

  /** Reads how long movements took; without an answer the stated times hold. */
  async readTimes(evening: string): Promise<void> {
    await this.walks.timed(evening).then(
      (timed) => this.timed.set(timed),
      () => undefined,
    );
  }

  change(changes: Partial<Evening>, gesture?: string): void {
    const evening = this.evening();
    if (!evening) return;
    const next = { ...evening, ...changes };
    this.store.dispatch(EveningActions.edit({ next, ...(gesture ? { gesture } : {}) }));
  }

  changeSong(id: string, changes: Partial<Song>, gesture?: string): void {
    const songs = (this.evening()?.songs ?? []).map((s) =>
      s.id === id ? { ...s, ...changes } : s,
    );
    this.change({ songs }, gesture);
  }

  changePanel(id: string, changes: Partial<StagePanel>): void {
    const panels = (this.evening()?.panels ?? []).map((p) =>
      p.id === id ? { ...p, ...changes } : p,
    );
    this.change({ panels });
  }

  addSong(name: string): void {
    const songs = this.evening()?.songs ?? [];
    const id = freeName('song', songs);
    this.change({
      songs: [...songs, songSchema.parse({ id, name, pause: songs.length === 0 ? 1800 : 60 })],
    });
    this.chosen.set(songs.length);
  }

  /** A patch on a panel of its instrument: one that rests in this song, else a new one. */
  async addPlay(song: Song, patch: string): Promise<void> {
    await this.read(new Set([patch]));
    const [found, evening] = [this.library()[patch], this.evening()];
    if (!found || !evening) return;
    const { instrument } = found;
    const rests = (p: StagePanel): boolean => !song.plays.some((play) => play.panel === p.id);
    const there = evening.panels.find((p) => p.instrument === instrument.id && rests(p));
    const unit = found.patch.unit;
    const panel =
      there ??
      stagePanelSchema.parse({
        id: freeName(instrument.id, evening.panels),
        name: instrument.name,
        instrument: instrument.id,
        ...(unit ? { unit } : {}),
      });
    const plays = [...song.plays, songPatchSchema.parse({ panel: panel.id, patch })];
    this.change({
      panels: there ? evening.panels : [...evening.panels, panel],
      songs: evening.songs.map((s) => (s.id === song.id ? { ...s, plays } : s)),
    });
  }

  removeSong(id: string): void {
    const songs = (this.evening()?.songs ?? []).filter((s) => s.id !== id);
    this.change({ songs });
    this.chosen.update((at) => Math.max(0, Math.min(at, songs.length - 1)));
  }

  moveSong(from: number, to: number): void {
    const songs = [...(this.evening()?.songs ?? [])];
    if (to < 0 || to >= songs.length) return;
    const pauses = songs.map((s) => s.pause);
    const [song] = songs.splice(from, 1);
    songs.splice(to, 0, song!);
    // Pauses belong to the evening: they stay at their places.
    this.change({ songs: songs.map((s, i) => ({ ...s, pause: pauses[i]! })) });
    this.chosen.set(to);
  }

  patch(id: string): Patch | undefined {
    return this.library()[id]?.patch;
  }

  /** The panel that a patch stands before. */
  face(id: string): Instrument | undefined {
    const found = this.library()[id];
    return found && panelOf(found.instrument, found.patch);
  }

  /**
   * What a song plays on a panel, in its variation, as it reads on the unit that the panel is; the panel before which it stands, and
   * the same as that unit sounds.
   */
  played({ panel, patch, variation }: SongPatch): Played | undefined {
    const found = this.library()[patch];
    if (!found) return undefined;
    const varied = found.patch.variations.find((v) => v.id === variation);
    const recorded = varied ? { ...found, patch: applyVariation(found.patch, varied) } : found;
    const units = this.unitsKnown();
    const unit = this.evening()?.panels.find((p) => p.id === panel)?.unit;
    const read = readOn(units, unit, recorded);
    const face = panelOf(found.instrument, read.patch);
    const measured = unit === undefined ? undefined : units[unit];
    return { patch: read.patch, face, sounds: measured ? unitFace(face, measured) : face };
  }

  /** What was measured of the units that its panels are; nothing before it is read. */
  unitsKnown(): Calibrations {
    return this.units.known() ?? {};
  }

  patchName(id: string): string {
    return this.patch(id)?.name ?? (this.gone().has(id) ? 'a patch that is gone' : '…');
  }

  panelName(id: string): string {
    return this.evening()?.panels.find((p) => p.id === id)?.name ?? id;
  }

  /** Looks for something better; what is found is one step to undo. */
  async better(what: 'order' | 'panels'): Promise<Better | null> {
    const request = this.request();
    if (!request) return null;
    this.search?.abort();
    this.search = new AbortController();
    this.looking.set(what === 'order' ? 'a better order' : 'a better share of equal panels');
    try {
      const found = await ask<EveningWorker, Better>(
        worker(),
        (of) =>
          what === 'panels'
            ? of.panels(request)
            : of.order(
                request,
                proxy((lacking: number) =>
                  this.looking.set(`a better order, lacking ${formatDuration(lacking)} so far`),
                ),
              ),
        this.search.signal,
      );
      if (found.evening !== request.evening) this.change(found.evening);
      return found;
    } catch (error) {
      if (!(error instanceof Cancelled)) this.error.set((error as Error).message);
      return null;
    } finally {
      this.looking.set('');
    }
  }

  cancel(): void {
    this.search?.abort();
  }

  private async work(request: EveningRequest, signal: AbortSignal): Promise<void> {
    try {
      const without = await this.planner.plan(request);
      if (signal.aborted) return;
      this.plans.set({ without });
      const evening = withReserve(request.evening);
      if (evening) {
        const withIt = await this.planner.plan({ ...request, evening });
        if (signal.aborted) return;
        this.plans.set({ without, withReserve: withIt });
      }
      this.error.set('');
    } catch (error) {
      if (!(error instanceof Cancelled)) this.error.set((error as Error).message);
    }
  }

  /** Reads the patches that are wanted, several at a time, each description once. */
  private async read(wanted: ReadonlySet<string>): Promise<void> {
    const instruments = new Map<string, Promise<Instrument>>(
      Object.values(this.library()).map((r) => [
        `${r.patch.instrument} ${editionOf(r.patch)}`,
        Promise.resolve(r.instrument),
      ]),
    );
    const waiting = [...wanted].filter((id) => !this.library()[id] && !this.gone().has(id));
    let away = false;
    const one = async (id: string): Promise<void> => {
      try {
        const { patch } = await answer<StoredPatch>(
          this.api.patches[':id'].$get({ param: { id } }),
        );
        const on = `${patch.instrument} ${editionOf(patch)}`;
        const reading = instruments.get(on) ?? descriptionFor(this.api, patch);
        instruments.set(on, reading);
        const instrument = await reading;
        this.library.update((all) => ({ ...all, [id]: { patch, instrument } }));
      } catch (error) {
        // The plan tells what is gone, and plans the rest. A server that is away says nothing of that.
        if (!saysNothing(error)) this.gone.update((all) => new Set(all).add(id));
        else {
          away = true;
          this.error.set((error as Error).message);
        }
      }
    };
    const reader = async (): Promise<void> => {
      for (let id = waiting.shift(); id !== undefined; id = waiting.shift())
        if (!this.stop.signal.aborted) await one(id);
    };
    await Promise.all(Array.from({ length: AT_ONCE }, reader));
    if (away && !this.stop.signal.aborted) setTimeout(() => void this.read(wanted), AGAIN_MS);
    else if (waiting.length === 0 && !away) this.error.set('');
  }
}

/** How the evening goes without its reserve and, where there is one, with it. */
interface Plans {
  without: EveningPlan;
  withReserve?: EveningPlan;
}

const worker = (): Worker => startWorker('evening');
