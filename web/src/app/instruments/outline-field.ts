import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  input,
  output,
  viewChild,
} from '@angular/core';
import type { OutlineFault, OutlineReading } from '@hurrel/core';

/** A stretch of a line: plain, or at fault. */
interface Stretch {
  text: string;
  fault: boolean;
}

/** A panel in words, to be typed: what is wrong is marked where it stands, what was guessed is told behind its line. */
@Component({
  selector: 'hur-outline-field',
  template: `
    <div class="field">
      <pre
        #behind
        aria-hidden="true"
      >@for (line of lines(); track $index) {<span class="line">@for (part of line.parts; track $index) {<span [class.fault]="part.fault">{{ part.text }}</span>}<span class="guess">{{ line.guess }}</span></span>}</pre>
      <textarea
        #field
        spellcheck="false"
        autocapitalize="off"
        autocomplete="off"
        maxlength="60000"
        aria-label="The panel in words"
        aria-describedby="outline-says"
        [value]="text()"
        (input)="typed.emit(field.value)"
        (scroll)="follow()"
      ></textarea>
    </div>
    <div id="outline-says" class="says" role="status">
      @for (fault of faults(); track $index) {
        <p class="bad">
          <button type="button" class="link" (click)="show(fault)">Line {{ fault.line }}</button>
          {{ fault.message }}
        </p>
      }
      @if (more() > 0) {
        <p class="bad">And {{ more() }} more lines that are not understood.</p>
      }
    </div>
  `,
  styleUrl: './outline-field.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OutlineField {
  readonly text = input.required<string>();
  readonly reading = input.required<OutlineReading>();
  readonly typed = output<string>();

  private readonly field = viewChild.required<ElementRef<HTMLTextAreaElement>>('field');
  private readonly behind = viewChild.required<ElementRef<HTMLElement>>('behind');
  protected readonly faults = computed(() => this.reading().faults.slice(0, 6));
  protected readonly more = computed(() => this.reading().faults.length - this.faults().length);
  protected readonly lines = computed(() => {
    const { faults, guesses } = this.reading();
    const wrong = new Map(faults.map((f) => [f.line, f]));
    const guessed = new Map(guesses.map((g) => [g.line, g.says]));
    return this.text()
      .split('\n')
      .map((line, i) => ({
        parts: partsOf(line, wrong.get(i + 1)),
        guess: guessed.get(i + 1) ?? '',
      }));
  });

  constructor() {
    // What lies behind has grown by now: it goes where the words are.
    afterRenderEffect(() => {
      this.lines();
      this.follow();
    });
  }

  /** Puts the keyboard at the end of what is typed. */
  focus(): void {
    const { nativeElement: field } = this.field();
    field.focus();
    field.setSelectionRange(field.value.length, field.value.length);
  }

  /** Marks the part that is wrong. */
  protected show({ line, column, length }: OutlineFault): void {
    const { nativeElement: field } = this.field();
    const before = field.value.split('\n').slice(0, line - 1);
    const start = before.reduce((sum, l) => sum + l.length + 1, 0) + column - 1;
    field.focus();
    field.setSelectionRange(start, start + length);
  }

  protected follow(): void {
    const { scrollTop, scrollLeft } = this.field().nativeElement;
    this.behind().nativeElement.scrollTop = scrollTop;
    this.behind().nativeElement.scrollLeft = scrollLeft;
  }
}

function partsOf(line: string, fault: OutlineFault | undefined): Stretch[] {
  if (!fault) return [{ text: line, fault: false }];
  const from = fault.column - 1;
  const to = from + fault.length;
  return [
    { text: line.slice(0, from), fault: false },
    { text: line.slice(from, to), fault: true },
    { text: line.slice(to), fault: false },
  ];
}
