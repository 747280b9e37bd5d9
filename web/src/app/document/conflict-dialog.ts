import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import type { Side } from '@hurrel/core';
import type { DocumentSides } from './document';

interface Sides extends DocumentSides<object> {
  /** What it is: a patch, a session. */
  what: string;
  base: object;
  mine: object;
  theirs: object;
}

/** Two people, or two windows, changed the same document: keep mine, take theirs, or merge line by line. */
@Component({
  selector: 'hur-conflict-dialog',
  templateUrl: './conflict-dialog.html',
  styleUrl: './conflict-dialog.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ConflictDialog {
  protected readonly dialog = inject(NgbActiveModal);
  protected readonly order: Side[] = ['mine', 'theirs'];
  protected readonly sides = signal<Sides | null>(null);
  protected readonly choices = signal<Record<string, Side>>({});

  /** Every difference between the two, with whose change it is. */
  protected readonly rows = computed(() => {
    const sides = this.sides();
    if (!sides) return [];
    const { conflicts } = sides.merge(sides.base, sides.mine, sides.theirs);
    const mine = new Set(sides.differences(sides.base, sides.mine).map((d) => d.pointer));
    return sides.differences(sides.mine, sides.theirs).map((d) => {
      const both = conflicts.some((c) => c === d.pointer || c.startsWith(`${d.pointer}/`));
      return {
        pointer: d.pointer,
        subject: d.subject,
        mine: d.before,
        theirs: d.after,
        both,
        side: this.choices()[d.pointer] ?? (both || mine.has(d.pointer) ? 'mine' : 'theirs'),
      };
    });
  });

  start<D extends object>(
    what: string,
    sides: DocumentSides<D>,
    base: D,
    mine: D,
    theirs: D,
  ): void {
    const { differences, merge } = sides as unknown as DocumentSides<object>;
    this.sides.set({ what, differences, merge, base, mine, theirs });
  }

  protected choose(pointer: string, side: Side): void {
    this.choices.update((all) => ({ ...all, [pointer]: side }));
  }

  protected keep(side: Side): void {
    this.dialog.close(this.sides()?.[side]);
  }

  protected merge(): void {
    const sides = this.sides();
    if (!sides) return;
    const { base, mine, theirs } = sides;
    // A row may stand for a whole field: it decides for all that is in it.
    const chosen = (pointer: string): Side | undefined =>
      this.choices()[pointer] ?? this.choices()[`/${pointer.split('/')[1] ?? ''}`];
    let { merged } = sides.merge(base, mine, theirs, (pointer) => chosen(pointer) ?? 'mine');
    // Against nothing every difference is decided: so what was chosen is laid over what comes by itself.
    for (const side of this.order) {
      ({ merged } = sides.merge(null, merged, sides[side], (pointer) =>
        chosen(pointer) === side ? 'theirs' : 'mine',
      ));
    }
    this.dialog.close(merged);
  }
}
