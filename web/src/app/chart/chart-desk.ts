import { inject, Injectable, signal, computed } from '@angular/core';
import { Store } from '@ngrx/store';
import { type Control, inWorkingOrder, type Setting, settingWith } from '@hurrel/core';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';
import { LiveService } from '../sound/live.service';
import type { ControlMove, Panel } from '../ui/panel';
import { Entry } from './entry';

/** What is chosen on the panel, and what is done to it: turned, recorded, taken away. */
@Injectable()
export class ChartDesk {
  private readonly store = inject(Store);
  private readonly entry = inject(Entry);
  private readonly live = inject(LiveService);
  readonly patch = this.store.selectSignal(patchFeature.selectShown);
  readonly instrument = this.store.selectSignal(patchFeature.selectInstrument);
  readonly chosen = signal<string | null>(null);
  readonly chosenSection = signal<string | null>(null);
  /** The panel as it is drawn, once it is. */
  readonly panel = signal<Panel | undefined>(undefined);
  /** Controls are moved only to say which: what is recorded stays. */
  readonly onlyPointing = signal(false);
  private nudges = 0;

  readonly control = computed(() => this.find(this.chosen()));

  find(id: string | null): Control | undefined {
    return id === null ? undefined : this.instrument()?.controls.find((c) => c.id === id);
  }

  settingOf(id: string): Setting | undefined {
    return this.patch()?.settings[id];
  }
  set(control: string, setting: Setting | null): void {
    this.store.dispatch(PatchActions.setControl({ control, setting }));
  }

  moved({ control, value, gesture }: ControlMove): void {
    this.entry.cancel();
    this.turn(control, value, gesture);
  }

  turn(control: Control, value: number | string, gesture?: string): void {
    if (this.onlyPointing()) return;
    const setting = settingWith(this.settingOf(control.id), value);
    this.store.dispatch(
      PatchActions.setControl({
        control: control.id,
        setting,
        gesture: gesture ?? `nudge-${++this.nudges}`,
      }),
    );
  }

  /** Ends what is being written. False when it was not understood: the control then keeps the focus. */
  commit(): boolean {
    const draft = this.entry.draft();
    if (!draft) return true;
    // Begun and left again: nothing was said.
    if (draft.text.trim() === '' || draft.text.trim() === '~') {
      this.entry.cancel();
      return true;
    }
    const tempo = this.patch()?.tempo ?? 120;
    const setting = this.entry.commit(this.settingOf(draft.control.id), tempo);
    if (setting === undefined) return false;
    this.set(draft.control.id, setting);
    return true;
  }

  /** Puts the keyboard on a control. */
  focus(id: string): void {
    this.panel()?.focus(id);
  }

  step(by: number): void {
    const instrument = this.instrument();
    const order = instrument ? inWorkingOrder(instrument) : [];
    const at = order.findIndex((c) => c.id === this.chosen());
    const next = order[at + by];
    if (next) this.focus(next.id);
  }

  /** Takes the chosen control or section away, to hear what it does, or puts it back. */
  takeAway(): void {
    const [section, chosen] = [this.chosenSection(), this.chosen()];
    const controls = this.instrument()?.controls ?? [];
    const ids = section
      ? controls.filter((c) => c.section === section).map((c) => c.id)
      : chosen
        ? [chosen]
        : [];
    if (ids.length > 0) this.live.toggleAway(ids);
    else if (this.live.away().size > 0) this.live.setAway(new Set());
  }
}
