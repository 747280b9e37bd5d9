import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
} from '@angular/core';
import { formatPattern, parsePatternText } from '@hurrel/core';
import { SequenceService } from './sequence.service';

/** The whole pattern as text, to be read, copied, typed over or pasted; what is wrong is told by its line. */
@Component({
  selector: 'hur-whole-text',
  template: `
    <label for="whole-text"><h2>The pattern as text</h2></label>
    <textarea
      #typedField
      id="whole-text"
      class="form-control mono"
      spellcheck="false"
      rows="18"
      wrap="off"
      aria-describedby="whole-says"
      [class.wrong]="fault()"
      [value]="text()"
      (input)="typed.set(typedField.value)"
      (keydown)="key($event)"
    ></textarea>
    <div id="whole-says" role="status">
      @if (fault(); as fault) {
        <p class="bad">{{ fault }}</p>
      } @else if (understood(); as said) {
        <p>{{ said }}</p>
      } @else {
        <p class="quiet">
          A word a step, as in the typed line; <b>own cutoff 3=0.5</b> gives a control a value of
          its own at a step, <b>row a 0 0.25</b> gives a row its volts.
        </p>
      }
      @if (typed() !== null) {
        <button type="button" class="btn btn-main" [disabled]="fault()" (click)="take()">
          Take it <kbd>Ctrl Enter</kbd>
        </button>
        <button type="button" class="btn" (click)="typed.set(null)">Leave it</button>
      }
    </div>
  `,
  styles: `
    h2 {
      margin: 4px 0 6px;
      font-size: 16px;
    }
    textarea {
      font-size: 12.5px;
      line-height: 1.45;
      tab-size: 2;
    }
    .wrong {
      border-color: var(--bad);
    }
    p {
      margin: 6px 0;
      font-size: 13.5px;
    }
    b {
      font: 600 12.5px var(--mono);
      color: var(--ink);
    }
    .bad {
      color: var(--bad);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WholeText {
  private readonly sequence = inject(SequenceService);
  /** What is being typed; null while nothing is. */
  protected readonly typed = signal<string | null>(null);
  protected readonly text = computed(() => {
    const pattern = this.sequence.pattern();
    return this.typed() ?? (pattern ? formatPattern(pattern) : '');
  });
  private readonly reading = computed(() => {
    const typed = this.typed();
    return typed === null ? null : parsePatternText(typed);
  });
  protected readonly fault = computed(() => {
    const reading = this.reading();
    if (!reading) return '';
    if (!reading.ok) return `Line ${reading.line}: ${reading.message}`;
    const { next } = reading.pattern;
    return next === undefined || this.sequence.patterns().some((p) => p.id === next)
      ? ''
      : `There is no pattern "${next}" to follow: ${this.others()}.`;
  });
  protected readonly understood = computed(() => {
    const reading = this.reading();
    if (!reading?.ok) return '';
    const { tracks } = reading.pattern;
    const notes = tracks.flatMap((t) => t.steps).filter((s) => s.notes).length;
    const ownValues = tracks.flatMap((t) => t.steps).filter((s) => s.ownValues).length;
    const count = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : 's'}`;
    return [
      `Understood: ${count(tracks.length, 'track')}`,
      `${count(notes, 'step')} with notes`,
      `${ownValues} with own values.`,
    ].join(', ');
  });

  constructor() {
    // What was typed belonged to the pattern as it was.
    effect(() => {
      this.sequence.pattern();
      this.typed.set(null);
    });
  }

  protected key(event: KeyboardEvent): void {
    event.stopPropagation();
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) this.take();
    else if (event.key === 'Escape') this.typed.set(null);
  }

  protected take(): void {
    const [reading, shown] = [this.reading(), this.sequence.pattern()];
    if (!reading?.ok || !shown || this.fault()) return;
    // Its own name stays: other patterns lead to it by that.
    if (this.sequence.edit({ ...reading.pattern, id: shown.id })) this.typed.set(null);
  }

  private others(): string {
    const ids = this.sequence.patterns().map((p) => p.id);
    return ids.length > 1 ? `there are ${ids.join(', ')}` : `there is ${ids[0]} only`;
  }
}
