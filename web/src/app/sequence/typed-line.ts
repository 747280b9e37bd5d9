import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
} from '@angular/core';
import { formatSteps, parseSteps, stepOf, withoutTail } from '@hurrel/core';
import { SequenceService } from './sequence.service';

/** The shown track as a line of words, one a step; what is understood is shown while one types. */
@Component({
  selector: 'hur-typed-line',
  template: `
    <label for="typed-line">Typed, a word a step</label>
    <input
      #typedField
      id="typed-line"
      class="form-control mono"
      autocomplete="off"
      spellcheck="false"
      placeholder="c2 - . d#2' f2~ g2"
      aria-describedby="typed-says"
      [class.wrong]="error()"
      [value]="text()"
      (input)="typed.set(typedField.value)"
      (keydown.enter)="take(); $event.stopPropagation()"
      (keydown.escape)="typed.set(null)"
      (blur)="leave()"
    />
    <p id="typed-says" role="status">
      @if (error(); as e) {
        <strong class="bad">{{ e.message }}</strong>
        <span class="quiet"
          >Understood before it: {{ count() }} {{ count() === 1 ? 'step' : 'steps' }}.</span
        >
      } @else if (typed() !== null) {
        <strong>{{ count() }} {{ count() === 1 ? 'step' : 'steps' }}: {{ sounding() }}</strong>
        <button type="button" class="btn" (click)="take()">Take them <kbd>Enter</kbd></button>
      } @else {
        <span class="quiet">
          <b>.</b> rest <b>-</b> hold on <b>c2</b> note <b>c3+e3</b> chord <b>x</b> own key
          <b>'</b> accent <b>~</b> slide <b>:90</b> velocity <b>*2</b> long <b>&gt;0.2</b> late
          <b>?fill</b> <b>?30%</b> <b>?2/4</b>
        </span>
      }
    </p>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: auto minmax(0, 1fr);
      align-items: center;
      gap: 2px 10px;
    }
    label {
      color: var(--ink-2);
      font-size: 13px;
    }
    .wrong {
      border-color: var(--bad);
    }
    p {
      display: flex;
      grid-column: 2;
      align-items: center;
      gap: 10px;
      min-height: 30px;
      margin: 0;
      font-size: 13px;
    }
    b {
      margin: 0 1px 0 7px;
      font: 600 12.5px var(--mono);
      color: var(--ink);
    }
    .bad {
      color: var(--bad);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TypedLine {
  private readonly sequence = inject(SequenceService);
  /** What is being typed; null while nothing is. */
  protected readonly typed = signal<string | null>(null);
  private readonly own = computed(() => this.sequence.ownNote(this.sequence.track()));
  protected readonly text = computed((): string => this.typed() ?? this.written());
  /** The track as it is, in words. */
  private readonly written = computed(() => {
    const track = this.sequence.track();
    return track
      ? formatSteps(Array.from({ length: track.length }, (_, i) => stepOf(track, i)))
      : '';
  });
  private readonly reading = computed(() => parseSteps(this.typed() ?? '', this.own()));
  protected readonly error = computed(() => {
    const reading = this.reading();
    return this.typed() === null || reading.ok ? null : reading.error;
  });
  protected readonly count = computed(() => {
    const reading = this.reading();
    return reading.ok ? reading.length : reading.steps.length;
  });
  protected readonly sounding = computed(() => {
    const n = this.reading().steps.filter((s) => s.notes).length;
    return `${n} ${n === 1 ? 'note' : 'notes'}`;
  });

  constructor() {
    // What was typed belonged to the track as it was.
    effect(() => {
      this.sequence.track();
      this.typed.set(null);
    });
  }

  /** What was typed is taken when one goes elsewhere; a line that was emptied, or is as it was, says nothing. */
  protected leave(): void {
    const typed = this.typed();
    if (typed === null) return;
    if (typed.trim() === '' || typed === this.written()) this.typed.set(null);
    else this.take();
  }

  /** Takes what is typed; own values stay with steps that are struck, or were not before. */
  protected take(): void {
    const [reading, track] = [this.reading(), this.sequence.track()];
    if (this.typed() === null || !reading.ok || !track) return;
    const steps = reading.steps.map((step, i) => {
      const { ownValues, notes } = stepOf(track, i);
      return ownValues && (step.notes || !notes) ? { ...step, ownValues } : step;
    });
    const length = Math.max(1, Math.min(64, reading.length));
    if (this.sequence.editTrack({ ...track, length, steps: withoutTail(steps) }))
      this.typed.set(null);
  }
}
