import { computed, inject, Injectable, signal } from '@angular/core';
import {
  align,
  boxOf,
  copied,
  covered,
  type Flush,
  type Instrument,
  instrumentOf,
  mirror,
  moveBy,
  putAt,
  readOutline,
  resize,
  spread,
  standing,
  type Thing,
  withOneMore,
  withoutPlaced,
  withStanding,
} from '@hurrel/core';
import { InstrumentDesk } from '../instrument-desk';

/** What is taken up on the sheet, and every edit of where things stand. */
@Injectable()
export class ArrangeDesk {
  private readonly desk = inject(InstrumentDesk);
  /** Of a cabinet its modules in their rows, unless one of them is looked at. */
  readonly instrument = computed(() => {
    const instrument = this.desk.instrument();
    return instrument && standing(instrument);
  });
  /** The whole of a cabinet is on the sheet. */
  readonly cabinet = computed(() => this.desk.instrument()?.rack);
  readonly taken = signal<ReadonlySet<Thing>>(new Set());
  /** Step of the grid in panel units. */
  readonly grid = signal(8);
  /** How many times as large as it fits. */
  readonly zoom = signal(1);
  /** Those taken that are still there. */
  readonly things = computed((): Thing[] => {
    const instrument = this.instrument();
    return instrument ? [...this.taken()].filter((t) => boxOf(instrument, t)) : [];
  });
  readonly covered = computed(() => {
    const instrument = this.instrument();
    return instrument ? covered(instrument) : [];
  });
  private gestures = 0;

  take(thing: Thing, more: boolean): void {
    if (!more) return this.taken.set(new Set([thing]));
    const next = new Set(this.taken());
    if (!next.delete(thing)) next.add(thing);
    this.taken.set(next);
  }

  zoomBy(factor: number): void {
    this.zoom.update((z) => Math.min(4, Math.max(1, z * factor)));
  }

  newGesture(): string {
    return `arrange-${++this.gestures}`;
  }

  /** Moves what is taken from where it stood when the gesture began. */
  moveFrom(start: Instrument, by: { x: number; y: number }, gesture: string): void {
    this.edit(() => moveBy(start, this.things(), by), gesture);
  }

  move(x: number, y: number): void {
    this.edit((i) => moveBy(i, this.things(), { x, y }), 'arrange-keys');
  }

  /** Brings the middle of a thing to a number. */
  moveTo(thing: Thing, axis: 'x' | 'y', to: number): void {
    this.edit((i) => {
      const box = boxOf(i, thing)!;
      const at = axis === 'x' ? box.x : box.y;
      return moveBy(i, [thing], axis === 'x' ? { x: to - at, y: 0 } : { x: 0, y: to - at });
    });
  }

  resize(thing: Thing, to: { size?: number; width?: number; height?: number }): void {
    this.edit((i) => resize(i, thing, to));
  }

  align(edge: Flush): void {
    this.edit((i) => align(i, this.things(), edge));
  }

  spread(axis: 'x' | 'y'): void {
    this.edit((i) => spread(i, this.things(), axis));
  }

  mirror(axis: 'x' | 'y'): void {
    this.edit((i) => mirror(i, this.things(), axis));
  }

  /** Forgets what a hand has done: everything stands in rows again. */
  layOutAnew(): void {
    this.desk.editWhole((i) => {
      const text = i.outline ?? '';
      return instrumentOf(readOutline(text).outline, text, i, true);
    });
  }

  /** Things are put by pointing: a place that waits for its words. */
  readonly putting = signal(false);
  readonly waiting = signal<{ x: number; y: number } | null>(null);

  /** Puts what a line says at a place. @returns why it cannot be; empty when it is there */
  put(line: string, at: { x: number; y: number }): string {
    const before = this.instrument();
    if (!before || line.trim() === '') return '';
    if (this.cabinet()) return IN_A_MODULE;
    try {
      const { instrument, put } = putAt(before, line, at);
      this.edit(() => instrument);
      this.taken.set(new Set([put]));
      return '';
    } catch (error) {
      return (error as Error).message;
    }
  }

  /** Copies what is taken, and takes the copies. */
  copy(): void {
    if (this.things().length === 0) return;
    if (this.cabinet()) return this.copyModules();
    this.desk.attempt((i) => {
      const { instrument, copies } = copied(i, this.things());
      this.taken.set(new Set(copies));
      return instrument;
    });
  }

  /** Stands one more of a kind of module at the end of a row. */
  standOneMore(type: string, row: number): void {
    this.desk.editWhole((i) => withOneMore(i, type, row));
  }

  /** Takes modules away that are taken up. */
  takeAway(): void {
    const ids = new Set(this.placed().map((p) => p.id));
    this.desk.editWhole((i) => withoutPlaced(i, ids));
    this.taken.set(new Set());
  }

  /** Modules of a cabinet that are taken up. */
  readonly placed = computed(() => {
    const taken = new Set<string>(this.things());
    return (this.cabinet()?.placed ?? []).filter((p) => taken.has(`section:${p.id}`));
  });

  private copyModules(): void {
    for (const { type, row } of this.placed()) this.standOneMore(type, row);
  }

  private edit(change: (instrument: Instrument) => Instrument, gesture?: string): void {
    if (!this.cabinet()) return this.desk.edit(change, gesture);
    this.desk.editWhole((whole) => {
      const before = standing(whole);
      const moved = change(before);
      return moved === before ? whole : withStanding(whole, moved);
    }, gesture);
  }
}

const IN_A_MODULE = 'Choose a module above: what is put by pointing is on one of them.';
