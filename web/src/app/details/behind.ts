import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import {
  addOutboard,
  canStandBehind,
  changeOutboard,
  moveOutboard,
  newOutboardControl,
  type Outboard,
  type OutboardControl,
  outboardKinds,
  outboardSorts,
  type Patch,
  takeOutboard,
} from '@hurrel/core';
import { kindText } from '../instruments/room/kinds';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';
import { PickOnce } from '../ui/pick-once';

/** What stands behind the instrument: where its sound is taken off, and through what it goes, in order. */
@Component({
  selector: 'hur-behind',
  imports: [RouterLink, PickOnce],
  templateUrl: './behind.html',
  styleUrl: './behind.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Behind {
  private readonly store = inject(Store);
  protected readonly patch = this.store.selectSignal(patchFeature.selectPresent);
  protected readonly instrument = this.store.selectSignal(patchFeature.selectInstrument);
  protected readonly kinds = outboardKinds;
  protected readonly sorts = outboardSorts;
  /** Jacks that give a sound or a voltage. */
  protected readonly outlets = computed(() =>
    (this.instrument()?.jacks ?? []).filter((j) => j.direction === 'out' && j.port !== ''),
  );

  /** What is heard of it, in words. */
  protected heardAs({ module, off }: Outboard): string {
    if (off) return 'switched off, in its place';
    return module !== undefined && canStandBehind(module)
      ? `heard as ${kindText(module)}`
      : 'noted, not heard';
  }

  protected controlsOf(thing: Outboard): string {
    return thing.controls.map((c) => c.name).join(', ') || 'none';
  }

  protected setOutlet(outlet: string): void {
    this.change({ outlet: outlet === '' ? undefined : outlet });
  }

  protected add(kind: string): void {
    const thing = outboardKinds.find(({ id }) => id === kind);
    if (thing) this.make((patch, instrument) => addOutboard(instrument, patch, thing));
  }

  protected take(id: string): void {
    this.make((patch, instrument) => takeOutboard(instrument, patch, id));
  }

  protected move(id: string, by: -1 | 1): void {
    this.make((patch) => moveOutboard(patch, id, by));
  }

  protected say(id: string, changes: Partial<Omit<Outboard, 'id'>>): void {
    this.make((patch, instrument) => changeOutboard(instrument, patch, id, changes));
  }

  /** An empty name leaves the old one. */
  protected rename(thing: Outboard, field: HTMLInputElement): void {
    const name = field.value.trim();
    if (name === '') field.value = thing.name;
    else this.say(thing.id, { name });
  }

  protected sayControl(
    thing: Outboard,
    control: OutboardControl,
    changes: Partial<OutboardControl>,
  ): void {
    const controls = thing.controls.map((c) => (c === control ? { ...c, ...changes } : c));
    this.say(thing.id, { controls });
  }

  protected renameControl(
    thing: Outboard,
    control: OutboardControl,
    field: HTMLInputElement,
  ): void {
    const name = field.value.trim();
    if (name === '') field.value = control.name;
    else this.sayControl(thing, control, { name });
  }

  /** What is printed at one end; both ends must differ. */
  protected rescale(
    thing: Outboard,
    control: OutboardControl,
    end: 0 | 1,
    field: HTMLInputElement,
  ): void {
    const value = Number(field.value.replace(',', '.'));
    const scale: [number, number] = [...control.scale];
    scale[end] = value;
    if (field.value.trim() === '' || !Number.isFinite(value) || scale[0] === scale[1])
      field.value = String(control.scale[end]);
    else this.sayControl(thing, control, { scale });
  }

  protected addControl(thing: Outboard): void {
    this.say(thing.id, { controls: [...thing.controls, newOutboardControl(thing)] });
  }

  protected takeControl(thing: Outboard, control: OutboardControl): void {
    this.say(thing.id, { controls: thing.controls.filter((c) => c !== control) });
  }

  private make(by: (patch: Patch, instrument: Parameters<typeof addOutboard>[0]) => Patch): void {
    const [patch, instrument] = [this.patch(), this.instrument()];
    if (!patch || !instrument) return;
    const { outboard, settings, notes, ends, variations, checkpoints } = by(patch, instrument);
    this.change({ outboard, settings, notes, ends, variations, checkpoints });
  }

  private change(changes: Partial<Patch>): void {
    this.store.dispatch(PatchActions.change({ changes }));
  }
}
