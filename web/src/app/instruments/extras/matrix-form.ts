import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import {
  type Matrix,
  portNames,
  withMatrix,
  withMatrixEnd,
  withMatrixSaid,
  withoutMatrix,
} from '@hurrel/core';
import { NumberField } from '../../ui/number-field';
import { ToastService } from '../../ui/toasts';
import { InstrumentDesk } from '../instrument-desk';

type Side = 'sources' | 'destinations';
import { PickOnce } from '../../ui/pick-once';

/** A matrix of an instrument: how many rows, between what and what, and how their depth is shown. */
@Component({
  selector: 'hur-matrix-form',
  imports: [NumberField, PickOnce],
  templateUrl: './matrix-form.html',
  styleUrl: './form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MatrixForm {
  private readonly desk = inject(InstrumentDesk);
  private readonly toasts = inject(ToastService);
  protected readonly matrix = computed(() => this.desk.instrument()?.matrix);
  protected readonly sides = computed(() => {
    const [instrument, matrix] = [this.desk.instrument(), this.matrix()];
    if (!instrument || !matrix) return [];
    const side = (id: Side, says: string, ports: 'inputs' | 'outputs') => ({
      ...{ id, says, ends: matrix[id] },
      others: portNames(instrument, ports).filter(
        (p) => !matrix[id].some((end) => end.port === p.port),
      ),
    });
    return [
      side('sources', 'Rows begin at', 'outputs'),
      side('destinations', 'Rows end at', 'inputs'),
    ];
  });

  protected begin(): void {
    this.desk.attempt(withMatrix);
  }

  protected drop(): void {
    this.desk.edit(withoutMatrix);
  }

  protected say(said: Partial<Matrix>): void {
    this.desk.edit((i) => withMatrixSaid(i, said));
  }

  protected end(side: Side, port: string): void {
    if (port === '') return;
    const before = this.matrix()?.[side].length;
    this.desk.edit((i) => withMatrixEnd(i, side, port));
    if (this.matrix()?.[side].length === before)
      this.toasts.show('A matrix joins something with something: the last one stays.');
  }

  protected rename(side: Side, id: string, name: string): void {
    const matrix = this.matrix();
    if (!matrix || name.trim() === '') return;
    const ends = (matrix[side] as { id: string; name: string }[]).map((end) =>
      end.id === id ? { ...end, name: name.trim() } : end,
    );
    this.say({ [side]: ends });
  }

  protected setFull(id: string, full: number): void {
    const destinations = this.matrix()?.destinations.map((d) => (d.id === id ? { ...d, full } : d));
    if (destinations) this.say({ destinations });
  }

  protected setRoute(text: string): void {
    const route = text
      .split('>')
      .map((press) => press.trim())
      .filter((press) => press !== '')
      .slice(0, 12);
    this.say({ route });
  }
}
