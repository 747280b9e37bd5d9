import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import {
  arrivedAt,
  controlHeard,
  controlBox,
  drawControl,
  drawMovement,
  formatValue,
  type Heard,
  type Instrument,
  type Movement,
  type Patch,
} from '@hurrel/core';
import { HeardAt } from '../midi/heard-at';
import { hearKnobs } from '../midi/hear-knobs';
import { Shapes } from '../ui/shapes';

/** Ms that a control has to stand still where it shall. */
const STAYS_MS = 500;

/** One movement, as large as the room allows: the control, its way, and the reading at its end. */
@Component({
  selector: 'hur-movement',
  imports: [HeardAt, Shapes],
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
      @if (control().cc !== undefined) {
        @if (stands(); as reads) {
          <p class="stands" [class.there]="there()">
            it stands at <strong class="mono">{{ reads }}</strong>
            @if (there()) {
              · there
            }
          </p>
        } @else if (panel()) {
          <hur-heard-at [panel]="panel()" [instrument]="instrument()" />
        }
      }
      @if (movement().note; as note) {
        <p class="note">{{ note }}</p>
      }
    </div>
  `,
  styles: `
    :host {
      --heard-at: 19px;
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
    .stands {
      color: var(--ink-2);
      font-size: 21px;
    }
    .there {
      color: var(--good);
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
  /** The panel before which one stands. */
  readonly panel = input.required<string>();
  /** What the panel has sent that still holds, by controller number: what was moved before its turn came stands already. */
  readonly sent = input<ReadonlyMap<number, number>>(new Map());
  readonly instrument = input.required<Instrument>();
  readonly patch = input.required<Patch>();
  readonly movement = input.required<Movement>();
  /** How much the control matters, 0 to 3. */
  readonly grade = input(0);
  /** It is heard over MIDI that the control stands where it shall, and stays there. */
  readonly arrived = output();

  private readonly heard = signal<Heard | null>(null);
  private readonly waits = signal(false);
  /** What the control was heard to stand at; empty when nothing was. */
  protected readonly stands = computed(() => {
    const heard = this.heard();
    return heard ? formatValue(heard.control, heard.value) : '';
  });
  protected readonly there = computed(() => {
    const heard = this.heard();
    const { control, toValue, target } = this.movement();
    if (!heard || target !== undefined) return false;
    const goal = this.patch().settings[control] ?? { kind: 'set' as const, value: toValue };
    return arrivedAt(heard.control, goal, heard.value);
  });

  constructor() {
    let of = '';
    const seen = new Set<string>();
    effect(() => {
      const { id, to } = this.movement();
      const name = `${id} ${to}`;
      // Drawn anew it is the same movement.
      if (name === of) return;
      of = name;
      this.heard.set(untracked(() => this.before()));
      // One that was taken back waits for a hand.
      this.waits.set(seen.has(name));
      seen.add(name);
    });
    // What is heard at another screen comes while its turn is on here.
    let last = '';
    effect(() => {
      const { id, cc } = this.control();
      const sent = cc === undefined ? undefined : this.sent().get(cc);
      const news = sent === undefined ? '' : `${id} ${sent}`;
      if (news === last) return;
      // A hand has turned it on, where it was heard before.
      if (news && last.startsWith(`${id} `)) this.waits.set(false);
      last = news;
      const heard = untracked(() => this.before());
      if (heard) this.heard.set(heard);
    });
    hearKnobs(
      this.panel,
      () => this.instrument().controls,
      (heard) => {
        if (heard.control.id !== this.movement().control) return;
        this.heard.set(heard);
        this.waits.set(false);
      },
    );
    effect((onCleanup) => {
      // On its way a hand passes the goal: it has arrived when it stays.
      if (!this.heard() || !this.there() || this.waits()) return;
      const timer = setTimeout(() => this.arrived.emit(), STAYS_MS);
      onCleanup(() => clearTimeout(timer));
    });
  }

  /** Where the control was heard to stand before its turn came. */
  private before(): Heard | null {
    const { cc } = this.control();
    const sent = cc === undefined ? undefined : this.sent().get(cc);
    return sent === undefined ? null : (controlHeard([this.control()], cc!, sent) ?? null);
  }

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
