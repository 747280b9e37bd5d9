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

/** Where am I: asks for the fewest looks that tell how far a panel is. */
@Component({
  selector: 'hur-stage-where',
  template: `
    <section role="group" aria-label="Where am I">
      @if (asked(); as work) {
        <p class="quiet">
          Look {{ answers().size + 1 }} of at most {{ most() }}, on
          {{ stage.panelName(work.panel) }}
        </p>
        <h2 class="look">{{ stage.says(work) }}</h2>
        <p>Does it stand so?</p>
        <div class="choices">
          <button type="button" class="act main" (click)="reply(work, true)">It does</button>
          <button type="button" class="act" (click)="reply(work, false)">It does not</button>
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
  /** How many are done; null when it was given up. */
  readonly closed = output<number | null>();

  protected readonly stage = inject(StageDesk);
  protected readonly answers = signal<ReadonlyMap<string, boolean>>(new Map());
  protected readonly most = computed(() => Math.ceil(Math.log2(this.work().length + 1)));
  protected readonly asked = computed((): OpenWork | null => {
    const next = nextLook(
      this.work().map((w) => w.key),
      this.answers(),
    );
    return 'look' in next ? this.work().find((w) => w.key === next.look)! : null;
  });

  protected reply(work: OpenWork, stands: boolean): void {
    const answers = new Map(this.answers()).set(work.key, stands);
    this.answers.set(answers);
    const next = nextLook(
      this.work().map((w) => w.key),
      answers,
    );
    if ('done' in next) this.closed.emit(next.done);
  }
}
