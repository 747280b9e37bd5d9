import type { Setting } from '../reading/setting';
import type { Control, SwitchedControl, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/schema';

/** A rectangle in panel units. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

export const CELL_HEIGHT = 18;
/** From this width on, a toggle lies on its side. */
const LYING = 64;

export const liesDown = (control: SwitchedControl): boolean =>
  control.kind === 'toggle' && control.place.size >= LYING;

/** Cells of a switch, one a position, in order. */
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
  return control.positions.map((_, i) => ({
    x: x - size / 2,
    y: y + (i - n / 2) * CELL_HEIGHT,
    width: size,
    height: CELL_HEIGHT,
  }));
}

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
    const bottom = cells.at(-1)!.y + CELL_HEIGHT;
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
