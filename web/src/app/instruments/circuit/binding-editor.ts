import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
} from '@angular/core';
import {
  canTurn,
  type ContinuousControl,
  type Control,
  controlLabel,
  firstBinding,
  fitTapers,
  type Instrument,
  isModuleKind,
  isSwitched,
  measurableOf,
  moduleSpec,
  printDiffers,
  type PhysicalUnit,
  readTaperPoints,
  type Taper,
  turnables,
  withBindings,
  withUnheard,
} from '@hurrel/core';
import { InstrumentDesk } from '../instrument-desk';
import { MeasureTaper } from './measure-taper';
import { missText, paramName, taperText } from './binding-words';

type Binding = Control['bindings'][number];
import { PickOnce } from '../../ui/pick-once';

/** What one control turns, and what that comes to: chosen from the circuit, and measured at a few places. */
@Component({
  selector: 'hur-binding-editor',
  imports: [MeasureTaper, PickOnce],
  templateUrl: './binding-editor.html',
  styleUrl: './binding-editor.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BindingEditor {
  readonly control = input.required<Control>();
  private readonly desk = inject(InstrumentDesk);
  protected readonly missText = missText;
  protected readonly taperText = taperText;

  protected readonly all = computed(() => {
    const instrument = this.desk.instrument();
    return instrument ? turnables(instrument) : [];
  });
  /** What it could turn, module by module. */
  protected readonly modules = computed(() => {
    const [instrument, control] = [this.desk.instrument(), this.control()];
    const groups = new Map<string, { id: string; text: string }[]>();
    for (const one of this.all()) {
      const mine = one.by === control.id;
      if (!instrument || mine || !canTurn(control, one)) continue;
      const by = one.by ? ` (now ${controlLabel(instrument, one.by)})` : '';
      const entry = { id: `${one.module}.${one.param}`, text: `${one.param}${by}` };
      groups.set(one.name, [...(groups.get(one.name) ?? []), entry]);
    }
    return [...groups].map(([name, params]) => ({ name, params }));
  });
  protected readonly bound = computed(() => {
    const [instrument, control] = [this.desk.instrument(), this.control()];
    if (!instrument) return [];
    return (control.bindings as Binding[]).map((binding) => {
      const spec = this.all().find(
        (t) => t.module === binding.module && t.param === binding.param,
      )?.spec;
      return {
        binding,
        name: paramName(instrument, binding),
        choices: spec?.kind === 'choice' ? spec.choices : null,
        bounds: spec?.kind === 'number' ? ([spec.lo, spec.hi] as const) : undefined,
        taper: 'taper' in binding ? binding.taper : null,
        differs: spec ? printDiffers(control, binding, spec) : undefined,
        measurable: this.measurable(instrument, binding),
      };
    });
  });
  /** What turns, of which places can be measured. */
  protected readonly turning = computed((): ContinuousControl | null => {
    const control = this.control();
    return isSwitched(control) ? null : control;
  });
  protected readonly positions = computed(() => {
    const control = this.control();
    return isSwitched(control) ? control.positions : [];
  });
  /** What is typed of measured places, by parameter. */
  protected readonly texts = linkedSignal<string, Record<string, string>>({
    source: () => this.control().id,
    computation: () => ({}),
  });

  protected fits(key: string, taper: Taper, bounds: readonly [number, number] | undefined) {
    const text = this.texts()[key] ?? '';
    if (text.trim() === '') return null;
    const unit: PhysicalUnit = taper.unit;
    const read = readTaperPoints(text, this.control() as ContinuousControl, unit);
    if (!read.ok) return { fault: read.message, tapers: [] };
    if (read.points.length < 2)
      return { fault: 'Two places at least: 0 is 20 Hz, 10 is 18k', tapers: [] };
    const tapers = fitTapers(read.points, unit, bounds);
    return { fault: tapers.length === 0 ? 'What it comes to turns round on the way' : '', tapers };
  }

  protected say(key: string, text: string): void {
    this.texts.update((all) => ({ ...all, [key]: text }));
  }

  /** A place that was measured stands behind those that are written already. */
  protected addPlace(key: string, place: string): void {
    const before = (this.texts()[key] ?? '').trim();
    this.say(key, before === '' ? place : `${before}, ${place}`);
  }

  protected add(key: string): void {
    const one = this.all().find((t) => `${t.module}.${t.param}` === key);
    const control = this.control();
    if (one) this.bind([...(control.bindings as Binding[]), firstBinding(control, one)]);
  }

  protected remove(binding: Binding): void {
    this.bind((this.control().bindings as Binding[]).filter((b) => b !== binding));
  }

  protected take(binding: Binding, taper: Taper): void {
    this.replace(binding, { ...binding, taper } as Binding);
  }

  protected takeBest(
    key: string,
    binding: Binding,
    taper: Taper,
    bounds: readonly [number, number] | undefined,
  ): void {
    const best = this.fits(key, taper, bounds)?.tapers[0];
    if (best) this.take(binding, best.taper);
  }

  protected valueOf(binding: Binding, position: string): string {
    return 'values' in binding ? String(binding.values[position] ?? '') : '';
  }

  protected setValue(binding: Binding, position: string, text: string, choices: unknown): void {
    const value = choices ? text : Number(text.replace(',', '.'));
    if (!('values' in binding) || (typeof value === 'number' && !Number.isFinite(value))) return;
    this.replace(binding, { ...binding, values: { ...binding.values, [position]: value } });
  }

  protected hush(unheard: boolean): void {
    this.desk.edit((i) => withUnheard(i, this.control().id, unheard));
  }

  /** What of the parameter can be read off a recording, as the circuit has it now. */
  private measurable(instrument: Instrument, { module, param }: Binding) {
    const found = instrument.circuit.modules.find((m) => m.id === module);
    if (!found || !isModuleKind(found.kind)) return null;
    const { kind } = found;
    const spec = moduleSpec(kind).params[param];
    const unit = spec?.kind === 'number' ? spec.unit : '';
    const what = measurableOf(kind, param, unit);
    return what ? { what, kind, linear: found.params['curve'] === 'linear' } : null;
  }

  private replace(was: Binding, now: Binding): void {
    this.bind((this.control().bindings as Binding[]).map((b) => (b === was ? now : b)));
  }

  private bind(bindings: Binding[]): void {
    this.desk.edit((i) => withBindings(i, this.control().id, bindings as Control['bindings']));
  }
}
