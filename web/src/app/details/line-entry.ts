import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import {
  cannotEnter,
  entryScript,
  formatDuration,
  formatLine,
  type Instrument,
  lineToPhrase,
  midiToNote,
  parseLine,
  type Patch,
  phraseToLine,
} from '@hurrel/core';

/** A phrase typed as a line, a word a step, and the presses that enter it into a box that takes lines in two passes. */
@Component({
  selector: 'hur-line-entry',
  template: `
    <label for="line">Typed as a line, a word a sixteenth</label>
    <input
      id="line"
      class="form-control mono"
      autocomplete="off"
      spellcheck="false"
      [value]="text()"
      placeholder="c2 - . d#2' f2~ g2"
      aria-describedby="line-says"
      (input)="typed.set($any($event.target).value)"
      (keydown.enter)="take()"
    />
    <div class="steps" aria-hidden="true">
      @for (step of steps(); track $index) {
        <span [class]="step.kind" [class.accent]="step.accent" [class.bar]="$index % 4 === 0">
          {{ step.text }}
        </span>
      }
    </div>
    <p id="line-says" class="quiet" role="status">
      @if (error(); as e) {
        <strong class="bad">{{ e.message }}</strong>
      } @else if (typed() !== null) {
        {{ steps().length }} steps. Enter takes them as the phrase.
      } @else if (line()) {
        <span class="mono">-</span> holds on, <span class="mono">.</span> rests,
        <span class="mono">'</span> accents, <span class="mono">~</span> slides into the next.
      } @else {
        This phrase is no line: notes sound together, or stand between the sixteenths.
      }
    </p>
    @if (typed() !== null) {
      <button type="button" class="btn" [disabled]="!!error()" (click)="take()">
        Take it as the phrase
      </button>
    }
    @if (box(); as box) {
      <h3>Into the {{ box.name }}</h3>
      @if (refused()) {
        <p class="bad">{{ refused() }}</p>
      } @else if (script(); as script) {
        <p class="quiet">
          {{ script.presses }} presses, about {{ time(script.seconds) }}. An estimate.
        </p>
        <ol>
          @for (pass of script.passes; track pass.name) {
            <li>
              <strong>{{ pass.name }}</strong>
              <span class="mono">{{ pass.told.join(' ') }}</span>
            </li>
          }
        </ol>
      }
    }
  `,
  styles: `
    :host {
      display: block;
      margin-top: 14px;
      padding-top: 10px;
      border-top: 1px solid var(--rule-2);
    }
    label {
      color: var(--ink-2);
      font-size: 13px;
    }
    h3 {
      margin: 12px 0 2px;
      font-size: 15px;
    }
    .steps {
      display: grid;
      grid-template-columns: repeat(16, minmax(0, 1fr));
      margin: 6px 0 2px;
      font: 600 10px var(--mono);
    }
    .steps span {
      overflow: hidden;
      height: 22px;
      border-top: 1px solid var(--rule);
      border-bottom: 1px solid var(--rule);
      line-height: 22px;
      text-align: center;
    }
    .bar {
      border-left: 2px solid var(--ink-3);
    }
    .note {
      background: var(--accent-wash);
    }
    .accent {
      background: var(--ink);
      color: var(--paper);
    }
    .tie {
      background: linear-gradient(var(--accent-wash), var(--accent-wash)) center / 100% 8px
        no-repeat;
    }
    p {
      margin: 3px 0;
      font-size: 13px;
    }
    .bad {
      color: var(--bad);
    }
    ol {
      margin: 4px 0 0;
      padding-left: 20px;
    }
    li {
      margin-bottom: 4px;
    }
    li strong {
      display: block;
    }
    li .mono {
      font-size: 13.5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineEntry {
  readonly instrument = input.required<Instrument>();
  readonly phrase = input.required<Patch['phrase']>();
  readonly taken = output<Patch['phrase']>();

  /** What is being typed; null while nothing is. */
  protected readonly typed = signal<string | null>(null);
  protected readonly line = computed(() => phraseToLine(this.phrase()));
  protected readonly text = computed(() => this.typed() ?? formatLine(this.line() ?? []));
  private readonly reading = computed(() => {
    const typed = this.typed();
    return typed === null ? { ok: true as const, steps: this.line() ?? [] } : parseLine(typed);
  });
  protected readonly error = computed(() => {
    const reading = this.reading();
    return reading.ok ? null : reading.error;
  });
  protected readonly steps = computed(() =>
    this.reading().steps.map((s) => ({
      kind: s.kind,
      accent: s.kind === 'note' && s.accent,
      text: s.kind === 'note' ? `${midiToNote(s.note)}${s.slide ? '~' : ''}` : '',
    })),
  );
  /** The box of this instrument that takes lines in two passes. */
  protected readonly box = computed(() =>
    this.instrument().sequencers.find((s) => s.kind === 'two-pass'),
  );
  protected readonly refused = computed(() =>
    this.box() && this.reading().ok
      ? (cannotEnter(this.reading().steps, this.box()!.steps) ?? '')
      : '',
  );
  protected readonly script = computed(() =>
    this.reading().ok && this.reading().steps.length > 0 ? entryScript(this.reading().steps) : null,
  );
  protected readonly time = formatDuration;

  protected take(): void {
    const reading = this.reading();
    if (this.typed() === null || !reading.ok) return;
    this.taken.emit(lineToPhrase(reading.steps));
    this.typed.set(null);
  }
}
