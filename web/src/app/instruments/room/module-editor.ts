import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import {
  controlLabel,
  isModuleKind,
  kindsFor,
  moduleSpec,
  portNames,
  withFixed,
  withKind,
  withModuleName,
} from '@hurrel/core';
import { NumberField } from '../../ui/number-field';
import { KINDS, kindText } from './kinds';
import { RoomDesk } from './room-desk';
import { PickOnce } from '../../ui/pick-once';

/** One module of a circuit: its name and kind, what it is wired to, and where its parameters stand. */
@Component({
  selector: 'hur-module-editor',
  imports: [NumberField, PickOnce],
  templateUrl: './module-editor.html',
  styleUrl: './module-editor.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ModuleEditor {
  readonly id = input.required<string>();
  protected readonly desk = inject(RoomDesk);
  protected readonly kindText = kindText;

  protected readonly module = computed(() =>
    this.desk.instrument()?.circuit.modules.find((m) => m.id === this.id()),
  );
  protected readonly spec = computed(() => {
    const kind = this.module()?.kind ?? '';
    return isModuleKind(kind) ? moduleSpec(kind) : null;
  });
  /** Kinds that could stand in its place. An output stays one. */
  protected readonly kinds = computed(() => {
    const [instrument, module] = [this.desk.instrument(), this.module()];
    if (!instrument || !module || module.kind === 'output') return [];
    return kindsFor(instrument, KINDS);
  });
  /** Each port with what it is wired to, and what it could be. */
  protected readonly ports = computed(() => {
    const [instrument, room] = [this.desk.instrument(), this.desk.room()];
    const module = room.modules.find((m) => m.id === this.id());
    if (!instrument || !module) return [];
    const [outputs, inputs] = [portNames(instrument, 'outputs'), portNames(instrument, 'inputs')];
    const told = new Map([...outputs, ...inputs].map((p) => [p.port, p.text]));
    const side = (list: typeof module.inputs, into: boolean) =>
      list.map(({ name, signal }) => {
        const port = `${module.id}.${name}`;
        const wires = room.wires
          .filter((w) => (into ? w.to : w.from) === port)
          .map((wire) => {
            const other = into ? wire.from : wire.to;
            return { wire, text: told.get(other) ?? other };
          });
        const others = (into ? outputs : inputs).filter(
          (p) => !wires.some(({ wire }) => (into ? wire.from : wire.to) === p.port),
        );
        return { ...{ port, name, signal, into, wires, others } };
      });
    return [...side(module.inputs, true), ...side(module.outputs, false)];
  });
  /** Each parameter: the control that turns it, or where it stands. */
  protected readonly params = computed(() => {
    const [instrument, module, spec] = [this.desk.instrument(), this.module(), this.spec()];
    if (!instrument || !module || !spec) return [];
    return Object.entries(spec.params).map(([name, param]) => {
      const control = instrument.controls.find((c) =>
        c.bindings.some((b) => b.module === module.id && b.param === name),
      );
      const value = module.params[name] ?? param.default;
      return {
        ...{ name, value, said: name in module.params },
        by: control ? controlLabel(instrument, control.id) : '',
        numbers: param.kind === 'number' ? { ...param, value: Number(value) } : null,
        choices: param.kind === 'choice' ? param.choices : [],
      };
    });
  });

  protected rename(name: string): void {
    this.desk.edit((i) => withModuleName(i, this.id(), name));
  }

  protected exchange(kind: string): void {
    if (isModuleKind(kind)) this.desk.edit((i) => withKind(i, this.id(), kind));
  }

  protected set(param: string, value: number | string | undefined): void {
    this.desk.attempt((i) => withFixed(i, this.id(), param, value));
  }
}
