import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { CompareService } from '../listen/compare.service';
import { InstrumentDesk } from './instrument-desk';
import { TrialDesk } from './trial-desk';

/** Above a panel that is described: it is tried by ear, beside a recording of the real one. */
@Component({
  selector: 'hur-trial-bar',
  template: `
    <button
      type="button"
      class="btn"
      [class.on]="trial.on()"
      [attr.aria-pressed]="trial.on()"
      [disabled]="!trial.can()"
      (click)="trial.toggle()"
    >
      <i class="bi bi-ear" aria-hidden="true"></i> Try it by ear
    </button>
    @if (!trial.can()) {
      <span class="quiet">Once something is said of the circuit it can be heard.</span>
    } @else if (trial.on()) {
      <button type="button" class="btn" (click)="trial.reset()">As it is found</button>
      <label class="btn">
        {{ compare.other() ? 'Another recording' : 'Beside a recording' }}
        <input
          #file
          type="file"
          class="visually-hidden"
          accept=".wav,audio/wav"
          aria-label="Beside a recording"
          (change)="beside(file)"
        />
      </label>
      @if (compare.fault()) {
        <span class="bad" role="alert">{{ compare.fault() }}</span>
      } @else if (compare.busy()) {
        <span class="quiet" role="status">Made equally loud …</span>
      } @else if (compare.other(); as other) {
        <span class="quiet" role="status"
          ><kbd>F6</kbd> goes between this and {{ other.name }}</span
        >
      } @else {
        <span class="quiet">Turn a control of the panel: <kbd>space</kbd> plays.</span>
      }
    } @else {
      <span class="quiet">What is turned, or said of the circuit, is heard at once.</span>
    }
  `,
  styles: `
    :host {
      display: flex;
      gap: 10px;
      align-items: center;
      min-height: 40px;
      font-size: 14.5px;
    }
    .on {
      border-color: var(--accent);
      background: var(--accent-wash);
    }
    .bad {
      color: var(--bad);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TrialBar {
  protected readonly trial = inject(TrialDesk);
  protected readonly compare = inject(CompareService);
  private readonly desk = inject(InstrumentDesk);

  protected beside(field: HTMLInputElement): void {
    const [file, instrument, patch] = [
      field.files?.[0],
      this.desk.instrument(),
      this.trial.patch(),
    ];
    field.value = '';
    if (file && instrument && patch) void this.compare.withFile({ instrument, patch }, file);
  }
}
