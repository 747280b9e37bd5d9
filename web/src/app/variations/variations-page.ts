import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  type OnDestroy,
  signal,
} from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import {
  applyVariation,
  diffPatches,
  morph,
  type Patch,
  planRebuild,
  type Variation,
  variationFrom,
  variationTable,
  formatDuration,
  isWork,
} from '@hurrel/core';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';
import { LiveService } from '../sound/live.service';
import { InTurn } from './in-turn';
import { Measured } from './measured';
import { MeasureService } from '../sound/measure.service';
import { TransportService } from '../transport/transport.service';
import { ToastService } from '../ui/toasts';

/** The variations of a patch: all beside each other, heard one after the other, and what lies between two. */
@Component({
  selector: 'hur-variations-page',
  imports: [RouterLink],
  providers: [InTurn, Measured, MeasureService],
  templateUrl: './variations-page.html',
  styleUrl: './variations-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class VariationsPage implements OnDestroy {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly toasts = inject(ToastService);
  private readonly live = inject(LiveService);
  protected readonly transport = inject(TransportService);
  protected readonly patch = this.store.selectSignal(patchFeature.selectPresent);
  protected readonly instrument = this.store.selectSignal(patchFeature.selectInstrument);
  protected readonly shown = this.store.selectSignal(patchFeature.selectVariation);
  private readonly id = this.store.selectSignal(patchFeature.selectId);

  protected readonly turn = inject(InTurn);
  protected readonly measured = inject(Measured);
  protected readonly boards = computed(() => this.instrument()?.revisions ?? []);

  protected readonly table = computed(() => {
    const [instrument, patch] = [this.instrument(), this.patch()];
    // Boards have a line of their own.
    return instrument && patch
      ? variationTable(instrument, patch).filter((row) => row.pointer !== '/revision')
      : [];
  });
  /** From one to the other: ids of variations, or nothing for the patch itself. */
  protected readonly from = signal('');
  protected readonly to = signal('');
  /** Per cent of the way from one to the other. */
  protected readonly share = signal(0);

  /** What lies between the two that are chosen. */
  private readonly between = computed(() => {
    const [instrument, patch] = [this.instrument(), this.patch()];
    if (!instrument || !patch) return null;
    return morph(
      instrument,
      this.stateOf(patch, this.from()),
      this.stateOf(patch, this.to()),
      this.share() / 100,
    );
  });
  protected readonly steps = computed(() => {
    const [instrument, patch] = [this.instrument(), this.patch()];
    if (!instrument || !patch) return null;
    const plan = planRebuild(
      instrument,
      this.stateOf(patch, this.from()),
      this.stateOf(patch, this.to()),
    );
    return {
      moves: plan.steps.filter(isWork).length,
      time: formatDuration(plan.seconds),
    };
  });
  protected readonly differences = computed(() => {
    const [instrument, between] = [this.instrument(), this.between()];
    const patch = this.patch();
    if (!instrument || !between || !patch) return [];
    return diffPatches(instrument, this.stateOf(patch, this.from()), between);
  });

  constructor() {
    const first = this.patch()?.variations[0];
    if (first) this.to.set(first.id);
    const asked = computed(() => {
      const [instrument, patch] = [this.instrument(), this.patch()];
      return instrument && patch && patch.variations.length > 0 ? { instrument, patch } : null;
    });
    this.measured.follow(asked);
  }

  ngOnDestroy(): void {
    this.live.standIn(null);
  }

  protected nameOf(id: string): string {
    return this.patch()?.variations.find((v) => v.id === id)?.name ?? 'the patch itself';
  }

  /** Some variation has a board of its own: then something departs. */
  protected onlyBoards(): boolean {
    return this.patch()?.variations.some((v) => v.revision !== undefined) ?? false;
  }

  protected boardName(id: string | undefined): string {
    return (this.boards().find((b) => b.id === id) ?? this.boards()[0])?.name ?? '';
  }

  protected setBoard(id: string, board: string): void {
    this.write(
      this.patch()!.variations.map((v) => {
        const { revision: _, ...rest } = v;
        return v.id !== id ? v : board === '' ? rest : { ...rest, revision: board };
      }),
    );
  }

  protected inTurn(): void {
    if (this.turn.heard() === null) this.turn.start(() => this.patch());
    else this.turn.stop();
  }

  protected add(name: string): void {
    const patch = this.patch();
    const called = name.trim();
    if (!patch || called === '') return;
    const id = this.freeId();
    const variation: Variation = {
      id,
      name: called,
      about: '',
      settings: {},
      pulled: [],
      plugged: [],
      rows: [],
    };
    this.write([...patch.variations, variation]);
    this.edit(id);
  }

  /** Shows a variation on the chart: what is moved there belongs to it. */
  protected edit(id: string): void {
    this.store.dispatch(PatchActions.showVariation({ variation: id }));
    void this.router
      .navigate(['/patch', this.id(), 'chart'])
      // Whoever works by keys stands where it is said what is shown now.
      .then(() => document.querySelector<HTMLElement>('select.shown')?.focus());
  }

  protected change(id: string, changes: Partial<Pick<Variation, 'name' | 'about'>>): void {
    if (changes.name !== undefined && changes.name.trim() === '') return;
    this.write(
      this.patch()!.variations.map((v) => (v.id === id ? { ...v, ...changes } : v)),
      `variation-${id}`,
    );
  }

  protected remove(id: string): void {
    const name = this.nameOf(id);
    if (this.shown() === id) this.store.dispatch(PatchActions.showVariation({ variation: null }));
    for (const end of [this.from, this.to]) if (end() === id) end.set('');
    this.write(this.patch()!.variations.filter((v) => v.id !== id));
    this.toasts.show(`${name}: removed.`, {
      label: 'Undo',
      run: () => this.store.dispatch(PatchActions.undo()),
    });
  }

  protected hear(id: string): void {
    const [instrument, patch] = [this.instrument(), this.patch()];
    if (!instrument || !patch) return;
    const state = this.stateOf(patch, id);
    this.live.playInstead(state, state.phrase);
  }

  protected slide(share: number): void {
    this.share.set(share);
    const between = this.between();
    if (between) this.live.standIn(between);
  }

  protected playBetween(): void {
    if (this.transport.playing()) return this.transport.stop();
    this.slide(this.share());
    const between = this.between();
    if (between) this.live.playPhrase(between, between.phrase, true);
  }

  /** Keeps what lies between as a variation of its own. */
  protected keepBetween(): void {
    const [patch, between] = [this.patch(), this.between()];
    if (!patch || !between) return;
    const name = `${this.nameOf(this.from())} to ${this.nameOf(this.to())}, ${this.share()} %`;
    const kept = variationFrom(patch, between, {
      id: this.freeId(),
      name: name.slice(0, 80),
      about: '',
    });
    this.write([...patch.variations, kept]);
    this.toasts.show(`Kept as "${kept.name}".`);
  }

  private stateOf(patch: Patch, id: string): Patch {
    const variation = patch.variations.find((v) => v.id === id);
    return variation ? applyVariation(patch, variation) : patch;
  }

  private freeId(): string {
    const taken = new Set(this.patch()!.variations.map((v) => v.id));
    let n = taken.size + 1;
    while (taken.has(`v${n}`)) n++;
    return `v${n}`;
  }

  private write(variations: Variation[], gesture?: string): void {
    this.store.dispatch(
      PatchActions.change({ changes: { variations }, ...(gesture ? { gesture } : {}) }),
    );
  }
}
