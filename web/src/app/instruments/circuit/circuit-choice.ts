import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { controlLabel, proposeBindings, type Skeleton } from '@hurrel/core';
import { ToastService } from '../../ui/toasts';
import { BindingList } from './binding-list';
import { InstrumentDesk } from '../instrument-desk';
import { InstrumentsService } from '../instruments.service';

/** A circuit to begin from: what each control would do, with the reason, accepted one by one or all together. */
@Component({
  selector: 'hur-circuit-choice',
  imports: [BindingList],
  templateUrl: './circuit-choice.html',
  styleUrl: './circuit-choice.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CircuitChoice {
  private readonly service = inject(InstrumentsService);
  private readonly toasts = inject(ToastService);
  private readonly desk = inject(InstrumentDesk);

  protected readonly skeletons = signal<Skeleton[]>([]);
  protected readonly fault = signal('');
  protected readonly chosen = signal<Skeleton | null>(null);
  /** Proposals that are not wanted, by control. */
  protected readonly declined = signal<ReadonlySet<string>>(new Set());
  protected readonly instrument = this.desk.instrument;
  protected readonly modelled = this.desk.modelled;
  /** How many controls each circuit recognises: the best first, of several the smallest. */
  protected readonly ranked = computed(() => {
    const instrument = this.instrument();
    if (!instrument) return [];
    return this.skeletons()
      .map((skeleton) => ({
        skeleton,
        known: proposeBindings(instrument, skeleton).length,
      }))
      .sort(
        (a, b) =>
          b.known - a.known ||
          a.skeleton.circuit.modules.length - b.skeleton.circuit.modules.length,
      );
  });
  protected readonly proposals = computed(() => {
    const [instrument, skeleton] = [this.instrument(), this.chosen()];
    return instrument && skeleton ? proposeBindings(instrument, skeleton) : [];
  });
  protected readonly accepted = computed(() =>
    this.proposals().filter((p) => !this.declined().has(p.control)),
  );
  /** Controls that nothing is bound to. */
  protected readonly unbound = computed(() => {
    const instrument = this.instrument();
    if (!instrument || !this.modelled()) return [];
    return instrument.controls
      .filter((c) => c.bindings.length === 0 && !c.unheard)
      .map((c) => controlLabel(instrument, c.id));
  });

  constructor() {
    void this.read();
  }

  protected choose(skeleton: Skeleton | null): void {
    this.chosen.set(skeleton);
    this.declined.set(new Set());
  }

  protected toggle(control: string): void {
    this.declined.update((now) => {
      const next = new Set(now);
      if (!next.delete(control)) next.add(control);
      return next;
    });
  }

  protected accept(): void {
    const skeleton = this.chosen();
    if (!skeleton) return;
    const count = this.accepted().length;
    this.desk.takeSkeleton(skeleton, this.accepted());
    this.choose(null);
    this.toasts.show(`${count} controls do something now. Undo takes it back.`);
  }

  protected drop(): void {
    this.desk.dropCircuit();
  }

  private async read(): Promise<void> {
    try {
      this.skeletons.set(await this.service.skeletons());
    } catch (error) {
      this.fault.set(`${(error as Error).message} The circuits could not be read: try again.`);
    }
  }
}
