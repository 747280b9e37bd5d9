import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { millimetresAUnit, withMillimetres } from '@hurrel/core';
import { NumberField } from '../../ui/number-field';
import { InstrumentDesk } from '../instrument-desk';
import { PhotographDesk } from './photograph-desk';

/** The real panel beside the drawn one: its size, and a photograph beneath. */
@Component({
  selector: 'hur-photograph-tools',
  imports: [NumberField],
  templateUrl: './photograph-tools.html',
  styleUrl: './photograph-tools.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PhotographTools {
  private readonly desk = inject(InstrumentDesk);
  protected readonly photo = inject(PhotographDesk);
  protected readonly sides = [
    { id: 'width', says: 'Wide' },
    { id: 'height', says: 'High' },
  ] as const;
  protected readonly real = computed(() => this.desk.whole()?.panel.millimetres ?? null);
  /** What the sheet would be, where nothing is said of it: as wide as most, as high as it is drawn. */
  protected readonly guess = computed(() => {
    const panel = this.desk.whole()?.panel;
    return panel ? { width: 400, height: Math.round((400 * panel.height) / panel.width) } : null;
  });
  protected readonly unit = computed(() => {
    const instrument = this.desk.whole();
    const size = instrument && millimetresAUnit(instrument);
    return typeof size !== 'number' ? '' : `a unit is ${size.toFixed(2)} mm`;
  });

  protected take(field: HTMLInputElement): void {
    const file = field.files?.[0];
    field.value = '';
    if (file && !this.photo.busy()) void this.photo.choose(file);
  }

  protected know(known: boolean): void {
    const guess = this.guess();
    this.desk.editWhole((i) => withMillimetres(i, known ? guess : null));
  }

  protected setReal(side: 'width' | 'height', to: number): void {
    const real = this.real();
    if (real) this.desk.editWhole((i) => withMillimetres(i, { ...real, [side]: to }));
  }
}
