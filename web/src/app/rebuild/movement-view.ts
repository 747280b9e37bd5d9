import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import {
  controlBox,
  drawControl,
  drawMovement,
  type Instrument,
  type Movement,
  type Patch,
} from '@hurrel/core';
import { Shapes } from '../ui/shapes';

/** One movement, as large as the room allows: the control, its way, and the reading at its end. */
@Component({
  selector: 'hur-movement',
  imports: [Shapes],
  template: `
    <svg class="panel" [attr.viewBox]="view()" aria-hidden="true">
      <g hurShapes [shapes]="shapes()" />
    </svg>
    <div>
      <h2>{{ control().name }}</h2>
      @if (movement().route; as route) {
        <p class="route">{{ route.join(', ') }}</p>
      }
      <p class="to mono" [class.long]="movement().to.length > 5" data-testid="target">
        {{ movement().to }}
      </p>
      <p class="say">
        from {{ movement().from }}
        @if (movement().way; as way) {
          · {{ way }}
        }
        @if (movement().range; as range) {
          · <span class="near">anywhere {{ range[0] }} to {{ range[1] }}</span>
        }
        @if (movement().target; as target) {
          · <span class="near">by ear: {{ target }}</span>
        }
        @if (control().where; as where) {
          · {{ where }}
        }
      </p>
      @if (grade() === 3) {
        <p class="ear"><i class="bi bi-ear" aria-hidden="true"></i> deserves the ear</p>
      }
      @if (movement().note; as note) {
        <p class="note">{{ note }}</p>
      }
    </div>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(160px, 250px) 1fr;
      gap: 28px;
      align-items: center;
      min-width: 0;
    }
    svg {
      height: var(--movement-drawn, 240px);
    }
    h2 {
      font-size: var(--movement-name, 34px);
    }
    h2::first-letter {
      text-transform: uppercase;
    }
    p {
      margin: 0;
    }
    .to {
      font-weight: 760;
      font-size: var(--movement-to, 92px);
      line-height: 1.02;
    }
    .long {
      font-size: calc(0.67 * var(--movement-to, 92px));
    }
    .say {
      color: var(--ink-2);
      font-size: 21px;
    }
    .near {
      color: var(--near);
    }
    .ear {
      color: var(--good);
      font-weight: 640;
      font-size: 21px;
    }
    .note {
      margin-top: 6px;
      font-size: 17px;
      font-style: italic;
    }
    .route {
      color: var(--near);
      font-size: 20px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MovementView {
  readonly instrument = input.required<Instrument>();
  readonly patch = input.required<Patch>();
  readonly movement = input.required<Movement>();
  /** How much the control matters, 0 to 3. */
  readonly grade = input(0);

  protected readonly control = computed(() =>
    this.instrument().controls.find((c) => c.id === this.movement().control)!,
  );
  protected readonly shapes = computed(() => {
    const { fromValue, toValue } = this.movement();
    const target = drawControl(this.control(), this.patch().settings[this.control().id]);
    const way = fromValue === undefined ? [] : drawMovement(this.control(), fromValue, toValue);
    return [
      ...way,
      ...target.filter((s) => s.kind === 'path' || !['name', 'target'].includes(s.lettering)),
    ];
  });
  protected readonly view = computed(() => {
    const box = controlBox(this.control());
    return `${box.x - 8} ${box.y - 8} ${box.width + 16} ${box.height - 4}`;
  });
}
