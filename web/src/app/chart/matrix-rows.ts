import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { depthText, freeRow, type Matrix, type MatrixRow, parseDepth, withRow } from '@hurrel/core';

/** What is picked on the panel next, while a row is made by moving its source and touching its destination. */
export type Picking = { wants: 'source' } | { wants: 'destination'; source: string };

/** The rows of an instrument's matrix: from lists, by typing, or picked on the panel. */
@Component({
  selector: 'hur-matrix-rows',
  template: `
    <h3>
      Matrix, {{ filled().length }} of {{ matrix().rows }} rows
      <button
        type="button"
        class="btn btn-plain"
        [attr.aria-pressed]="picking() !== null"
        [disabled]="free() === undefined"
        (click)="pickingChanged.emit(picking() ? null : { wants: 'source' })"
      >
        <i class="bi bi-hand-index" aria-hidden="true"></i>
        {{ picking() ? 'Cancel' : 'Pick on the panel' }}
      </button>
    </h3>
    @if (picking(); as p) {
      <p class="picking" role="status">
        {{
          p.wants === 'source'
            ? 'Move the control of the source: an envelope, an LFO, a wheel.'
            : sourceName(p.source) + ' it is. Now touch what it shall move.'
        }}
      </p>
    }
    @if (said()) {
      <p class="bad" role="alert">{{ said() }}</p>
    }
    @for (row of shown(); track row.row) {
      <div class="row" [attr.data-row]="row.row">
        <span class="mono number">{{ row.row + 1 }}</span>
        <select
          #sourceField
          class="form-select"
          [attr.aria-label]="'Source of row ' + (row.row + 1)"
          [disabled]="row.fixed"
          (change)="put(row, { source: sourceField.value })"
        >
          @for (group of sources(); track group.name) {
            <optgroup [label]="group.name">
              @for (s of group.items; track s.id) {
                <option [value]="s.id" [selected]="s.id === row.source">{{ s.name }}</option>
              }
            </optgroup>
          }
        </select>
        <input
          #depthField
          class="form-control mono"
          [attr.aria-label]="'Depth of row ' + (row.row + 1)"
          [value]="text(row.depth)"
          (change)="depth(row, depthField)"
          (keydown.arrowup)="nudge(row, 1, $event)"
          (keydown.arrowdown)="nudge(row, -1, $event)"
        />
        <select
          #destinationField
          class="form-select"
          [attr.aria-label]="'Destination of row ' + (row.row + 1)"
          [disabled]="row.fixed"
          (change)="put(row, { destination: destinationField.value })"
        >
          @for (d of matrix().destinations; track d.id) {
            <option [value]="d.id" [selected]="d.id === row.destination">{{ d.name }}</option>
          }
        </select>
        @if (!row.fixed) {
          <button
            type="button"
            class="btn btn-plain"
            [attr.aria-label]="'Empty row ' + (row.row + 1)"
            (click)="changed.emit(without(row.row))"
          >
            <i class="bi bi-x-lg" aria-hidden="true"></i>
          </button>
        }
      </div>
    }
    @if (free() !== undefined) {
      <button type="button" class="btn add" (click)="add()">
        <i class="bi bi-plus-lg" aria-hidden="true"></i> Row {{ free()! + 1 }}
      </button>
    }
    @if (matrix().route.length > 0) {
      <p class="quiet">Reached by {{ matrix().route.join(', ') }}.</p>
    }
  `,
  styles: `
    h3 {
      display: flex;
      align-items: center;
      justify-content: space-between;
      color: var(--ink-2);
      font-size: 13px;
    }
    .picking {
      margin: 0 0 6px;
      padding: 6px 8px;
      background: var(--accent-wash);
      font-size: 13.5px;
    }
    .bad {
      margin: 0 0 6px;
      color: var(--bad);
      font-size: 13px;
    }
    .row {
      display: grid;
      grid-template-columns: 18px 1fr 52px 1fr 26px;
      gap: 3px;
      align-items: center;
      margin: 0 0 3px;
    }
    .number {
      color: var(--ink-3);
      font-size: 13px;
    }
    .form-select,
    .form-control {
      min-width: 0;
      padding: 3px 5px;
      background-image: none;
      font-size: 13px;
    }
    .form-control {
      font-weight: 680;
      text-align: right;
    }
    .row .btn {
      --bs-btn-padding-x: 4px;
      --bs-btn-padding-y: 2px;
    }
    .add {
      margin-top: 3px;
      padding: 3px 8px;
      font-size: 13px;
    }
    p {
      margin: 4px 0 0;
      font-size: 13px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MatrixRows {
  readonly matrix = input.required<Matrix>();
  readonly rows = input.required<readonly MatrixRow[]>();
  readonly picking = input<Picking | null>(null);
  readonly changed = output<MatrixRow[]>();
  readonly pickingChanged = output<Picking | null>();

  protected readonly said = signal('');
  protected readonly filled = computed(() => this.rows().filter((r) => r.depth !== 0));
  protected readonly free = computed(() => freeRow(this.matrix(), this.rows()));
  /** Rows to be seen: wired ones always, the others as they are filled. */
  protected readonly shown = computed(() => {
    const fixed = this.matrix().fixed.map(({ source, destination }, row) => ({
      row,
      source,
      destination,
      depth: this.rows().find((r) => r.row === row)?.depth ?? 0,
      fixed: true,
    }));
    const others = this.rows()
      .filter((r) => r.row >= fixed.length)
      .map((r) => ({ ...r, fixed: false }));
    return [...fixed, ...others];
  });
  protected readonly sources = computed(() => {
    const { sources } = this.matrix();
    return [
      { name: 'always on', items: sources.filter((s) => !s.performance) },
      { name: 'moved by the player', items: sources.filter((s) => s.performance) },
    ].filter((group) => group.items.length > 0);
  });

  protected text(depth: number): string {
    return depthText(this.matrix(), depth);
  }

  protected sourceName(id: string): string {
    return this.matrix().sources.find((s) => s.id === id)?.name ?? id;
  }

  protected without(row: number): MatrixRow[] {
    return withRow(this.rows(), row);
  }

  protected put({ row, source, destination, depth }: MatrixRow, change: Partial<MatrixRow>): void {
    this.said.set('');
    this.changed.emit(withRow(this.rows(), { row, source, destination, depth, ...change }));
  }

  protected depth(row: MatrixRow, field: HTMLInputElement): void {
    const depth = parseDepth(this.matrix(), field.value);
    if (depth === undefined) {
      const { most, unit } = this.matrix().depth;
      this.said.set(`A depth is a number from -${most} to ${most}${unit ? ` ${unit}` : ''}.`);
      field.value = this.text(row.depth);
      return;
    }
    this.put(row, { depth });
  }

  protected nudge(row: MatrixRow, by: number, event: Event): void {
    event.preventDefault();
    const { most, step } = this.matrix().depth;
    const depth = Math.max(-1, Math.min(1, row.depth + (by * step) / most));
    this.put(row, { depth: Math.round((depth * most) / step) * (step / most) });
  }

  protected add(): void {
    const { sources, destinations } = this.matrix();
    this.put(
      { row: this.free()!, source: sources[0]!.id, destination: destinations[0]!.id, depth: 0 },
      {},
    );
  }
}
