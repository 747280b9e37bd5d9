import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  type OnDestroy,
  signal,
  untracked,
} from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import {
  BAR,
  encodeWav,
  formatDuration,
  type Instrument,
  isWork,
  partStarts,
  type Pass,
  type PassSubject,
  type Patch,
  peakOf,
  recordingOrder,
  riserOf,
  type Session,
  type SongPart,
  type Step,
  type Take,
} from '@hurrel/core';
import equal from 'fast-deep-equal';
import { answer, API, ApiError, type PatchSummary, type StoredPatch } from '../api/client';
import { download, fileName } from '../ui/download';
import { Places } from '../ui/places';
import { ToastService } from '../ui/toasts';
import { MixService } from './mix.service';
import { SessionsService, type StoredSession, type StoredTake } from './sessions.service';

const SAMPLE_RATE = 48000;
/** Milliseconds without another edit after which a session is saved. */
const QUIET_MS = 500;
/** Level that nothing of what is heard together goes over. */
const CEILING = 0.7;

/** A track made of passes: its parts over bars, what plays in them, and what is still to be recorded. */
@Component({
  selector: 'hur-session-page',
  imports: [RouterLink, Places],
  providers: [MixService],
  templateUrl: './session-page.html',
  styleUrl: './session.scss',
  host: { '(window:keydown)': 'key($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SessionPage implements OnDestroy {
  readonly id = input.required<string>();

  private readonly api = inject(API);
  private readonly service = inject(SessionsService);
  private readonly router = inject(Router);
  private readonly toasts = inject(ToastService);
  protected readonly mix = inject(MixService);

  protected readonly stored = signal<StoredSession | null>(null);
  protected readonly session = signal<Session | null>(null);
  private readonly past = signal<Session[]>([]);
  private readonly future = signal<Session[]>([]);
  protected readonly canUndo = computed(() => this.past().length > 0);
  protected readonly canRedo = computed(() => this.future().length > 0);
  protected readonly saving = signal('');
  protected readonly error = signal('');
  protected readonly library = signal<PatchSummary[]>([]);
  protected readonly takes = signal<StoredTake[]>([]);
  private readonly patches = signal<ReadonlyMap<string, Patch>>(new Map());
  private readonly instruments = signal<ReadonlyMap<string, Instrument>>(new Map());
  protected readonly chosen = signal<string | null>(null);
  private timer: ReturnType<typeof setTimeout> | undefined;

  protected readonly bars = computed(() => {
    const session = this.session();
    return session ? partStarts(session.parts).bars : 0;
  });
  protected readonly seconds = computed(() => {
    const session = this.session();
    return session ? (this.bars() * BAR * 60) / session.tempo : 0;
  });
  protected readonly length = computed(() => formatDuration(this.seconds()));
  /** Where what plays stands, as a share of the whole. */
  protected readonly share = computed(() =>
    this.seconds() > 0 ? Math.min(1, this.mix.at() / this.seconds()) : 0,
  );
  /** Columns as wide as their bars. */
  protected readonly columns = computed(
    () =>
      this.session()
        ?.parts.map((p) => `minmax(64px, ${p.bars}fr)`)
        .join(' ') ?? '',
  );
  protected readonly subjects = computed((): PassSubject[] => {
    const [patches, instruments] = [this.patches(), this.instruments()];
    return (this.session()?.passes ?? []).flatMap((pass) => {
      const patch = patches.get(pass.patch);
      const instrument = patch && instruments.get(patch.instrument);
      return patch && instrument ? [{ pass, patch, instrument }] : [];
    });
  });
  protected readonly order = computed(() => {
    const session = this.session();
    if (!session) return [];
    return recordingOrder(session, this.subjects()).map((o) => {
      const own = this.subjects().find((s) => s.pass.id === o.pass)!;
      return {
        ...o,
        name: own.pass.name,
        instrument: `${own.instrument.maker} ${own.instrument.name}`,
        fromName: this.session()?.passes.find((p) => p.id === o.from)?.name ?? 'the start',
        time: formatDuration(o.seconds),
        first: o.plan.steps
          .filter(isWork)
          .slice(0, 60)
          .map((step) => sayStep(own.instrument, step)),
      };
    });
  });
  protected readonly total = computed(() =>
    formatDuration(this.order().reduce((sum, o) => sum + o.seconds, 0)),
  );
  protected readonly pass = computed(() =>
    this.session()?.passes.find((p) => p.id === this.chosen()),
  );
  protected readonly subject = computed(() =>
    this.subjects().find((s) => s.pass.id === this.chosen()),
  );
  /** A sweep over each part that the chosen pass plays in, in its instrument's own numbers. */
  protected readonly sweeps = computed(() => {
    const [session, subject] = [this.session(), this.subject()];
    if (!session || !subject) return [];
    const patch = { ...subject.patch, tempo: session.tempo };
    return session.parts.flatMap((part) => {
      if (subject.pass.plays[part.id] === undefined) return [];
      const riser = riserOf(subject.instrument, patch, part.bars, 2);
      if (!riser) return [];
      const control = subject.instrument.controls.find((c) => c.id === riser.rate.control);
      return [
        {
          part: part.name,
          bars: part.bars,
          control: control?.name ?? riser.rate.control,
          reading: riser.rate.reading,
          off: riser.timeError.toFixed(1),
        },
      ];
    });
  });

  constructor() {
    effect(() => {
      const id = this.id();
      untracked(() => void this.open(id));
    });
    effect(() => {
      const wanted = new Set(this.session()?.passes.map((p) => p.patch));
      untracked(() => void this.readPatches(wanted));
    });
  }

  ngOnDestroy(): void {
    clearTimeout(this.timer);
    void this.save();
  }

  protected nameOf(patch: string): string {
    return this.library().find((p) => p.id === patch)?.name ?? 'a patch that is gone';
  }

  protected variationName(pass: Pass, part: string): string {
    const id = pass.plays[part];
    if (id === undefined) return '';
    if (id === '') return 'as it is';
    return (
      this.patches()
        .get(pass.patch)
        ?.variations.find((v) => v.id === id)?.name ?? id
    );
  }

  protected takeOf(pass: Pass): StoredTake | undefined {
    return this.takes().find((t) => t.id === pass.take);
  }

  /** Not there, then as it is, then each variation, then not there again. */
  protected cycle(pass: Pass, part: SongPart): void {
    const variations =
      this.patches()
        .get(pass.patch)
        ?.variations.map((v) => v.id) ?? [];
    const ways = [undefined, '', ...variations];
    const next = ways[(ways.indexOf(pass.plays[part.id]) + 1) % ways.length];
    const { [part.id]: _, ...others } = pass.plays;
    this.changePass(pass, { plays: next === undefined ? others : { ...others, [part.id]: next } });
  }

  protected change(changes: Partial<Session>): void {
    const before = this.session();
    if (!before) return;
    const next = { ...before, ...changes };
    if (equal(next, before)) return;
    this.past.update((all) => [...all.slice(-199), before]);
    this.future.set([]);
    this.write(next);
  }

  protected changePass(pass: Pass, changes: Partial<Pass>): void {
    const passes = this.session()!.passes.map((p) => {
      if (p.id !== pass.id) return p;
      const next: Record<string, unknown> = { ...p, ...changes };
      for (const key of Object.keys(next)) if (next[key] === undefined) delete next[key];
      return next as Pass;
    });
    this.change({ passes });
  }

  protected changePart(part: SongPart, changes: Partial<SongPart>): void {
    this.change({
      parts: this.session()!.parts.map((p) => (p.id === part.id ? { ...p, ...changes } : p)),
    });
  }

  protected addPart(): void {
    const parts = this.session()!.parts;
    const id = freeId('part', parts);
    this.change({ parts: [...parts, { id, name: `part ${parts.length + 1}`, bars: 4 }] });
  }

  protected dropPart(part: SongPart): void {
    const session = this.session()!;
    this.change({
      parts: session.parts.filter((p) => p.id !== part.id),
      passes: session.passes.map((p) => {
        const { [part.id]: _, ...plays } = p.plays;
        return { ...p, plays };
      }),
    });
  }

  protected async addPass(patch: string): Promise<void> {
    if (patch === '') return;
    const found = this.library().find((p) => p.id === patch);
    await this.readPatches(new Set([patch]));
    const session = this.session()!;
    const pattern = this.patches().get(patch)?.patterns[0]?.id;
    const id = freeId('pass', session.passes);
    const pass: Pass = {
      id,
      name: (found?.name ?? 'pass').slice(0, 60),
      patch,
      ...(pattern === undefined ? {} : { pattern }),
      plays: Object.fromEntries(session.parts.map((p) => [p.id, ''])),
      level: -6,
      pan: 0,
      muted: false,
    };
    this.change({ passes: [...session.passes, pass] });
    this.chosen.set(id);
  }

  protected dropPass(pass: Pass): void {
    this.change({ passes: this.session()!.passes.filter((p) => p.id !== pass.id) });
    this.toasts.show(`${pass.name}: removed.`, { label: 'Undo', run: () => this.undo() });
  }

  protected movePass(pass: Pass, by: number): void {
    const passes = [...this.session()!.passes];
    const at = passes.findIndex((p) => p.id === pass.id);
    const to = at + by;
    if (to < 0 || to >= passes.length) return;
    passes.splice(at, 1);
    passes.splice(to, 0, pass);
    this.change({ passes });
  }

  protected clamp(text: string, low: number, high: number): number {
    const value = Number(text.replace(',', '.').replace('−', '-'));
    return Math.min(high, Math.max(low, Number.isFinite(value) ? value : low));
  }

  protected undo(): void {
    const before = this.past().at(-1);
    const now = this.session();
    if (!before || !now) return;
    this.past.update((all) => all.slice(0, -1));
    this.future.update((all) => [now, ...all]);
    this.write(before);
  }

  protected redo(): void {
    const [after, ...rest] = this.future();
    const now = this.session();
    if (!after || !now) return;
    this.future.set(rest);
    this.past.update((all) => [...all, now]);
    this.write(after);
  }

  protected key(event: KeyboardEvent): void {
    if (event.target instanceof HTMLElement && event.target.matches('input, textarea, select'))
      return;
    const command = event.ctrlKey || event.metaKey;
    const key = event.key.toLowerCase();
    if (command && key === 'z') {
      event.preventDefault();
      if (event.shiftKey) this.redo();
      else this.undo();
    } else if (event.key === ' ' && !(event.target instanceof HTMLButtonElement)) {
      event.preventDefault();
      void this.hear();
    }
  }

  /** Renders the whole and plays it; stops what plays. */
  protected async hear(): Promise<void> {
    if (this.mix.playing()) return this.mix.stop();
    const sides = await this.renderAll(this.session()!.passes);
    if (!sides) return;
    const peak = Math.max(peakOf(sides[0]), peakOf(sides[1]));
    this.mix.play(sides, SAMPLE_RATE, peak > 0 ? Math.min(1, CEILING / peak) : 1);
  }

  protected async saveMix(): Promise<void> {
    const session = this.session()!;
    const sides = await this.renderAll(session.passes);
    if (!sides) return;
    const bytes = encodeWav(sides, SAMPLE_RATE, '24') as Uint8Array<ArrayBuffer>;
    download(fileName(session.name, 'wav'), bytes, 'audio/wav');
  }

  /** What the model plays becomes the pass's take. */
  protected async renderTake(pass: Pass): Promise<void> {
    // Level and place belong to the mix, not to the take.
    const alone: Pass = { ...pass, level: 0, pan: 0, muted: false };
    delete alone.take;
    const sides = await this.renderAll([alone]);
    if (!sides) return;
    const bytes = encodeWav(sides, SAMPLE_RATE, '24') as Uint8Array<ArrayBuffer>;
    await this.keepTake(pass, `${pass.name}, by the model`, bytes);
  }

  protected async importTake(pass: Pass, field: HTMLInputElement): Promise<void> {
    const file = field.files?.[0];
    field.value = '';
    if (file) await this.keepTake(pass, file.name, new Uint8Array(await file.arrayBuffer()));
  }

  protected async remove(): Promise<void> {
    const stored = this.stored();
    if (!stored) return;
    clearTimeout(this.timer);
    try {
      await this.service.remove(stored);
      this.session.set(null);
      void this.router.navigate(['/sessions']);
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  private async keepTake(pass: Pass, name: string, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
    try {
      const take = await this.service.addTake(this.id(), name, bytes);
      this.takes.update((all) => [...all, take]);
      this.changePass(pass, { take: take.id });
    } catch (error) {
      this.toasts.show(`${name}: ${(error as Error).message}`);
    }
  }

  private async renderAll(passes: Pass[]): Promise<[Float32Array, Float32Array] | null> {
    if (this.subjects().length === 0) {
      this.toasts.show('There is nothing to hear yet: put a patch of the library into it.');
      return null;
    }
    const session = { ...this.session()!, passes };
    const subjects = passes.flatMap((pass) => {
      const own = this.subjects().find((s) => s.pass.id === pass.id);
      return own ? [{ ...own, pass }] : [];
    });
    const takes: [string, Take][] = [];
    try {
      for (const { take } of passes) {
        if (take !== undefined) takes.push([take, await this.service.take(this.id(), take)]);
      }
    } catch (error) {
      this.toasts.show((error as Error).message);
      return null;
    }
    return this.mix.render({ session, subjects, takes, sampleRate: SAMPLE_RATE });
  }

  private write(session: Session): void {
    this.session.set(session);
    this.saving.set('Saving');
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.save(), QUIET_MS);
  }

  private async save(): Promise<void> {
    const [stored, session] = [this.stored(), this.session()];
    if (!stored || !session || equal(stored.session, session)) return;
    try {
      const saved = await this.service.save(stored, session);
      this.stored.set(saved);
      this.saving.set(
        equal(saved.session, this.session()) ? `Saved · version ${saved.version}` : 'Saving',
      );
    } catch (error) {
      if (error instanceof ApiError && error.offline) {
        this.saving.set('Offline: changes are waiting');
        this.timer = setTimeout(() => void this.save(), 3000);
      } else this.saving.set(`Not saved: ${(error as Error).message}`);
    }
  }

  private async open(id: string): Promise<void> {
    try {
      const stored = await this.service.get(id);
      this.stored.set(stored);
      this.session.set(stored.session);
      this.saving.set(`Saved · version ${stored.version}`);
      this.takes.set(await this.service.takes(id));
      const query = { page: '1', size: '200' };
      const { items } = await answer<{ items: PatchSummary[] }>(
        this.api.patches.$get({ query } as never),
      );
      this.library.set(items);
    } catch (error) {
      this.error.set((error as Error).message);
    }
  }

  private async readPatches(wanted: ReadonlySet<string>): Promise<void> {
    for (const id of wanted) {
      if (this.patches().has(id)) continue;
      try {
        const { patch } = await answer<StoredPatch>(
          this.api.patches[':id'].$get({ param: { id } }),
        );
        if (!this.instruments().has(patch.instrument)) {
          const instrument = await answer<Instrument>(
            this.api.instruments[':id'].$get({ param: { id: patch.instrument } }),
          );
          this.instruments.update((all) => new Map(all).set(instrument.id, instrument));
        }
        this.patches.update((all) => new Map(all).set(id, patch));
      } catch {
        // The grid says that the patch is gone; the others are heard.
      }
    }
  }
}

const freeId = (word: string, all: readonly { id: string }[]): string => {
  let n = all.length + 1;
  while (all.some((one) => one.id === `${word}-${n}`)) n++;
  return `${word}-${n}`;
};

/** A step of a rebuild in a few words. */
function sayStep(instrument: Instrument, step: Exclude<Step, { kind: 'listening' }>): string {
  switch (step.kind) {
    case 'movement': {
      const control = instrument.controls.find((c) => c.id === step.control);
      const section = instrument.sections.find((s) => s.id === step.section);
      return `${section?.name} ${control?.name}: ${step.to}`;
    }
    case 'row':
      return `Row ${step.row + 1}: ${step.to}`;
    default:
      return step.text;
  }
}
