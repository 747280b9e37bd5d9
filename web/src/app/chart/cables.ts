import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  input,
  output,
  signal,
  viewChild,
  viewChildren,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import {
  NgbTypeahead,
  type NgbTypeaheadSelectItemEvent,
} from '@ng-bootstrap/ng-bootstrap/typeahead';
import {
  type Cable,
  cableSignal,
  cableText,
  cannotJoin,
  type Instrument,
  isClear,
  type Jack,
  jackLabel,
  jackOf,
  jacksNamed,
  type Patch,
} from '@hurrel/core';
import { map, type Observable } from 'rxjs';
import type { CableView } from '../ui/cable';
import { jackWords } from '../ui/jack';

/** What is offered as the other end of a plug that only breaks a wire. */
const FREE_END = { id: '', name: 'free plug: nothing at this end' } as const;
type End = Jack | typeof FREE_END;

/** The cables of a patch: patched by the names of two jacks, followed, noted, left in, pulled. */
@Component({
  selector: 'hur-cables',
  imports: [NgbTypeahead, RouterLink],
  templateUrl: './cables.html',
  styleUrl: './cables.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Cables {
  readonly instrument = input.required<Instrument>();
  readonly cables = input.required<readonly Cable[]>();
  readonly feed = input<Patch['feed']>();
  readonly jackId = input<string | null>(null);
  readonly followed = input<string | null>(null);
  readonly view = input<CableView>('whole');

  readonly joined = output<{ from: string; to: string }>();
  readonly plugOnly = output<string>();
  readonly changed = output<Cable>();
  readonly pulled = output<string>();
  readonly follow = output<string | null>();
  readonly viewChanged = output<CableView>();

  private readonly from = viewChild.required<ElementRef<HTMLInputElement>>('from');
  private readonly to = viewChild.required<ElementRef<HTMLInputElement>>('to');
  private readonly fields = viewChildren(NgbTypeahead);
  /** What is typed now may be one of several. */
  private unclear = false;
  private readonly first = signal<Jack | null>(null);
  protected readonly said = signal('');

  protected readonly jack = computed(() => jackOf(this.instrument(), this.jackId() ?? undefined));
  protected readonly fedInto = computed(() =>
    jackLabel(this.instrument(), this.feed()?.jack ?? ''),
  );
  protected readonly words = computed(() => (this.jack() ? jackWords(this.jack()!) : ''));
  protected readonly sectionName = computed(
    () => this.instrument().sections.find((s) => s.id === this.jack()?.section)?.name ?? '',
  );
  /** What the chosen jack is wired to inside, in words. */
  protected readonly normal = computed(() => {
    const { circuit } = this.instrument();
    return circuit.wires
      .filter((w) => w.normalOf === this.jackId())
      .map((w) => {
        const id = w.from.split('.')[0];
        return circuit.modules.find((m) => m.id === id)?.name ?? id;
      })
      .join(' and ');
  });
  protected readonly here = computed(() =>
    this.cables().filter((c) => c.from === this.jackId() || c.to === this.jackId()),
  );
  protected readonly isBroken = computed(() => this.here().some((c) => !c.inactive));
  /** Those at the chosen jack first. */
  protected readonly shown = computed(() => {
    const here = this.here();
    return this.jackId() === null
      ? this.cables()
      : [...here, ...this.cables().filter((c) => !here.includes(c))];
  });

  protected readonly label = (end: End): string =>
    end.id === FREE_END.id ? FREE_END.name : jackLabel(this.instrument(), end.id);
  protected readonly search = (typed: Observable<string>): Observable<Jack[]> =>
    typed.pipe(
      map((text) => {
        // Whatever was named before is not meant any more.
        this.first.set(null);
        return this.named(text, () => true);
      }),
    );
  protected readonly searchOther = (typed: Observable<string>): Observable<End[]> =>
    typed.pipe(
      map((text) => {
        const found = this.named(text, (j) => j.direction !== this.first()?.direction);
        if (!isFreeEnd(text)) return found;
        // A jack that is called so comes first.
        if (found.length === 0) for (const field of this.fields()) field.focusFirst = true;
        return [...found, FREE_END];
      }),
    );

  /** Enter on a name that may be one of several: it is asked, not taken. */
  protected ask(): void {
    if (this.unclear)
      this.said.set('Several jacks are called so: go on typing, or take one with ↓ before Enter.');
  }

  /** Where a cable is patched by typing. */
  focus(): void {
    const field = this.from().nativeElement;
    // A line that was left half typed is not gone on with.
    this.empty(field, this.to().nativeElement);
    field.focus();
    // Room below for the names that are offered.
    field.closest('hur-cables')?.scrollIntoView({ block: 'start' });
  }

  protected text(cable: Cable): string {
    return cableText(this.instrument(), cable);
  }

  protected signal(cable: Cable): string {
    return cableSignal(this.instrument(), cable, this.cables());
  }

  protected tookFrom(event: NgbTypeaheadSelectItemEvent<Jack>, next: HTMLInputElement): void {
    this.first.set(event.item);
    this.unclear = false;
    this.said.set('');
    next.focus();
  }

  protected tookTo(
    event: NgbTypeaheadSelectItemEvent<End>,
    from: HTMLInputElement,
    to: HTMLInputElement,
  ): void {
    event.preventDefault();
    this.unclear = false;
    const first = this.first();
    if (!first) {
      this.said.set('Name the first jack too.');
      return from.focus();
    }
    const free = event.item.id === FREE_END.id;
    const why = free ? undefined : cannotJoin(this.instrument(), first.id, event.item.id);
    this.said.set(why ?? '');
    if (why) return;
    if (free) this.plugOnly.emit(first.id);
    else this.joined.emit({ from: first.id, to: event.item.id });
    this.empty(from, to);
    from.focus();
  }

  private empty(...fields: HTMLInputElement[]): void {
    this.first.set(null);
    this.unclear = false;
    this.said.set('');
    for (const field of fields) {
      field.value = '';
      field.dispatchEvent(new Event('input'));
    }
  }

  protected note(cable: Cable, change: Partial<Cable>): void {
    const next = { ...cable, ...change };
    if (next.colour?.trim() === '') delete next.colour;
    if (next.note?.trim() === '') delete next.note;
    this.changed.emit(next);
  }

  protected setLength(cable: Cable, field: HTMLInputElement): void {
    const next = { ...cable };
    const length = Number(field.value);
    if (field.value.trim() === '') delete next.length;
    else if (Number.isInteger(length) && length >= 1 && length <= 2000) next.length = length;
    else {
      this.said.set('The length of a cord is a whole number of centimetres, 1 to 2000.');
      field.value = String(cable.length ?? '');
      return;
    }
    this.said.set('');
    this.changed.emit(next);
  }

  private named(text: string, wanted: (jack: Jack) => boolean): Jack[] {
    this.unclear = false;
    if (text.trim() === '') return [];
    const found = jacksNamed(this.instrument(), text, wanted);
    const clear = isClear(this.instrument(), text, found);
    // What may be one of several is not taken by Enter: it is asked for.
    for (const field of this.fields()) field.focusFirst = clear;
    this.unclear = !clear && found.length > 0;
    this.said.set('');
    return found.slice(0, 8);
  }
}

/** Whether words for the other end mean that there is none: `free`, `plug`, `nothing`, `-`. */
const isFreeEnd = (text: string): boolean => {
  const word = text.trim().toLowerCase();
  return (
    word === '-' ||
    (word.length > 1 && ['free plug', 'plug', 'nothing'].some((one) => one.startsWith(word)))
  );
};
