import { inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { type Cable, cableText, cannotJoin, jackLabel, newCable } from '@hurrel/core';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';
import type { CableView } from '../ui/cable';
import { ToastService } from '../ui/toasts';

/** What hands do with cables on the chart: every change is one step to undo. */
@Injectable()
export class Cabling {
  private readonly store = inject(Store);
  private readonly toasts = inject(ToastService);
  private readonly patch = this.store.selectSignal(patchFeature.selectShown);
  private readonly instrument = this.store.selectSignal(patchFeature.selectInstrument);

  /** Jack that is chosen. */
  readonly jack = signal<string | null>(null);
  /** Cable that is followed while the others fade. */
  readonly followed = signal<string | null>(null);
  readonly view = signal<CableView>('whole');

  toggleView(): void {
    this.view.update((v) => (v === 'whole' ? 'lifted' : 'whole'));
  }

  join(a: string, b: string): void {
    const [instrument, cables] = [this.instrument()!, this.patch()!.cables];
    const why = cannotJoin(instrument, a, b) ?? this.isFed(a, b);
    if (why) return this.toasts.show(why);
    const cable = newCable(instrument, cables, a, b);
    if (cables.some((c) => c.from === cable.from && c.to === cable.to)) {
      return this.toasts.show(`${cableText(instrument, cable)} is patched already.`);
    }
    // A plug that waited in one of the jacks is the end of the new cable.
    const waiting = (c: Cable): boolean =>
      (c.from === undefined && c.to === cable.to) || (c.to === undefined && c.from === cable.from);
    this.write([...cables.filter((c) => !waiting(c)), cable]);
    this.followed.set(cable.id);
  }

  plug(jack: string): void {
    const why = this.isFed(jack);
    if (why) return this.toasts.show(why);
    const cable = newCable(this.instrument()!, this.patch()!.cables, jack);
    this.write([...this.patch()!.cables, cable]);
    this.followed.set(cable.id);
  }

  change(cable: Cable): void {
    const next = { ...cable };
    if (!next.inactive) delete next.inactive;
    this.write(this.patch()!.cables.map((c) => (c.id === next.id ? next : c)));
  }

  pull(id: string): void {
    const cable = this.patch()!.cables.find((c) => c.id === id);
    if (!cable) return;
    if (this.followed() === id) this.followed.set(null);
    this.write(this.patch()!.cables.filter((c) => c.id !== id));
    this.toasts.show(`${cableText(this.instrument()!, cable)}: pulled.`, {
      label: 'Undo',
      run: () => this.store.dispatch(PatchActions.undo()),
    });
  }

  /** Why nothing can be plugged into one of these jacks: a recording is fed into it. */
  private isFed(...jacks: string[]): string | undefined {
    const feed = this.patch()?.feed;
    if (!feed || !jacks.includes(feed.jack)) return undefined;
    const name = jackLabel(this.instrument()!, feed.jack);
    return `${name} holds the plug of "${feed.name}", which is fed in: take it away in the details first.`;
  }

  private write(cables: Cable[]): void {
    this.store.dispatch(PatchActions.panel({ changes: { cables } }));
  }
}
