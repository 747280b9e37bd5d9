import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { MidiInService } from './midi-in.service';

/** Keyboards that are plugged in, and the clock that is followed: a real one, or one that is simulated here. */
@Component({
  selector: 'hur-midi-in',
  template: `
    @if (midi.supported) {
      @if (midi.inputs().length > 0) {
        <p>{{ midi.inputs().join(', ') }}</p>
      } @else {
        <button type="button" class="btn" (click)="midi.connect()">
          Look for keyboards and clocks
        </button>
      }
    } @else {
      <p class="quiet">This browser has no MIDI. The keys here send the same messages.</p>
    }
    @if (midi.fault()) {
      <p class="bad" role="alert">{{ midi.fault() }}</p>
    }
    <div class="clock" role="group" aria-label="Simulated clock">
      <label
        >Simulated clock at
        <input
          #tempoField
          type="number"
          class="form-control mono"
          min="20"
          max="400"
          [value]="clock().tempo"
          (change)="set({ tempo: clamp(tempoField.value, 20, 400) })"
        />
        bpm</label
      >
      <label
        >jitter
        <input
          #jitterField
          type="number"
          class="form-control mono"
          min="0"
          max="10"
          [value]="clock().jitter"
          (change)="set({ jitter: clamp(jitterField.value, 0, 10) })"
        />
        ms</label
      >
      <button
        type="button"
        class="btn"
        [class.on]="midi.running()"
        [attr.aria-pressed]="midi.running()"
        (click)="midi.running() ? midi.stopClock() : midi.startClock(clock)"
      >
        {{ midi.running() ? 'Stop' : 'Run' }}
      </button>
      @if (midi.running()) {
        <button
          type="button"
          class="btn"
          title="No more clocks, and nobody says stop"
          (click)="midi.cutClock()"
        >
          Pull its cable
        </button>
      }
    </div>
    <p class="quiet" role="status">
      @if (midi.tempo(); as tempo) {
        @if (midi.gone()) {
          The clock has gone: it goes on at <strong class="mono">{{ tempo }} bpm</strong> until the
          clock comes again.
          <button type="button" class="btn btn-plain" (click)="midi.leave()">
            Back to {{ own() }} bpm
          </button>
        } @else {
          Follows a clock at <strong class="mono">{{ tempo }} bpm</strong>.
        }
      } @else {
        Runs at the patch’s own {{ own() }} bpm until a clock comes.
      }
    </p>
  `,
  styles: `
    p {
      margin: 6px 0;
      font-size: 13.5px;
    }
    .clock {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 8px;
      align-items: center;
      margin-top: 6px;
      font-size: 13.5px;
    }
    .clock label {
      display: flex;
      gap: 5px;
      align-items: center;
      white-space: nowrap;
    }
    .clock input {
      width: 76px;
    }
    .bad {
      color: var(--bad);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MidiIn {
  protected readonly midi = inject(MidiInService);
  /** The patch's own tempo in bpm. */
  readonly own = input.required<number>();
  protected readonly clock = signal({ tempo: 120, jitter: 2 });

  protected set(changes: Partial<{ tempo: number; jitter: number }>): void {
    this.clock.update((now) => ({ ...now, ...changes }));
  }

  protected clamp(text: string, low: number, high: number): number {
    return Math.min(high, Math.max(low, Number(text) || low));
  }
}
