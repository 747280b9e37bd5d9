import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type { OutlineFault, OutlineReading } from '@hurrel/core';

/** Height of a line, as its style says, in px. */
const LINE = 22;
/** Lines of a page, and how many are drawn: one page above what is seen, and enough for the highest window below. */
const PAGE = 60;
const DRAWN = 4 * PAGE;

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
      ><span class="above" [style.height.px]="height * first()"></span>@for (line of inSight(); track $index) {<span class="line">@for (part of line.parts; track $index) {<span [class.fault]="part.fault">{{ part.text }}</span>}<span class="guess">{{ line.guess }}</span></span>}<span class="above" [style.height.px]="height * below()"></span></pre>
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
  protected readonly height = LINE;
  /** The first line that is drawn; a page of some thousand lines draws those around what is seen. */
  protected readonly first = signal(0);
  private readonly words = computed(() => this.text().split('\n'));
  protected readonly below = computed(() =>
    Math.max(0, this.words().length - this.first() - DRAWN),
  );
  private readonly marks = computed(() => ({
    wrong: new Map(this.reading().faults.map((f) => [f.line, f])),
    guessed: new Map(this.reading().guesses.map((g) => [g.line, g.says])),
  }));
  protected readonly inSight = computed(() => {
    const [first, { wrong, guessed }] = [this.first(), this.marks()];
    return this.words()
      .slice(first, first + DRAWN)
      .map((line, i) => ({
        parts: partsOf(line, wrong.get(first + i + 1)),
        guess: guessed.get(first + i + 1) ?? '',
      }));
  });

  constructor() {
    // What lies behind has grown by now: it goes where the words are.
    afterRenderEffect(() => {
      this.inSight();
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
    // By whole pages, so that scrolling a little draws nothing anew.
    const page = Math.floor(scrollTop / LINE / PAGE);
    this.first.set(Math.max(0, (page - 1) * PAGE));
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
