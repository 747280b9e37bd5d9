import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { bypassable, compile, sectionsInOrder } from '@hurrel/core';
import { Store } from '@ngrx/store';
import { patchFeature } from '../patch/patch.reducer';
import { LiveService } from '../sound/live.service';

/** Takes controls, sections and layers away, to hear what each contributes. */
@Component({
  selector: 'hur-away-panel',
  templateUrl: './away-panel.html',
  styleUrl: './away-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AwayPanel {
  private readonly store = inject(Store);
  protected readonly live = inject(LiveService);
  private readonly patch = this.store.selectSignal(patchFeature.selectShown);
  private readonly instrument = this.store.selectSignal(patchFeature.selectInstrument);
  protected readonly emptySet: ReadonlySet<string> = new Set();
  /** Sections in which something can be taken away, and what. */
  protected readonly parts = computed(() => {
    const [instrument, patch] = [this.instrument(), this.patch()];
    if (!instrument || !patch) return [];
    const able = bypassable(instrument, compile(instrument, patch));
    return sectionsInOrder(instrument).flatMap((section) => {
      const controls = instrument.controls.filter(
        (c) => c.section === section.id && able.has(c.id),
      );
      return controls.length === 0 ? [] : [{ section, controls }];
    });
  });
  /** What goes into mixers: the layers of the sound. */
  protected readonly layers = computed(() => {
    const [instrument, patch] = [this.instrument(), this.patch()];
    if (!instrument || !patch) return [];
    const ids = compile(instrument, patch)
      .nodes.filter((n) => n.kind === 'mixer')
      .flatMap((n) => Object.values(n.controls));
    return instrument.controls.filter((c) => ids.includes(c.id));
  });

  protected isAway(controls: readonly { id: string }[]): boolean {
    return controls.every((c) => this.live.away().has(c.id));
  }

  protected toggle(controls: readonly { id: string }[]): void {
    this.live.toggleAway(controls.map((c) => c.id));
  }

  /** One layer alone: all others away; once more puts them back. */
  protected solo(id: string): void {
    const others = this.layers().filter((c) => c.id !== id);
    const away = new Set(this.live.away());
    const alone = others.every((c) => away.has(c.id));
    for (const c of others) {
      if (alone) away.delete(c.id);
      else away.add(c.id);
    }
    away.delete(id);
    this.live.setAway(away);
  }
}
