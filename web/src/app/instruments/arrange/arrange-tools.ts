import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { boxOf, controlLabel, type Flush, type Thing } from '@hurrel/core';
import { NumberField } from '../../ui/number-field';
import { ArrangeDesk } from './arrange-desk';

/** Buttons that bring several things to one line. */
const LINES: { edge: Flush; icon: string; says: string }[] = [
  { edge: 'left', icon: 'align-start', says: 'Left edges in line' },
  { edge: 'centre', icon: 'align-center', says: 'Middles in one upright line' },
  { edge: 'right', icon: 'align-end', says: 'Right edges in line' },
  { edge: 'top', icon: 'align-top', says: 'Upper edges in line' },
  { edge: 'middle', icon: 'align-middle', says: 'Middles in one level line' },
  { edge: 'bottom', icon: 'align-bottom', says: 'Lower edges in line' },
];

/** Numbers and buttons for what is taken up on the sheet. */
@Component({
  selector: 'hur-arrange-tools',
  imports: [NumberField],
  templateUrl: './arrange-tools.html',
  styleUrl: './arrange-tools.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArrangeTools {
  protected readonly desk = inject(ArrangeDesk);
  protected readonly lines = LINES;
  protected readonly grids = [2, 4, 8, 16, 32];
  /** The one thing that is taken, with its numbers. */
  protected readonly one = computed(() => {
    const [instrument, things] = [this.desk.instrument(), this.desk.things()];
    const [thing] = things;
    if (!instrument || !thing || things.length > 1) return null;
    const box = boxOf(instrument, thing)!;
    const id = thing.slice(thing.indexOf(':') + 1);
    const section = instrument.sections.find((s) => `section:${s.id}` === thing);
    const placed = thing.startsWith('control')
      ? instrument.controls.find((c) => c.id === id)
      : instrument.jacks.find((j) => j.id === id);
    return {
      thing,
      box,
      name:
        section?.name ?? (placed && 'kind' in placed ? controlLabel(instrument, id) : placed?.name),
      section,
      size: section ? undefined : placed?.place.size,
    };
  });
  protected readonly lying = computed(() =>
    this.desk.covered().map(([a, b]) => `${this.nameOf(a)} and ${this.nameOf(b)}`),
  );

  private nameOf(thing: Thing): string {
    const instrument = this.desk.instrument()!;
    const id = thing.slice(thing.indexOf(':') + 1);
    if (thing.startsWith('control')) return controlLabel(instrument, id);
    const list: readonly { id: string; name: string }[] = thing.startsWith('jack')
      ? instrument.jacks
      : instrument.sections;
    return list.find((o) => o.id === id)?.name ?? id;
  }
}
