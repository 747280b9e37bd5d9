import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import {
  type Cable,
  cablePath,
  cableStub,
  type Instrument,
  jackOf,
  type JackSignal,
  plugStub,
} from '@hurrel/core';

/** How cables are laid over a panel: whole, or lifted, so that only their ends are seen. */
export type CableView = 'whole' | 'lifted';

/** One cable: its kind told by colour, dash and the mark on its ends together. */
@Component({
  selector: 'g[hurCable]',
  template: `
    @if (drawn(); as d) {
      @for (line of d.lines; track $index) {
        <svg:path class="halo" [attr.d]="line" />
        <svg:path class="cable" [class]="d.signal" [attr.d]="line" />
      }
    }
  `,
  host: {
    '[attr.data-cable]': 'cable().id',
    '[class.followed]': 'followed()',
    '[class.faded]': 'faded()',
    '[class.inactive]': 'cable().inactive === true',
  },
  styles: `
    // Under the readings, and light enough to read through.
    :host {
      pointer-events: none;
      opacity: 0.55;
    }
    :host(.followed) {
      opacity: 1;
    }
    :host(.faded) {
      opacity: 0.16;
    }
    :host(.inactive) .cable {
      opacity: 0.45;
      stroke-width: 1.4;
    }
    .halo {
      fill: none;
      stroke: var(--paper);
      stroke-width: 6.5;
      stroke-opacity: 0.75;
    }
    :host(.followed) .cable {
      stroke-width: 5;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CableDrawing {
  readonly instrument = input.required<Instrument>();
  readonly cable = input.required<Cable>();
  /** What it carries. */
  readonly signal = input.required<JackSignal>();
  readonly view = input<CableView>('whole');
  readonly followed = input(false);
  readonly faded = input(false);

  protected readonly drawn = computed(() => {
    const [instrument, cable] = [this.instrument(), this.cable()];
    const signal = this.signal();
    const [a, b] = [jackOf(instrument, cable.from), jackOf(instrument, cable.to)];
    const ends = [a, b].filter((j) => j !== undefined);
    if (ends.length === 0) return null;
    const whole = this.view() === 'whole' || this.followed();
    const lines =
      a && b
        ? whole
          ? [cablePath(a.place, b.place)]
          : [cableStub(a.place, b.place), cableStub(b.place, a.place)]
        : [plugStub(ends[0]!.place)];
    return { signal, lines };
  });
}
