import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap';
import { diffPatches, type Instrument, mergePatches, type Patch, type Side } from '@hurrel/core';

interface Sides {
  instrument: Instrument;
  base: Patch;
  mine: Patch;
  theirs: Patch;
}

/** Two people, or two windows, changed the same patch: keep mine, take theirs, or merge control by control. */
@Component({
  selector: 'hur-conflict-dialog',
  templateUrl: './conflict-dialog.html',
  styleUrl: './conflict-dialog.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ConflictDialog {
  protected readonly dialog = inject(NgbActiveModal);
  protected readonly order: Side[] = ['mine', 'theirs'];
  private readonly sides = signal<Sides | null>(null);
  protected readonly choices = signal<Record<string, Side>>({});

  /** Every difference between the two, with whose change it is. */
  protected readonly rows = computed(() => {
    const sides = this.sides();
    if (!sides) return [];
    const { conflicts } = mergePatches(sides.base, sides.mine, sides.theirs);
    const changed = (after: Patch): Set<string> =>
      new Set(diffPatches(sides.instrument, sides.base, after).map((d) => d.pointer));
    const mine = changed(sides.mine);
    return diffPatches(sides.instrument, sides.mine, sides.theirs).map((d) => ({
      pointer: d.pointer,
      subject: d.subject,
      mine: d.before,
      theirs: d.after,
      both: conflicts.includes(d.pointer),
      side:
        this.choices()[d.pointer] ??
        (conflicts.includes(d.pointer) || mine.has(d.pointer) ? 'mine' : 'theirs'),
    }));
  });

  start(instrument: Instrument, base: Patch, mine: Patch, theirs: Patch): void {
    this.sides.set({ instrument, base, mine, theirs });
  }

  protected choose(pointer: string, side: Side): void {
    this.choices.update((all) => ({ ...all, [pointer]: side }));
  }

  protected keep(side: Side): void {
    this.dialog.close(this.sides()![side]);
  }

  protected merge(): void {
    const { mine, theirs } = this.sides()!;
    const sides = new Map(this.rows().map((r) => [r.pointer, r.side]));
    // Against an empty base every difference is decided by the row that stands for it.
    const { merged } = mergePatches(
      NOTHING,
      mine,
      theirs,
      (pointer) => sides.get(pointer) ?? 'mine',
    );
    this.dialog.close(merged);
  }
}

const NOTHING = { settings: {}, notes: {} } as unknown as Patch;
