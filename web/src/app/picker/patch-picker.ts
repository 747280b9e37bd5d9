import { ScrollingModule, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { PatchSearch } from './patch-search';

/** What is offered: a patch, or what is none of the library: the instrument's start. */
export interface Offer {
  id: string;
  name: string;
}

interface Entry extends Offer {
  /** Song and instrument, under the name. */
  under: string;
}

const ROW_PX = 44;
const MOST_ROWS = 7;
let pickers = 0;

/** Picks a patch of the library: typed words narrow it, arrows and Enter or a tap pick. However long the library is. */
@Component({
  selector: 'hur-patch-picker',
  imports: [ScrollingModule],
  providers: [PatchSearch],
  templateUrl: './patch-picker.html',
  styleUrl: './patch-picker.scss',
  host: { '(focusout)': 'left($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PatchPicker {
  readonly label = input.required<string>();
  /** Id of what is picked. */
  readonly chosen = input('');
  /** Only patches of this instrument. */
  readonly instrument = input<string>();
  /** What stands before the patches. */
  readonly first = input<readonly Offer[]>([]);
  /** A patch that is not offered: the one that asks. */
  readonly without = input<string>();
  readonly placeholder = input('a patch of the library');
  readonly picked = output<Offer>();

  protected readonly search = inject(PatchSearch);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly viewport = viewChild(CdkVirtualScrollViewport);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');

  protected readonly id = `picker-${++pickers}`;
  protected readonly rowPx = ROW_PX;
  protected readonly open = signal(false);
  protected readonly at = signal(0);
  protected readonly entries = computed((): Entry[] => {
    const words = this.search.words().toLowerCase().split(/\s+/).filter(Boolean);
    const fits = (text: string): boolean => words.every((w) => text.toLowerCase().includes(w));
    const fixed = this.first()
      .filter((e) => fits(e.name))
      .map((e) => ({ ...e, under: '' }));
    // What was found for fewer letters is narrowed at once, until the server has answered.
    const patches = this.search
      .items()
      .filter((p) => p.id !== this.without())
      .filter((p) => fits(`${p.name} ${p.song} ${p.role} ${p.about}`))
      .map((p) => ({ id: p.id, name: p.name, under: [p.song, p.role].filter(Boolean).join(', ') }));
    return [...fixed, ...patches];
  });
  protected readonly height = computed(
    () => ROW_PX * Math.min(MOST_ROWS, Math.max(1, this.entries().length)),
  );
  protected readonly shown = computed(() => {
    if (this.open()) return this.search.words();
    const id = this.chosen();
    return this.first().find((e) => e.id === id)?.name ?? this.search.nameOf(id);
  });

  constructor() {
    effect(() => {
      const [id, first] = [this.chosen(), this.first()];
      if (id === '' || first.some((e) => e.id === id)) return;
      untracked(() => void this.search.readName(id));
    });
  }

  protected show(): void {
    if (this.open()) return;
    this.open.set(true);
    this.at.set(0);
    this.search.begin(this.instrument());
  }

  protected type(words: string): void {
    this.show();
    this.at.set(0);
    this.search.find(words);
  }

  protected hide(): void {
    this.open.set(false);
    this.search.forget();
  }

  protected left({ relatedTarget }: FocusEvent): void {
    if (!this.host.nativeElement.contains(relatedTarget as Node | null)) this.hide();
  }

  protected pick(entry: Entry | undefined): void {
    if (!entry) return;
    this.hide();
    this.picked.emit({ id: entry.id, name: entry.name });
    this.field().nativeElement.blur();
  }

  protected key(event: KeyboardEvent): void {
    const last = this.entries().length - 1;
    const moves: Record<string, number> = {
      ArrowDown: this.at() + 1,
      ArrowUp: this.at() - 1,
      PageDown: this.at() + MOST_ROWS,
      PageUp: this.at() - MOST_ROWS,
    };
    const to = moves[event.key];
    if (to !== undefined) {
      this.show();
      this.go(Math.max(0, Math.min(last, to)));
    } else if (event.key === 'Enter' && this.open()) this.pick(this.entries()[this.at()]);
    else if (event.key === 'Escape' && this.open()) this.hide();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  /** More is read before the end of what is there comes into view. */
  protected scrolled(first: number): void {
    if (first + 3 * MOST_ROWS > this.entries().length) void this.search.readOn();
  }

  private go(at: number): void {
    this.at.set(at);
    const viewport = this.viewport();
    if (!viewport) return;
    const top = viewport.measureScrollOffset();
    if (at * ROW_PX < top) viewport.scrollToOffset(at * ROW_PX);
    else if ((at + 1) * ROW_PX > top + this.height()) {
      viewport.scrollToOffset((at + 1) * ROW_PX - this.height());
    }
    this.scrolled(at);
  }
}
