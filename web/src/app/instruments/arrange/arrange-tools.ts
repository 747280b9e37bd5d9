import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { boxOf, controlLabel, type Flush, MOST_CABINET_ROWS, type Thing } from '@hurrel/core';
import { NumberField } from '../../ui/number-field';
import { PhotographTools } from '../photograph/photograph-tools';
import { InstrumentDesk } from '../instrument-desk';
import { ArrangeDesk } from './arrange-desk';

/** A number of what is taken, and what is done with another one. */
interface Field {
  label: string;
  value: number;
  min: number;
  max: number;
  take(to: number): void;
}

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
  imports: [NumberField, PhotographTools],
  templateUrl: './arrange-tools.html',
  styleUrl: './arrange-tools.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArrangeTools {
  protected readonly desk = inject(ArrangeDesk);
  protected readonly focused = inject(InstrumentDesk).focused;
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
    const { desk } = this;
    const place = (label: string, axis: 'x' | 'y'): Field => ({
      ...{ label, value: box[axis], min: 0, max: 4000 },
      take: (to) => desk.moveTo(thing, axis, to),
    });
    const extent = (label: string, of: 'width' | 'height'): Field => ({
      ...{ label, value: box[of], min: 40, max: 4000 },
      take: (to) => desk.resize(thing, { [of]: to }),
    });
    const size: Field[] = placed
      ? [
          {
            ...{ label: 'Size', value: placed.place.size, min: 10, max: 300 },
            take: (to) => desk.resize(thing, { size: to }),
          },
        ]
      : [];
    return {
      name:
        section?.name ?? (placed && 'kind' in placed ? controlLabel(instrument, id) : placed?.name),
      fields: [
        place('From the left', 'x'),
        place('From above', 'y'),
        // A module of a cabinet is as large as its kind.
        ...(section && !this.desk.placed().some((p) => p.id === section.id)
          ? [extent('Width', 'width'), extent('Height', 'height')]
          : size),
      ],
    };
  });
  protected readonly acts = [
    {
      icon: 'distribute-horizontal',
      says: 'Space evenly across',
      least: 3,
      run: () => this.desk.spread('x'),
    },
    {
      icon: 'distribute-vertical',
      says: 'Space evenly down',
      least: 3,
      run: () => this.desk.spread('y'),
    },
    {
      icon: 'symmetry-vertical',
      says: 'Turn the row round',
      least: 2,
      run: () => this.desk.mirror('x'),
    },
    {
      icon: 'symmetry-horizontal',
      says: 'Turn the column round',
      least: 2,
      run: () => this.desk.mirror('y'),
    },
  ];
  protected readonly lying = computed(() =>
    this.desk.covered().map(([a, b]) => `${this.nameOf(a)} and ${this.nameOf(b)}`),
  );

  /** Numbers of a cabinet's rows, and of one more. */
  protected readonly rowsOf = (rows: number): number[] =>
    Array.from({ length: Math.min(MOST_CABINET_ROWS, rows + 1) }, (_, n) => n);

  protected point(): void {
    this.desk.putting.update((on) => !on);
    this.desk.waiting.set(null);
  }

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
