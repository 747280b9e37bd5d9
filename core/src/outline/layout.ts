import type { Jack } from '../instrument/jack';
import type { Control, Section } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { type Box, CELL_HEIGHT, controlBox } from '../panel/place';

/** Room between things, and at a section's top for its name. */
const GAP = 8;
const HEAD = 26;
/** A letter of a name or of a switch's word, in panel units. */
const LETTER = 6.3;
const JACK = 18;
/** Width over height that a panel comes near to. */
const PANEL_SHAPE = 1.7;
const SECTION_SHAPE = 1.5;

/** How much larger than it need be a sheet may become before its rows are broken otherwise than they were. */
const STAYS = 1.25;

export interface LaidSection {
  section: Section;
  controls: Control[];
  jacks: Jack[];
  /** Width that the section had before. */
  before?: number | undefined;
}

/** Something to be placed, by the middle of what it covers. */
interface Cell {
  width: number;
  height: number;
  /** @param height of the row it stands in */
  put(x: number, y: number, height: number): void;
}

/**
 * Lays sections and what is in them out in rows, in the order in which they come: nothing covers anything else, and nothing
 * leaves its section or the panel. Changes the places of what it is given. Rows stay as wide as they were while that is
 * nearly as good: a panel that is typed on does not jump about.
 * @param before width of the panel as it was
 * @returns width and height of the panel
 */
export function layOut(
  sections: readonly LaidSection[],
  before?: number,
): { width: number; height: number } {
  const cells = sections.map(({ section, controls, jacks, before: was }): Cell => {
    fill(section, controls, jacks, was);
    return {
      width: section.width,
      height: section.height,
      put: (x, y, height) => {
        section.height = height;
        move(section, controls, jacks, x - section.width / 2, y - height / 2);
      },
    };
  });
  const { width, height } = inRows(cells, PANEL_SHAPE, GAP, GAP, 0, before);
  for (const { section, controls, jacks } of sections) round(section, controls, jacks);
  return { width: Math.ceil(width), height: Math.ceil(height) };
}

/** Size of a control of its kind. */
export function sizeOf(control: Control): number {
  if (!isSwitched(control)) {
    if (control.kind === 'slider' || control.kind === 'wheel' || control.kind === 'pedal')
      return 92;
    return control.where ? 40 : 52;
  }
  const longest = Math.max(...control.positions.map((p) => p.name.length));
  const word = Math.max(28, longest * LETTER + (control.kind === 'button' ? 24 : 10));
  const lying = word * control.positions.length;
  return control.kind === 'toggle' && lying <= 150 ? Math.max(64, lying) : Math.min(word, 300);
}

function fill(
  section: Section,
  controls: readonly Control[],
  jacks: readonly Jack[],
  before: number | undefined,
): void {
  const cells = controls.map((control): Cell => {
    control.place = { x: 0, y: 0, size: sizeOf(control) };
    const box = controlBox(control);
    const width = Math.max(box.width, control.name.length * LETTER + 6);
    return {
      width,
      // Whatever is listened for is written under the name.
      height: box.height + 12,
      put: (x, y) => {
        control.place.x = x;
        control.place.y = y - (box.y + box.height / 2) - 6;
      },
    };
  });
  const sockets = jacks.map((jack): Cell => {
    jack.place = { x: 0, y: 0, size: JACK };
    return {
      width: Math.max(48, jack.name.length * LETTER + 8),
      height: JACK + 34,
      put: (x, y) => {
        jack.place.x = x;
        jack.place.y = y - 5;
      },
    };
  });
  const upper = inRows(cells, SECTION_SHAPE, GAP, HEAD, 0, before);
  const lower = inRows(sockets, 6, GAP, upper.height, upper.width);
  const name = (section.name.length + 4) * 8 + 2 * GAP;
  section.x = section.y = 0;
  section.width = Math.max(upper.width, lower.width, name, 64);
  section.height = Math.max(
    sockets.length > 0 ? lower.height : upper.height,
    HEAD + CELL_HEIGHT + 2 * GAP,
  );
}

/** Puts cells into rows, each as high as its highest, whose whole comes nearest to the shape that is wanted. */
function inRows(
  cells: readonly Cell[],
  shape: number,
  left: number,
  top: number,
  least = 0,
  before?: number,
): { width: number; height: number } {
  if (cells.length === 0) return { width: Math.max(least, 2 * left), height: top };
  const widest = Math.max(least - 2 * left, ...cells.map((c) => c.width));
  const rows = bestRows(cells, shape, widest, before && before - 2 * left);
  let y = top;
  let width = 0;
  for (const row of rows) {
    const height = Math.max(...row.map((c) => c.height));
    let x = left;
    for (const cell of row) {
      cell.put(x + cell.width / 2, y + height / 2, height);
      x += cell.width + GAP;
    }
    width = Math.max(width, x - GAP + left);
    y += height + GAP;
  }
  return { width, height: y };
}

/** The rows that can be drawn largest on a sheet of a shape: every width at which a row could end is tried. */
function bestRows(
  cells: readonly Cell[],
  shape: number,
  widest: number,
  before: number | undefined,
): Cell[][] {
  const sizeOf = (rows: readonly Cell[][]): number => {
    const height = rows.reduce((sum, row) => sum + Math.max(...row.map((c) => c.height)) + GAP, 0);
    return Math.max(Math.max(...rows.map(rowWidth)) / shape, height);
  };
  let best: Cell[][] = [];
  let smallest = Infinity;
  for (let first = 1; first <= cells.length; first++) {
    const wanted = Math.max(widest, rowWidth(cells.slice(0, first)));
    const rows = rowsWithin(cells, wanted);
    const size = sizeOf(rows);
    if (size < smallest) [best, smallest] = [rows, size];
    if (rows.length === 1) break;
  }
  if (before === undefined) return best;
  const same = rowsWithin(cells, Math.max(widest, before));
  return sizeOf(same) <= STAYS * smallest ? same : best;
}

const rowWidth = (row: readonly Cell[]): number =>
  row.reduce((sum, cell) => sum + cell.width + GAP, -GAP);

function rowsWithin(cells: readonly Cell[], width: number): Cell[][] {
  const rows: Cell[][] = [];
  let used = Infinity;
  for (const cell of cells) {
    if (used + cell.width > width) {
      rows.push([]);
      used = 0;
    }
    rows.at(-1)!.push(cell);
    used += cell.width + GAP;
  }
  return rows;
}

function move(
  section: Section,
  controls: readonly Control[],
  jacks: readonly Jack[],
  dx: number,
  dy: number,
): void {
  section.x += dx;
  section.y += dy;
  for (const { place } of [...controls, ...jacks]) {
    place.x += dx;
    place.y += dy;
  }
}

/** To half units: files stay readable, and nothing moves out of its section. */
function round(section: Section, controls: readonly Control[], jacks: readonly Jack[]): void {
  section.x = Math.floor(section.x);
  section.y = Math.floor(section.y);
  section.width = Math.ceil(section.width);
  section.height = Math.ceil(section.height);
  for (const { place } of [...controls, ...jacks]) {
    place.x = Math.round(2 * place.x) / 2;
    place.y = Math.round(2 * place.y) / 2;
    place.size = Math.round(place.size);
  }
}

/** Whether two boxes share any room. */
export const overlap = (a: Box, b: Box): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
