import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { freeRow, type MatrixRow, withRow } from '@hurrel/core';
import { PatchActions } from '../patch/patch.actions';
import { ToastService } from '../ui/toasts';
import { ChartDesk } from './chart-desk';
import type { Picking } from './matrix-rows';

/** Rows of the matrix at the panel: shown where they begin and end, and picked by touching both. */
@Injectable()
export class MatrixPicking {
  private readonly store = inject(Store);
  private readonly toasts = inject(ToastService);
  private readonly desk = inject(ChartDesk);
  /** The row that is being made. */
  readonly picking = signal<Picking | null>(null);

  /** Rows of the matrix at the controls where they begin and end. */
  readonly ends = computed(() => {
    const [matrix, rows] = [this.desk.instrument()?.matrix, this.desk.patch()?.matrix ?? []];
    const told = new Map<string, string>();
    const add = (control: string | undefined, text: string): void => {
      if (control) told.set(control, [told.get(control), text].filter(Boolean).join(' '));
    };
    for (const row of rows) {
      if (!matrix || row.depth === 0) continue;
      add(matrix.sources.find((s) => s.id === row.source)?.control, `${row.row + 1}→`);
      add(matrix.destinations.find((d) => d.id === row.destination)?.control, `→${row.row + 1}`);
    }
    return told;
  });

  setRows(matrix: MatrixRow[]): void {
    this.store.dispatch(PatchActions.panel({ changes: { matrix } }));
  }

  /** A touched control as the source or the goal of the matrix row that is being made. */
  pick(id: string): void {
    const [matrix, picking, rows] = [
      this.desk.instrument()?.matrix,
      this.picking(),
      this.desk.patch()?.matrix ?? [],
    ];
    if (!matrix || !picking) return;
    if (picking.wants === 'source') {
      const source = matrix.sources.find(
        (s) => s.control === id || this.sharesSection(s.control, id),
      );
      if (source) this.picking.set({ wants: 'destination', source: source.id });
      else this.toasts.show('That is no source of the matrix: move an envelope, LFO or wheel.');
      return;
    }
    const destination = matrix.destinations.find((d) => d.control === id);
    const row = freeRow(matrix, rows);
    if (!destination || row === undefined) {
      return this.toasts.show('The matrix does not reach that control.');
    }
    this.picking.set(null);
    const depth = matrix.depth.step / matrix.depth.most;
    this.setRows(
      withRow(rows, { row, source: picking.source, destination: destination.id, depth }),
    );
  }

  /** Any control of an envelope or LFO names it, as long as the section holds one source only. */
  private sharesSection(control: string | undefined, id: string): boolean {
    const section = (c: string | undefined): string | undefined =>
      this.desk.find(c ?? null)?.section;
    return section(control) !== undefined && section(control) === section(id);
  }
}
