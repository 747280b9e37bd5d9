import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { enterPattern, type FirstPass, formatDuration, sequencerOf } from '@hurrel/core';
import { SequenceService } from './sequence.service';

/** The presses that enter the shown pattern into its box, anew or over what is in its place. */
@Component({
  selector: 'hur-entry-panel',
  template: `
    <h2>The presses that enter it</h2>
    @if (others().length > 0) {
      <label>
        In the place now
        <select #beforeField class="form-select" (change)="before.set(beforeField.value)">
          <option value="" [selected]="before() === ''">nothing</option>
          @for (p of others(); track p.id) {
            <option [value]="p.id" [selected]="p.id === before()">{{ p.name }}</option>
          }
        </select>
      </label>
    }
    @if (either()) {
      <label>
        Begin with
        <select #firstField class="form-select" (change)="begin(firstField.value)">
          <option value="pitches" [selected]="first() === 'pitches'">the pitches</option>
          <option value="time" [selected]="first() === 'time'">the time</option>
        </select>
      </label>
    }
    @if (entry(); as entry) {
      @if (entry.ok) {
        <p>
          <strong
            >{{ entry.script.presses }} presses, about {{ time(entry.script.seconds) }}</strong
          >
          @if (entry.script.place) {
            into <strong class="mono">{{ entry.script.place }}</strong>
          }
          <br /><span class="quiet">{{ entry.script.why }} An estimate.</span>
        </p>
        <ol>
          @for (group of entry.script.groups; track $index) {
            <li>
              <strong>{{ group.title }}</strong>
              <span class="mono">
                @for (word of group.told; track $index) {
                  <span class="word">{{ word }}</span>{{ ' ' }}
                }
              </span>
            </li>
          } @empty {
            <li class="quiet">Nothing to press: it is there already.</li>
          }
        </ol>
      } @else {
        @for (reason of entry.reasons.slice(0, 6); track reason) {
          <p class="quiet">{{ reason }}</p>
        }
        @if (entry.reasons.length > 6) {
          <p class="quiet">And {{ entry.reasons.length - 6 }} more.</p>
        }
      }
    }
  `,
  styles: `
    h2 {
      margin-bottom: 6px;
      font-size: 16px;
    }
    label {
      display: flex;
      align-items: center;
      gap: 8px;
      margin-bottom: 6px;
      color: var(--ink-2);
      font-size: 13px;
      white-space: nowrap;
    }
    .form-select {
      padding-top: 3px;
      padding-bottom: 3px;
    }
    p {
      margin: 0 0 6px;
      font-size: 13.5px;
    }
    ol {
      margin: 0;
      padding-left: 22px;
    }
    li {
      margin-bottom: 5px;
      font-size: 13.5px;
    }
    li strong {
      display: block;
    }
    .word {
      display: inline-block;
      margin: 1px 4px 1px 0;
      padding: 0 5px;
      border: 1px solid var(--rule);
      border-radius: 2px;
      background: var(--paper);
      font-size: 12.5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EntryPanel {
  private readonly sequence = inject(SequenceService);
  protected readonly before = signal('');
  /** Pass that a hand begins with, where the box takes either. */
  protected readonly first = signal<FirstPass>('pitches');
  protected readonly either = computed(() => {
    const [instrument, pattern] = [this.sequence.instrument(), this.sequence.pattern()];
    return instrument && pattern && sequencerOf(instrument, pattern)?.passes === 'either';
  });
  protected readonly others = computed(() => {
    const shown = this.sequence.pattern();
    return this.sequence
      .patterns()
      .filter((p) => p.id !== shown?.id && p.sequencer === shown?.sequencer);
  });
  protected readonly entry = computed(() => {
    const [instrument, pattern] = [this.sequence.instrument(), this.sequence.pattern()];
    if (!instrument || !pattern) return null;
    return enterPattern(
      instrument,
      pattern,
      this.others().find((p) => p.id === this.before()),
      undefined,
      this.sequence.patterns().find((p) => p.id === pattern.next),
      this.first(),
    );
  });
  protected readonly time = formatDuration;

  protected begin(pass: string): void {
    this.first.set(pass === 'time' ? 'time' : 'pitches');
  }
}
