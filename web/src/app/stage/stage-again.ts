import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { formatDuration, type OpenWork } from '@hurrel/core';
import { StageDesk } from './stage-desk';

/** After a break that was rehearsed: how long it took, what was slow, and once more. */
@Component({
  selector: 'hur-stage-again',
  template: `
    <section>
      <p>
        It took <strong class="mono">{{ time(stage.took()) }}</strong>; there are
        {{ time(stage.song()?.pause ?? 0) }}.
      </p>
      @if (stage.slow().length > 0) {
        <p>Slow:</p>
        <ol>
          @for (one of stage.slow().slice(0, 5); track one.work.key) {
            <li>
              <strong>{{ stage.says(one.work) }}</strong>
              <span class="quiet"
                >{{ one.seconds.toFixed(1) }} s, planned
                {{ one.work.step.seconds.toFixed(1) }} s</span
              >
            </li>
          }
        </ol>
      }
      <div class="choices">
        <button type="button" class="act small" (click)="stage.again(stage.work())">
          The break once more
        </button>
        @if (stage.slow().length > 0) {
          <button type="button" class="act small" (click)="stage.again(slow())">
            Only the slow ones
          </button>
        }
      </div>
    </section>
  `,
  styleUrl: './stage-parts.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StageAgain {
  protected readonly stage = inject(StageDesk);
  protected readonly time = formatDuration;

  protected slow(): OpenWork[] {
    return this.stage.slow().map((one) => one.work);
  }
}
