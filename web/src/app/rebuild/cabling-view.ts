import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import {
  cablePath,
  cableSignal,
  type Instrument,
  type Listening,
  type Movement,
  signalMark,
  type Step,
} from '@hurrel/core';
import { HeardAt } from '../midi/heard-at';

/** A cable, matrix row, cabinet module or stretch of a pattern to be done, as large as the room allows. */
@Component({
  selector: 'hur-cabling',
  imports: [HeardAt],
  template: `
    <div>
      @if (row(); as row) {
        <h2>Matrix row {{ row.row + 1 }}</h2>
        <p class="route">{{ row.route.join(', ') }}</p>
        <p class="to" data-testid="target">{{ row.to }}</p>
        <p class="say">from {{ row.from }}</p>
      } @else if (entry(); as entry) {
        <h2>{{ entry.text }}</h2>
        <p class="told" data-testid="target">
          @for (word of entry.told; track $index) {
            <span class="mono">{{ word }}</span>{{ ' ' }}
          }
        </p>
        <p class="say">{{ entry.presses }} presses</p>
      } @else if (store(); as store) {
        <h2>{{ store.text }}</h2>
        <p class="told" data-testid="target">
          @for (letter of store.told; track $index) {
            <span class="mono">{{ letter === ' ' ? '␣' : letter }}</span>
          }
        </p>
        @if (store.warning) {
          <p class="say" role="alert">{{ store.warning }}</p>
        }
      } @else if (cable(); as cable) {
        @if (ends(); as ends) {
          <svg class="cable-large" viewBox="0 0 560 128" aria-hidden="true">
            <path class="cable" [class]="ends.signal" [attr.d]="ends.path" />
            @for (plug of ends.plugs; track $index) {
              <path class="plug" [class]="ends.signal" [attr.d]="plug" />
            }
          </svg>
        }
        <p class="to words" data-testid="target">{{ cable.text }}</p>
        <p class="say">{{ cable.note }}</p>
      } @else if (rack(); as rack) {
        <p class="to words" data-testid="target">{{ rack.text }}</p>
        @if (rack.kind === 'load' && tells() && panel()) {
          <hur-heard-at [panel]="panel()" [instrument]="instrument()" />
        }
      }
    </div>
  `,
  styles: `
    :host {
      --heard-at: 19px;
      display: block;
      min-width: 0;
    }
    h2 {
      font-size: 34px;
    }
    p {
      margin: 0;
    }
    .to {
      font-weight: 700;
      font-size: 46px;
      line-height: 1.15;
    }
    .say {
      margin-top: 10px;
      color: var(--ink-2);
      font-size: 21px;
    }
    .told {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      margin-top: 10px;
    }
    .told span {
      padding: 1px 10px;
      border: 1px solid var(--rule);
      border-radius: 3px;
      font-size: 26px;
      font-weight: 650;
    }
    .route {
      color: var(--near);
      font-size: 20px;
    }
    .cable-large {
      width: min(560px, 100%);
      height: 128px;
    }
    .cable-large .cable {
      stroke-width: 6;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CablingView {
  readonly instrument = input.required<Instrument>();
  /** The panel before which one stands; empty where nothing is heard of it. */
  readonly panel = input('');
  readonly step = input.required<Exclude<Step, Movement | Listening>>();

  protected readonly row = computed(() => {
    const step = this.step();
    return step.kind === 'row' ? step : null;
  });
  protected readonly entry = computed(() => {
    const step = this.step();
    return step.kind === 'entry' ? step : null;
  });
  protected readonly store = computed(() => {
    const step = this.step();
    return step.kind === 'store' ? step : null;
  });
  protected readonly rack = computed(() => {
    const step = this.step();
    return step.kind === 'rack' || step.kind === 'outboard' || step.kind === 'load' ? step : null;
  });
  /** Whether the instrument says which place of its memory was chosen. */
  protected readonly tells = computed(() => {
    const { memory } = this.instrument();
    return memory.kind === 'slots' && memory.programs !== undefined;
  });
  protected readonly cable = computed(() => {
    const step = this.step();
    return step.kind === 'pull' || step.kind === 'move' || step.kind === 'add' ? step : null;
  });
  protected readonly ends = computed(() => {
    const cable = this.cable();
    const shown = cable && (cable.after ?? cable.before);
    if (!shown) return null;
    const signal = cableSignal(this.instrument(), shown);
    const [a, b] = [
      { x: 34, y: 22 },
      { x: 526, y: 22 },
    ];
    return {
      signal,
      path: cablePath(a, b),
      plugs: [
        ...(shown.from === undefined ? [] : [signalMark(signal, a.x, a.y, 12)]),
        ...(shown.to === undefined ? [] : [signalMark(signal, b.x, b.y, 12)]),
      ],
    };
  });
}
