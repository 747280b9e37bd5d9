import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  circuitsFor,
  controlLabel,
  proposeBindings,
  proposeLeads,
  type Skeleton,
  suits,
  withModulesModelled,
} from '@hurrel/core';
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
  /** Something is said of what is behind what is looked at. */
  protected readonly modelled = computed(() => {
    const { modules = [] } = this.instrument()?.circuit ?? {};
    return this.desk.focused() ? modules.length > 0 : this.desk.modelled();
  });
  protected readonly focused = this.desk.focused;
  /** Modules of a cabinet, with what is behind each. */
  protected readonly modules = computed(() =>
    this.focused()
      ? []
      : (this.instrument()?.rack?.types ?? []).map(({ id, name, modules, controls, jacks }) => ({
          ...{ id, name },
          behind: modules.map((m) => m.name ?? m.id).join(', '),
          open: [
            ...controls.filter((c) => c.bindings.length === 0 && !c.unheard),
            ...jacks.filter((j) => j.port === ''),
          ].map((one) => one.name),
        })),
  );
  /** Controls and jacks of what is looked at. */
  protected readonly things = computed(() => {
    const { controls = [], jacks = [] } = this.instrument() ?? {};
    return controls.length + (this.focused() ? jacks.length : 0);
  });
  /** Some module has no circuit, and one is for modules of its name. */
  protected readonly bare = computed(() =>
    this.modules().some((m) => m.behind === '' && this.skeletons().some((s) => suits(s, m.name))),
  );
  /** How many controls each circuit recognises: the best first, of several the smallest. */
  protected readonly ranked = computed(() => {
    const instrument = this.instrument();
    if (!instrument) return [];
    if (this.desk.focused()) return circuitsFor(instrument, this.skeletons());
    return this.skeletons()
      .filter((s) => s.module === undefined)
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
  /** Jacks that the chosen circuit recognises, and where they would lead. */
  protected readonly leads = computed(() => {
    const [instrument, skeleton] = [this.instrument(), this.chosen()];
    if (!instrument || !skeleton) return [];
    const found = proposeLeads(instrument, skeleton);
    return instrument.jacks.flatMap((j) => {
      const port = found.get(j.id);
      return port === undefined
        ? []
        : [{ id: j.id, text: `${j.name} leads to ${port.replace('.', ', ')}` }];
    });
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
    // What the panel says otherwise is asked first.
    const asked = this.proposals().flatMap((p) => (p.asks ? [p.control] : []));
    this.declined.set(new Set(asked));
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
    const count = this.accepted().length + this.leads().length;
    this.desk.takeSkeleton(skeleton, this.accepted());
    this.choose(null);
    const what = this.focused() ? 'controls and jacks' : 'controls';
    this.toasts.show(`${count} ${what} do something now. Undo takes it back.`);
  }

  /** Gives a circuit to every module of a cabinet that has none and whose name one is for. */
  protected modelModules(): void {
    const before = this.desk.whole();
    if (!before) return;
    const { instrument, modelled } = withModulesModelled(before, this.skeletons());
    const given = modelled.filter((m) => m.circuit !== undefined);
    const left = modelled.filter((m) => m.circuit === undefined).map((m) => m.name);
    this.desk.editWhole(() => instrument);
    const rest = left.length > 0 ? ` None is for modules called ${left.join(', ')}.` : '';
    this.toasts.show(
      `${given.length} ${given.length === 1 ? 'module has' : 'modules have'} a circuit now. Undo takes it back.${rest}`,
    );
  }

  protected lookAt(module: string): void {
    this.desk.module.set(module);
    this.desk.chosen.set(null);
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
