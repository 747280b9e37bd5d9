import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { type Evening, type EveningPlan, formatDuration } from '@hurrel/core';

interface Cell {
  at: number;
  song: string;
  says: string;
  /** Load against the length of the break, 0 to 1; over it stands `over`. */
  share: number;
  over: boolean;
  seconds: number;
  /** Something is moved while the song before is played. */
  during: boolean;
}

/** The evening as it falls on each person: break after break, what they have to do against the time there is. */
@Component({
  selector: 'hur-load-grid',
  template: `
    <table>
      <caption class="visually-hidden">
        Each person’s work in each break
      </caption>
      <thead>
        <tr>
          <th scope="col"><span class="visually-hidden">Person</span></th>
          @for (song of evening().songs; track song.id; let i = $index) {
            <th scope="col" class="mono" [class.chosen]="i === chosen()">{{ i + 1 }}</th>
          }
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.id) {
          <tr>
            <th scope="row">{{ row.name }}</th>
            @for (cell of row.cells; track cell.at) {
              <td [class.chosen]="cell.at === chosen()">
                @if (cell.seconds > 0 || cell.during) {
                  <button
                    type="button"
                    [class.over]="cell.over"
                    [attr.aria-label]="row.name + ', ' + cell.says"
                    [title]="cell.says"
                    (click)="picked.emit(cell.at)"
                  >
                    <span class="bar" [style.height.%]="100 * cell.share"></span>
                    @if (cell.during) {
                      <span class="during" aria-hidden="true"></span>
                    }
                  </button>
                }
              </td>
            }
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    :host {
      display: block;
      overflow-x: auto;
    }
    table {
      width: 100%;
      border-collapse: collapse;
    }
    th {
      color: var(--ink-2);
      font-weight: 500;
      font-size: 14px;
    }
    th[scope='row'] {
      width: 92px;
      padding-right: 8px;
      white-space: nowrap;
    }
    thead th {
      text-align: center;
    }
    td {
      height: 34px;
      padding: 0 2px;
      border-bottom: 1px solid var(--rule);
      vertical-align: bottom;
    }
    .chosen {
      background: var(--accent-wash);
    }
    button {
      position: relative;
      display: flex;
      align-items: flex-end;
      width: 100%;
      min-width: 24px;
      height: 32px;
      padding: 0;
      border: 0;
      background: none;
    }
    .bar {
      display: block;
      width: 100%;
      min-height: 3px;
      background: var(--accent);
    }
    .over .bar {
      background: var(--bad);
    }
    .during {
      position: absolute;
      top: 2px;
      left: 0;
      width: 100%;
      border-top: 3px dotted var(--near);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LoadGrid {
  readonly evening = input.required<Evening>();
  readonly plan = input.required<EveningPlan>();
  readonly chosen = input(0);
  readonly picked = output<number>();

  protected readonly rows = computed(() => {
    const { people, songs } = this.evening();
    const all = people.length > 0 ? people : [{ id: '', name: 'hands' }];
    return all.map(({ id, name }) => ({
      id,
      name,
      cells: this.plan().breaks.map((one, at): Cell => {
        const seconds = one.loads[id] ?? 0;
        const over = seconds > one.length + 1e-9 && !songs[at]?.wished;
        const during = one.during
          .filter((p) => p.person === id)
          .reduce((sum, p) => sum + p.seconds, 0);
        const while_ = during > 0 ? `, ${formatDuration(during)} in the song before` : '';
        return {
          at,
          song: songs[at]?.name ?? '',
          says: `before ${songs[at]?.name ?? ''}: ${formatDuration(seconds)} of ${formatDuration(one.length)}${while_}`,
          share: one.length === 0 ? (seconds > 0 ? 1 : 0) : Math.min(1, seconds / one.length),
          over,
          seconds,
          during: during > 0,
        };
      }),
    }));
  });
}
