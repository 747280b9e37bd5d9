import { ChangeDetectionStrategy, Component, inject, model } from '@angular/core';
import { RunnerService } from './runner.service';
import { SequenceService } from './sequence.service';

/** What is done to a pattern while it runs, besides what the transport does: written into, queued, its chances drawn anew. */
@Component({
  selector: 'hur-run-tools',
  template: `
    <button
      type="button"
      class="btn"
      [class.on]="playIn()"
      [attr.aria-pressed]="playIn()"
      title="Keys write notes where you stand, or where the pattern runs"
      (click)="playIn.set(!playIn())"
    >
      Play in
    </button>
    <label title="Another seed, other chances">
      seed
      <input
        #seedField
        class="form-control mono"
        type="number"
        min="1"
        max="9999"
        aria-label="Seed of the chances"
        [value]="runner.seed()"
        (change)="runner.seed.set(+seedField.value || 1)"
      />
    </label>
    @if (runner.running() && runner.playing()?.id !== pattern()!.id) {
      <button type="button" class="btn" (click)="runner.queue(pattern()!)">
        This one at the bar
      </button>
    }
  `,
  styles: `
    :host {
      display: flex;
      gap: 8px;
      align-items: center;
      margin-left: auto;
    }
    label {
      display: flex;
      gap: 5px;
      align-items: center;
      color: var(--ink-2);
      font-size: 13px;
    }
    .form-control {
      width: 68px;
      padding: 3px 7px;
    }
    .on {
      background: var(--ink);
      color: var(--paper);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RunTools {
  protected readonly runner = inject(RunnerService);
  protected readonly pattern = inject(SequenceService).pattern;
  /** Keys that are played write notes where one stands, or where the pattern runs. */
  readonly playIn = model.required<boolean>();
}
