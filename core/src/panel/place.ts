import type { Setting } from '../reading/setting';
import type { Control, SwitchedControl, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';

/** A rectangle in panel units. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

export const CELL_HEIGHT = 18;
/** Positions that stand in one column; more stand in columns of about so many. */
const MOST_IN_A_COLUMN = 12;
const COLUMN = 8;
/** From this width on, a toggle lies on its side. */
const LYING = 64;

export const liesDown = (control: SwitchedControl): boolean =>
  control.kind === 'toggle' && control.place.size >= LYING;

/** Cells of a switch, one a position, in order: side by side, in a column, or in several. */
export function switchCells(control: SwitchedControl): Box[] {
  const { x, y, size } = control.place;
  const n = control.positions.length;
  if (liesDown(control)) {
    return control.positions.map((_, i) => ({
      x: x - size / 2 + (i * size) / n,
      y: y - CELL_HEIGHT / 2,
      width: size / n,
      height: CELL_HEIGHT,
    }));
  }
  const columns = n <= MOST_IN_A_COLUMN ? 1 : Math.ceil(n / COLUMN);
  const rows = Math.ceil(n / columns);
  return control.positions.map((_, i) => ({
    x: x - size / 2 + (Math.floor(i / rows) * size) / columns,
    y: y + ((i % rows) - rows / 2) * CELL_HEIGHT,
    width: size / columns,
    height: CELL_HEIGHT,
  }));
}

/** Where the cells of a switch end, downwards. */
export const cellsBottom = (cells: readonly Box[]): number =>
  Math.max(...cells.map((c) => c.y + c.height));

const TURNING = new Set(['knob', 'encoder', 'menu']);
export const turns = (control: Control): boolean => TURNING.has(control.kind);

/** What a control covers on the panel: its reading, its name, and below it what the ear listens for. */
export function controlBox(control: Control, setting?: Setting): Box {
  const box = bareBox(control);
  return setting?.kind === 'ear' ? { ...box, height: box.height + 12 } : box;
}

function bareBox(control: Control): Box {
  const { x, y, size } = control.place;
  if (isSwitched(control)) {
    const cells = switchCells(control);
    const top = cells[0]!.y;
    const bottom = cellsBottom(cells);
    return { x: x - size / 2 - 4, y: top - 5, width: size + 8, height: bottom - top + 25 };
  }
  if (turns(control)) {
    const half = Math.max(size / 2 + 9, 24);
    return { x: x - half, y: y - size / 2 - 8, width: 2 * half, height: size + 29 };
  }
  return { x: x - 22, y: y - size / 2 - 22, width: 44, height: size + 46 };
}

/** The value a pointer at (x, y) picks on a switch or a straight travel; undefined beside a switch's cells. */
export function valueAt(control: Control, x: number, y: number): Value | undefined {
  if (isSwitched(control)) {
    const hit = switchCells(control).findIndex(
      (c) => x >= c.x && x <= c.x + c.width && y >= c.y && y <= c.y + c.height,
    );
    return control.positions[hit]?.id;
  }
  const bottom = control.place.y + control.place.size / 2;
  return Math.min(1, Math.max(0, (bottom - y) / control.place.size));
}
