import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { nextLook, type OpenWork } from '@hurrel/core';
import { StageDesk } from './stage-desk';

/** Where am I: asks for the fewest looks that tell how far a panel is. What was heard is not asked for. */
@Component({
  selector: 'hur-stage-where',
  template: `
    <section role="group" aria-label="Where am I">
      @if (asked(); as look) {
        <p class="quiet">
          Look {{ answers().size + 1 }} of at most {{ most() }}, on
          {{ stage.panelName(look.panel) }}
          @if (heard().size > 0) {
            · {{ heard().size }} of {{ work().length }} movements were heard
          }
        </p>
        <h2 class="look">{{ stage.says(look) }}</h2>
        <p>Is it set like this?</p>
        <div class="choices">
          <button type="button" class="act main" (click)="reply(look, true)">Yes</button>
          <button type="button" class="act" (click)="reply(look, false)">No</button>
          <button type="button" class="act" (click)="closed.emit(null)">Never mind</button>
        </div>
      } @else {
        <h2 class="look">
          {{ stage.panelName(work()[0]?.panel ?? '') }} was heard: {{ stand().size }} of
          {{ work().length }} stand as they shall
        </h2>
        <div class="choices">
          <button type="button" class="act main" (click)="closed.emit(stand())">
            Go on from there
          </button>
          <button type="button" class="act" (click)="closed.emit(null)">Never mind</button>
        </div>
      }
    </section>
  `,
  styleUrl: './stage-parts.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StageWhere {
  /** What the break moves on one panel, in order. */
  readonly work = input.required<readonly OpenWork[]>();
  /** By a movement's key, whether its control was heard to stand as it shall; what was not heard is not there. */
  readonly heard = input<ReadonlyMap<string, boolean>>(new Map());
  /** Keys of those that stand; null when it was given up. */
  readonly closed = output<ReadonlySet<string> | null>();

  protected readonly stage = inject(StageDesk);
  protected readonly answers = signal<ReadonlyMap<string, boolean>>(new Map());
  /** What only a look can tell. */
  private readonly unheard = computed(() =>
    this.work()
      .map((w) => w.key)
      .filter((key) => !this.heard().has(key)),
  );
  private readonly next = computed(() => nextLook(this.unheard(), this.answers()));
  protected readonly most = computed(() => Math.ceil(Math.log2(this.unheard().length + 1)));
  protected readonly asked = computed((): OpenWork | null => {
    const next = this.next();
    return 'look' in next ? this.work().find((w) => w.key === next.look)! : null;
  });
  /** Keys of those that are known to stand. */
  protected readonly stand = computed(() => {
    const next = this.next();
    const seen = 'done' in next ? this.unheard().slice(0, next.done) : [];
    const heard = [...this.heard()].flatMap(([key, stands]) => (stands ? [key] : []));
    return new Set([...heard, ...seen]);
  });

  protected reply(work: OpenWork, stands: boolean): void {
    this.answers.update((all) => new Map(all).set(work.key, stands));
    if ('done' in this.next()) this.closed.emit(this.stand());
  }
}
