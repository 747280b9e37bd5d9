import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import {
  controlLabel,
  formatDuration,
  isWork,
  levelCaution,
  midiToNote,
  type Patch,
  panelAfter,
  panelAtInit,
  panelAtStart,
  type PanelBefore,
  planRebuild,
  sectionsInOrder,
  type Step,
  translate,
  translatedSettings,
  type Unit,
} from '@hurrel/core';
import { answer, API, type PatchSummary, type StoredPatch } from '../api/client';
import { type StoredUnit, UnitsService } from '../instruments/units.service';
import { patchFeature, shownPatch } from '../patch/patch.reducer';
import { PlayerService } from '../sound/player.service';
import { WeighService } from '../sound/weigh.service';
import { ToastService } from '../ui/toasts';
import { HandMap } from './hand-map';
import { CablingView } from './cabling-view';
import { MovementView } from './movement-view';

/** Leads the hands from one panel to this patch, one movement at a time. */
@Component({
  selector: 'hur-rebuild-page',
  imports: [CablingView, HandMap, MovementView],
  templateUrl: './rebuild-page.html',
  styleUrl: './rebuild-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RebuildPage {
  /**
   * What the panel shows before: `start`, `init`, `base` for the patch without variations, `variation-` and the id of one, or
   * another patch's id.
   */
  readonly from = input<string>('start');
  readonly variation = input<string>();

  private readonly api = inject(API);
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly toasts = inject(ToastService);
  private readonly unitsService = inject(UnitsService);
  protected readonly player = inject(PlayerService);
  protected readonly weigh = inject(WeighService);

  private readonly state = this.store.selectSignal(patchFeature.selectPatchState);
  protected readonly instrument = this.store.selectSignal(patchFeature.selectInstrument);
  protected readonly base = this.store.selectSignal(patchFeature.selectPresent);
  private readonly shown = this.store.selectSignal(patchFeature.selectVariation);
  /** Variation that is built: one that a link asks for, else the one that is shown. */
  protected readonly goal = computed(() => this.variation() ?? this.shown() ?? '');
  private readonly wanted = computed(() => {
    const shown = shownPatch(this.base(), this.goal());
    // Places to listen tell of the patch itself: a variation sounds otherwise.
    return shown && this.goal() ? { ...shown, checkpoints: [] } : shown;
  });
  /** Units of this instrument, and the one before which one stands. */
  protected readonly units = signal<StoredUnit[]>([]);
  private readonly chosenUnit = signal<string | null>(null);
  protected readonly unit = computed(() => this.chosenUnit() ?? this.base()?.unit ?? '');
  private readonly unitPair = computed(() => {
    const find = (id: string | undefined): Pick<Unit, 'calibration'> =>
      this.units().find((u) => u.id === id)?.unit ?? { calibration: {} };
    const from = this.base()?.unit;
    return this.unit() === (from ?? '') ? null : { from: find(from), to: find(this.unit()) };
  });
  /** The patch as it reads on the unit before which one stands. */
  protected readonly patch = computed(() => {
    const [instrument, wanted, pair] = [this.instrument(), this.wanted(), this.unitPair()];
    if (!instrument || !wanted || !pair) return wanted;
    return { ...wanted, settings: translatedSettings(instrument, wanted, pair.from, pair.to) };
  });
  /** Where the same value is read elsewhere on this unit. */
  protected readonly translations = computed(() => {
    const [instrument, wanted, pair] = [this.instrument(), this.wanted(), this.unitPair()];
    if (!instrument || !wanted || !pair) return [];
    return translate(instrument, wanted, pair.from, pair.to)
      .filter((t) => t.from !== t.to || t.error !== '')
      .map((t) => ({ ...t, label: controlLabel(instrument, t.control) }));
  });
  protected readonly others = signal<PatchSummary[]>([]);
  private readonly fromPatch = signal<StoredPatch | null>(null);
  protected readonly done = signal<readonly string[]>([]);
  /** Steps passed over for now; they come again at the end. */
  private readonly skipped = signal<readonly string[]>([]);
  protected readonly error = signal('');

  protected readonly origin = computed(() => this.from() || 'start');
  private readonly before = computed<PanelBefore | null>(() => {
    const instrument = this.instrument();
    if (!instrument) return null;
    if (this.origin() === 'start') return panelAtStart(instrument);
    if (this.origin() === 'init') return panelAtInit(instrument);
    const own = this.ownState(this.origin());
    if (own) return own;
    return this.fromPatch()?.patch ?? null;
  });
  /** Nothing is shown, and no key answers, before it is known what has been ticked already. */
  private readonly ready = signal(false);
  protected readonly plan = computed(() => {
    if (!this.ready()) return null;
    const [instrument, before, patch] = [this.instrument(), this.before(), this.patch()];
    return instrument && before && patch ? planRebuild(instrument, before, patch) : null;
  });
  protected readonly movements = computed(() => this.plan()?.steps.filter(isWork).length ?? 0);
  /** Steps still to do, what was passed over at the end. */
  protected readonly open = computed<Step[]>(() => {
    const steps = (this.plan()?.steps ?? []).filter((s) => !this.done().includes(s.id));
    const later = (s: Step): boolean => this.skipped().includes(s.id);
    return [...steps.filter((s) => !later(s)), ...steps.filter(later)];
  });
  protected readonly step = computed(() => this.open()[0]);
  protected readonly next = computed(() => this.open().slice(1, 4));
  protected readonly doneSteps = computed(() => {
    const steps = this.plan()?.steps ?? [];
    return this.done()
      .flatMap((id) => steps.find((s) => s.id === id) ?? [])
      .reverse();
  });
  protected readonly left = computed(() =>
    formatDuration(this.open().reduce((sum, s) => sum + (isWork(s) ? s.seconds : 0), 0)),
  );
  protected readonly share = computed(() => {
    const all = this.plan()?.steps.length ?? 0;
    return all === 0 ? 1 : 1 - this.open().length / all;
  });
  protected readonly percent = computed(() => Math.round(100 * this.share()));
  protected readonly sheet = computed(() => {
    const query = new URLSearchParams({ from: this.origin() });
    if (this.goal()) query.set('variation', this.goal());
    return `/api/v1/patches/${this.state().id}/sheet.pdf?${query}`;
  });
  /** What ticks are kept under: the origin, and the variation that is built. */
  private readonly progressKey = computed(() =>
    this.goal() ? `${this.origin()}.${this.goal()}` : this.origin(),
  );
  protected readonly caution = computed(() => {
    const [instrument, patch] = [this.instrument(), this.patch()];
    return instrument && patch ? levelCaution(instrument, patch) : '';
  });
  protected readonly estimate = computed(() => formatDuration(this.plan()?.seconds ?? 0));
  protected readonly name = midiToNote;

  constructor() {
    effect(() => {
      const [instrument, patch] = [this.instrument(), this.patch()];
      if (!instrument || !patch || this.weigh.isOf(patch)) return;
      // Which controls deserve the ear is worked out beside the rebuild; nothing waits for it.
      untracked(() => this.weigh.start(instrument, patch, patch.phrase[0]?.note ?? 48));
    });
    effect(() => {
      const patch = this.patch();
      if (patch && this.others().length === 0) void this.readOthers(patch.instrument);
    });
    effect(() => {
      const id = this.instrument()?.id;
      if (id)
        void this.unitsService.of(id).then(
          (all) => this.units.set(all),
          () => undefined,
        );
    });
    effect(() => {
      const [id, origin, key] = [this.state().id, this.origin(), this.progressKey()];
      if (id) void this.readProgress(id, origin, key);
    });
  }

  protected sectionOf(step: Step | undefined): { number: string; name: string } {
    const instrument = this.instrument();
    if (!instrument || !step) return { number: '', name: '' };
    if (step.kind === 'row') return { number: 'M', name: 'Matrix' };
    if (step.kind === 'entry') return { number: 'S', name: 'Sequencer' };
    const id = step.kind === 'listening' ? step.checkpoint.after : step.section;
    const order = sectionsInOrder(instrument);
    const at = order.findIndex((s) => s.id === id);
    if (at < 0) return { number: '', name: step.kind === 'rack' ? 'Cabinet' : '' };
    return { number: String(at + 1), name: order[at]!.name };
  }

  protected controlName(step: Step): string {
    switch (step.kind) {
      case 'movement':
        return this.instrument()?.controls.find((c) => c.id === step.control)?.name ?? '';
      case 'listening':
        return `Play ${midiToNote(step.checkpoint.note)}`;
      case 'row':
        return `Row ${step.row + 1}`;
      default:
        return step.text;
    }
  }

  protected tick(): void {
    const step = this.step();
    if (!step) return;
    this.skipped.update((all) => all.filter((id) => id !== step.id));
    this.done.update((all) => [...all, step.id]);
    void this.keep();
  }

  protected back(): void {
    const last = this.done().at(-1);
    if (last === undefined) return;
    this.done.update((all) => all.slice(0, -1));
    this.skipped.update((all) => all.filter((id) => id !== last));
    void this.keep();
  }

  protected skip(): void {
    const step = this.step();
    if (!step || this.open().length < 2) return;
    // Passed over once more, it goes behind the others that were.
    this.skipped.update((all) => [...all.filter((id) => id !== step.id), step.id]);
  }

  protected again(): void {
    this.done.set([]);
    this.skipped.set([]);
    void this.keep();
  }

  /** The sound one should hear: at a checkpoint the panel as far as it is built, else the finished patch. */
  protected hear(): void {
    const [instrument, patch, plan, before] = [
      this.instrument(),
      this.patch(),
      this.plan(),
      this.before(),
    ];
    if (!instrument || !patch || !plan || !before) return;
    if (this.player.playing()) return this.player.stop();
    const step = this.step();
    if (step?.kind !== 'listening') return this.player.playPhrase(instrument, patch);
    const at = plan.steps.indexOf(step);
    this.player.playPanel(
      instrument,
      patch,
      panelAfter(before, plan, patch, at),
      step.checkpoint.note,
    );
  }

  protected chooseFrom(from: string): void {
    void this.router.navigate([], {
      queryParams: { from },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }

  protected chooseUnit(id: string): void {
    this.chosenUnit.set(id);
  }

  protected chooseGoal(variation: string): void {
    void this.router.navigate([], {
      queryParams: { variation },
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }

  /** The patch or one of its variations, when the origin names one. */
  private ownState(origin: string): Patch | null {
    if (origin === 'base') return this.base();
    return origin.startsWith('variation-') ? shownPatch(this.base(), origin.slice(10)) : null;
  }

  @HostListener('document:keydown', ['$event'])
  protected key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
    if (event.target instanceof HTMLElement && event.target.matches('select, input, a')) return;
    const onButton = event.target instanceof HTMLElement && event.target.matches('button');
    const act = this.keys[event.key] ?? this.keys[event.key.toLowerCase()];
    // A button in focus answers to its own space and enter.
    if (!act || (onButton && (event.key === ' ' || event.key === 'Enter'))) return;
    event.preventDefault();
    act();
  }

  private readonly keys: Record<string, () => void> = {
    ' ': () => this.tick(),
    Enter: () => this.tick(),
    PageDown: () => this.tick(),
    ArrowLeft: () => this.back(),
    PageUp: () => this.back(),
    ArrowRight: () => this.skip(),
    h: () => this.hear(),
  };

  private async readOthers(instrument: string): Promise<void> {
    try {
      const { items } = await answer<{ items: PatchSummary[] }>(
        this.api.patches.$get({ query: { instrument, size: '200' } }),
      );
      this.others.set(items.filter((p) => p.id !== this.state().id));
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  private async readProgress(id: string, origin: string, key: string): Promise<void> {
    this.error.set('');
    this.skipped.set([]);
    this.ready.set(false);
    try {
      if (origin !== 'start' && origin !== 'init' && !this.ownState(origin)) {
        this.fromPatch.set(null);
        this.fromPatch.set(
          await answer<StoredPatch>(this.api.patches[':id'].$get({ param: { id: origin } })),
        );
      }
      const { done } = await answer<{ done: string[] }>(
        this.api.patches[':id'].progress.$get({ param: { id }, query: { from: key } }),
      );
      // Asked for another origin meanwhile: that answer will come by itself.
      if (key !== this.progressKey()) return;
      this.done.set(done);
      this.ready.set(true);
    } catch (error) {
      this.error.set((error as Error).message);
    }
  }

  /** Ticks are kept one after another, so that the last one wins. */
  private async keep(): Promise<void> {
    const id = this.state().id;
    if (!id) return;
    const [from, done] = [this.progressKey(), [...this.done()]];
    this.keeping = this.keeping.then(async () => {
      try {
        await answer(
          this.api.patches[':id'].progress.$put({ param: { id }, query: { from }, json: { done } }),
        );
      } catch (error) {
        this.toasts.show(`This tick is not kept: ${(error as Error).message}`);
      }
    });
    await this.keeping;
  }

  private keeping: Promise<void> = Promise.resolve();
}
