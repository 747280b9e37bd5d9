import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import {
  formatDuration,
  isWork,
  midiToNote,
  panelAfter,
  type Patch,
  type Step,
  stepName,
} from '@hurrel/core';
import { useShortcuts } from '../keys/shortcuts';
import { PatchPicker } from '../picker/patch-picker';
import { LiveService } from '../sound/live.service';
import { TransportService } from '../transport/transport.service';
import { SensitivityService } from '../sound/sensitivity.service';
import { CablingView } from './cabling-view';
import { HandMap } from './hand-map';
import { MovementView } from './movement-view';
import { rebuildDesk } from './rebuild-desk';
import { sectionOfStep, type StepSection } from './section-of-step';
import { TicksActions, ticksFeature, ticksId } from './ticks.document';
import { ShownPanel } from '../shown/shown-panel';
import { OnDisk } from '../api/on-disk';
import { ToastService } from '../ui/toasts';

/** Leads the hands from one panel to this patch, one movement at a time. */
@Component({
  selector: 'hur-rebuild-page',
  imports: [CablingView, HandMap, MovementView, PatchPicker],
  providers: [ShownPanel],
  templateUrl: './rebuild-page.html',
  styleUrl: './rebuild-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RebuildPage {
  readonly from = input<string>('');
  readonly variation = input<string>();
  /** Unit before which one stands; absent: that of the patch. */
  readonly unit = input<string>();

  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly live = inject(LiveService);
  protected readonly disk = inject(OnDisk);
  protected readonly transport = inject(TransportService);
  private readonly toasts = inject(ToastService);
  protected readonly weigh = inject(SensitivityService);
  protected readonly shown = inject(ShownPanel);
  protected readonly desk = rebuildDesk(
    this.from,
    this.variation,
    this.unit,
    this.shown.began,
    this.shown.origin,
  );
  private readonly ticks = this.store.selectSignal(ticksFeature.selectTicksState);

  private readonly wantedTicks = computed(() => {
    const id = this.desk.id();
    if (id === null || this.shown.began() === undefined) return null;
    return ticksId(id, this.desk.progressKey());
  });
  protected readonly error = computed(() => this.desk.error() || (this.ticks().error ?? ''));
  /** Ticks that the server does not know of yet. */
  protected readonly waiting = computed(() =>
    this.ticks().save.kind === 'offline' ? this.ticks().changes : 0,
  );
  /** Nothing is shown, and no key answers, before it is known what has been ticked already. */
  private readonly ticked = computed(() =>
    this.ticks().id === this.wantedTicks() ? this.ticks().present?.done : undefined,
  );
  protected readonly done = computed(() => this.ticked() ?? []);
  /** Steps passed over for now; they come again at the end. */
  private readonly skipped = signal<readonly string[]>([]);
  protected readonly plan = computed(() => (this.ticked() ? this.desk.plan() : null));
  protected readonly movements = computed(() => this.plan()?.steps.filter(isWork).length ?? 0);
  /** Steps still to do, what was passed over at the end. */
  protected readonly open = computed<Step[]>(() => {
    const done = new Set(this.done());
    const steps = (this.plan()?.steps ?? []).filter((s) => !done.has(s.id));
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
  protected readonly estimate = computed(() => formatDuration(this.plan()?.seconds ?? 0));
  protected readonly share = computed(() => {
    const all = this.plan()?.steps.length ?? 0;
    return all === 0 ? 1 : 1 - this.open().length / all;
  });
  protected readonly percent = computed(() => Math.round(100 * this.share()));
  protected readonly name = midiToNote;

  constructor() {
    effect(() => {
      const [goal, panel] = [this.goalOf(), this.desk.panelId()];
      if (goal && this.desk.instrument())
        untracked(() => this.shown.stand(panel, goal.id, goal.name));
    });
    effect(() => {
      this.step();
      // The next step is heard anew.
      untracked(() => this.live.standIn(null));
    });
    inject(DestroyRef).onDestroy(() => {
      this.live.standIn(null);
      this.store.dispatch(TicksActions.close());
    });
    effect(() => {
      const id = this.wantedTicks();
      if (id === null) return;
      untracked(() => {
        this.skipped.set([]);
        this.store.dispatch(TicksActions.open({ id }));
      });
    });
    effect(() => {
      const [instrument, patch] = [this.desk.instrument(), this.desk.patch()];
      if (!instrument || !patch || this.weigh.isOf(patch)) return;
      // Which controls deserve the ear is worked out beside the rebuild; nothing waits for it.
      untracked(() => this.weigh.start(instrument, patch, patch.phrase[0]?.note ?? 48));
    });
    this.shown.chosen.pipe(takeUntilDestroyed()).subscribe((shown) => this.loaded(shown.name));
    useShortcuts('Rebuild', [
      { keys: ['Space', 'Enter', 'PageDown'], says: 'Done, and on', act: () => this.tick() },
      { keys: ['ArrowLeft', 'PageUp'], says: 'Back', act: () => this.back() },
      { keys: 'ArrowRight', says: 'Later', act: () => this.skip() },
      { keys: 'h', says: 'Hear it', act: () => this.hear() },
    ]);
  }

  protected sectionOf(step: Step): StepSection {
    const instrument = this.desk.instrument();
    return instrument ? sectionOfStep(instrument, step) : { number: '', name: '' };
  }

  protected controlName(step: Step): string {
    const instrument = this.desk.instrument();
    return instrument ? stepName(instrument, step) : '';
  }

  protected tick(): void {
    const step = this.step();
    if (!step) return;
    this.skipped.update((all) => all.filter((id) => id !== step.id));
    this.keep([...this.done(), step.id]);
  }

  protected back(): void {
    const done = this.done();
    const last = done.at(-1);
    if (last === undefined) return;
    this.skipped.update((all) => all.filter((id) => id !== last));
    this.keep(done.slice(0, -1));
  }

  protected skip(): void {
    const step = this.step();
    if (!step || this.open().length < 2) return;
    // Passed over once more, it goes behind the others that were.
    this.skipped.update((all) => [...all.filter((id) => id !== step.id), step.id]);
  }

  protected again(): void {
    this.skipped.set([]);
    this.keep([]);
  }

  /** The sound one should hear: at a checkpoint the panel as far as it is built, else the finished patch. */
  protected hear(): void {
    const [patch, plan, before] = [this.desk.patch(), this.plan(), this.desk.before()];
    if (!patch || !plan || !before) return;
    const runs = this.transport.playing();
    const step = this.step();
    if (step?.kind !== 'listening') {
      if (runs) return this.transport.stop();
      this.live.standIn(null);
      return this.live.playPhrase(patch, patch.phrase, false);
    }
    if (runs && this.live.instead()) {
      this.transport.stop();
      return this.live.standIn(null);
    }
    const { note } = step.checkpoint;
    const panel = panelAfter(before, plan, patch, plan.steps.indexOf(step));
    this.live.playInstead({ ...patch, ...panel }, [{ beat: 0, length: 2, note, velocity: 100 }]);
  }

  private loaded(name: string): void {
    this.toasts.show(`Loaded on the panel: it shows ${name}. The rebuild goes on from there.`);
    this.ask({ from: 'shown' });
  }

  /** The variation that is built, which is told as large as the patch. */
  protected readonly variationName = computed(
    () => this.desk.base()?.variations.find((v) => v.id === this.desk.goal())?.name,
  );

  protected ask(queryParams: { from?: string; variation?: string }): void {
    void this.router.navigate([], {
      queryParams,
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }

  protected standsAlready(): void {
    const goal = this.goalOf();
    if (goal) this.shown.standsAs(goal);
  }

  protected somebodyTurned(): void {
    const instrument = this.desk.instrument();
    if (!instrument) return;
    this.shown.turned(instrument);
    this.ask({ from: 'shown' });
  }

  private goalOf(): { id: string; name: string; patch: Patch } | null {
    const [id, base, patch] = [this.desk.id(), this.desk.base(), this.desk.patch()];
    if (id === null || !base || !patch) return null;
    const variation = base.variations.find((v) => v.id === this.desk.goal());
    return { id, name: variation ? `${base.name}: ${variation.name}` : base.name, patch };
  }

  private keep(done: string[]): void {
    this.store.dispatch(TicksActions.edit({ next: { done } }));
    const [goal, plan, before] = [this.goalOf(), this.plan(), this.desk.before()];
    if (!goal || !plan || !before) return;
    this.shown.moved(before, plan, goal, done, this.desk.origin(), this.desk.turned(done));
  }
}
