import { computed, DestroyRef, effect, inject, Injectable, signal, untracked } from '@angular/core';
import {
  blankPatch,
  initPositions,
  type Instrument,
  isSwitched,
  nudge,
  panelOf,
  type Patch,
  plainPositions,
  settingsAt,
  soundingValue,
  type Value,
} from '@hurrel/core';
import { TransportService } from '../transport/transport.service';
import type { ControlMove } from '../ui/panel';
import { InstrumentDesk } from './instrument-desk';

/** The panel that is described, tried by ear: what is turned on it, or said of its circuit, is heard at once. */
@Injectable()
export class TrialDesk {
  private readonly desk = inject(InstrumentDesk);
  private readonly transport = inject(TransportService);
  readonly on = signal(false);
  /** What was turned, by control. */
  private readonly turned = signal<Record<string, Value>>({});
  /** A cabinet makes no sound before it is cabled: that is what a patch is. */
  readonly can = computed(() => this.desk.modelled() && !this.desk.whole()?.rack);
  /** The panel as it stands now; nothing of it is recorded. */
  readonly patch = computed((): Patch | null => {
    const instrument = this.desk.whole();
    if (!instrument) return null;
    const face = panelOf(instrument);
    // Where nothing is said of a patch to begin from, the circuit as it is described.
    const first = Object.keys(face.init.settings).length > 0 ? {} : plainPositions(face);
    const positions = { ...initPositions(face), ...first, ...stillThere(face, this.turned()) };
    return { ...blankPatch(instrument, instrument.name), settings: settingsAt(positions) };
  });

  constructor() {
    effect(() => {
      const [instrument, patch] = [this.desk.whole(), this.patch()];
      if (!this.on() || !this.can() || !instrument || !patch) return;
      const heard = {
        id: `trial-${instrument.id}`,
        instrument: panelOf(instrument),
        patch,
        link: ['/instrument', instrument.id],
      };
      untracked(() => this.transport.tryOut(heard));
    });
    inject(DestroyRef).onDestroy(() => this.stop());
  }

  toggle(): void {
    if (this.on()) this.stop();
    else this.on.set(true);
  }

  moved({ control, value }: ControlMove): void {
    if (this.on()) this.turned.update((all) => ({ ...all, [control.id]: value }));
  }

  /** Turns the chosen control by steps of its scale. */
  nudge(steps: number): void {
    const control = this.desk.instrument()?.controls.find((c) => c.id === this.desk.chosen());
    if (!control) return;
    const value = soundingValue(control, this.patch()?.settings[control.id]);
    this.moved({ control, value: nudge(control, value, steps), gesture: 'nudge' });
  }

  /** Everything stands again where it is found. */
  reset(): void {
    this.turned.set({});
  }

  private stop(): void {
    if (!this.on()) return;
    this.on.set(false);
    this.transport.endTrial();
  }
}

/** What can still stand where it was turned to. */
function stillThere(face: Instrument, turned: Record<string, Value>): Record<string, Value> {
  return Object.fromEntries(
    face.controls.flatMap((control): [string, Value][] => {
      const value = turned[control.id];
      const fits = isSwitched(control)
        ? control.positions.some((p) => p.id === value)
        : typeof value === 'number';
      return fits && value !== undefined ? [[control.id, value]] : [];
    }),
  );
}
