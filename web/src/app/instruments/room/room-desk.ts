import { computed, inject, Injectable, signal } from '@angular/core';
import {
  circuitRoom,
  hasCircuit,
  type Instrument,
  type ModuleKind,
  namesModule,
  wireFault,
  type WireEnds,
  withModule,
  withNormal,
  withoutModule,
  withoutWire,
  withWire,
} from '@hurrel/core';
import { ToastService } from '../../ui/toasts';
import { InstrumentDesk } from '../instrument-desk';

/** What of the circuit is looked at. */
export type Chosen = { module: string } | { wire: WireEnds } | null;

const bare = ({ circuit }: Instrument): boolean =>
  !circuit.modules.some((m) => m.kind === 'output');

const EMPTY = { modules: [], wires: [], notes: [] };

/** The circuit of the instrument that is open, what of it is chosen, and every edit of it. */
@Injectable()
export class RoomDesk {
  private readonly desk = inject(InstrumentDesk);
  private readonly toasts = inject(ToastService);
  readonly instrument = this.desk.instrument;
  readonly room = computed(() => {
    const instrument = this.instrument();
    return instrument ? circuitRoom(instrument) : EMPTY;
  });
  readonly chosen = signal<Chosen>(null);
  readonly module = computed(() => {
    const chosen = this.chosen();
    return chosen && 'module' in chosen
      ? this.room().modules.find((m) => m.id === chosen.module)
      : undefined;
  });
  readonly wire = computed(() => {
    const chosen = this.chosen();
    return chosen && 'wire' in chosen
      ? this.room().wires.find((w) => w.from === chosen.wire.from && w.to === chosen.wire.to)
      : undefined;
  });

  /** What is put together ends in an output; a module of a cabinet in its jacks, and a cabinet in one of its modules. */
  private readonly ends = computed(() => {
    const whole = this.desk.whole();
    return !this.desk.focused() && !(whole?.rack && hasCircuit(whole) && bare(whole));
  });
  /** It is what stands beside the modules of a cabinet. */
  readonly beside = computed(() => this.instrument()?.rack !== undefined);

  choose(module: string): void {
    this.chosen.set({ module });
  }

  add(kind: ModuleKind): void {
    this.attempt((i) => {
      const { instrument, id } = withModule(i, kind, this.ends());
      this.choose(id);
      return instrument;
    });
  }

  /** Wires two ports, whichever of them is the output. */
  join(a: string, b: string): void {
    const instrument = this.instrument();
    if (!instrument) return;
    const ends = { from: a, to: b };
    const turned = { from: b, to: a };
    const fault = wireFault(instrument, ends);
    const way = fault !== null && wireFault(instrument, turned) === null ? turned : ends;
    this.attempt((i) => withWire(i, way));
  }

  cut(wire: WireEnds): void {
    this.edit((i) => withoutWire(i, wire));
    if (this.chosen() && 'wire' in this.chosen()!) this.chosen.set(null);
  }

  breakBy(wire: WireEnds, jack: string): void {
    this.edit((i) => withNormal(i, wire, jack === '' ? null : jack));
  }

  removeChosen(): void {
    const [module, wire, instrument] = [this.module(), this.wire(), this.instrument()];
    if (wire) return this.cut(wire);
    if (!module || !instrument) return;
    const { wires, controls, jacks } = namesModule(instrument, module.id);
    this.edit((i) => withoutModule(i, module.id, this.ends()));
    this.chosen.set(null);
    const lost = [
      [wires, 'wire'],
      [controls, 'control'],
      [jacks, 'jack'],
    ] as const;
    const words = lost
      .filter(([count]) => count > 0)
      .map(([count, word]) => `${count} ${word}${count === 1 ? '' : 's'}`);
    if (module.kind === 'output' && this.ends())
      this.toasts.show('Without its output there is no circuit. Undo takes it back.');
    else if (words.length > 0)
      this.toasts.show(
        `${module.name} is gone, and let go of ${words.join(', ')}. Undo takes it back.`,
      );
  }

  edit(change: (instrument: Instrument) => Instrument): void {
    this.desk.edit(change);
  }

  attempt(change: (instrument: Instrument) => Instrument): void {
    this.desk.attempt(change);
  }
}
