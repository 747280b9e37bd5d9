import type { Row } from './rows';

/** Text of a row where it stands, from the row's own upper left corner; `width` where it is broken into lines. */
export interface Item {
  font: 'text' | 'bold' | 'mono-bold' | 'italic';
  size: number;
  text: string;
  x: number;
  y: number;
  width: number;
}

/** What is needed of a document: how wide and how high words become. */
export interface Measure {
  width(font: Item['font'], size: number, text: string): number;
  height(font: Item['font'], size: number, text: string, width: number): number;
}

/** In letters of a row: its box, where readings begin if names leave room, and between what stands side by side. */
const BOX = 1.6;
const TAB = 8.4;
const BETWEEN = 0.6;
/** A note beside a reading is at least so many letters wide, else it goes beneath. */
const NARROWEST = 11;
const NOTE = 0.88;

/**
 * A row of a list in a column: its name, its reading beside it, its note beside both or beneath. Nothing is cut, and
 * nothing lies on anything else: what does not fit beside goes to the next line.
 * @param size of its letters, and `width` of the column, in points
 */
export function layRow(
  of: Measure,
  row: Row,
  size: number,
  width: number,
): { height: number; items: Item[] } {
  const section = row.kind === 'section';
  const name = section || row.kind === 'listen' ? ('bold' as const) : ('text' as const);
  const left = section ? 0 : BOX * size;
  const items: Item[] = [];
  let y = section ? size * 0.3 : 0;
  let line = size * 1.2;
  // Where the next thing on this line may begin.
  let x = left;
  const put = (font: Item['font'], letters: number, text: string, at: number, wide: number) => {
    items.push({ font, size: letters, text, x: at, y, width: wide });
    return of.height(font, letters, text, wide);
  };
  const named = of.width(name, size, row.left) + 1;
  const broken = named > width - left;
  line = Math.max(line, put(name, size, row.left, left, broken ? width - left : named));
  x += broken ? width : named + BETWEEN * size;
  if (row.right) {
    const wide = of.width('mono-bold', size, row.right) + 1;
    x = Math.max(x, TAB * size);
    if (x + wide > width) {
      y += line;
      x = left;
      line = size * 1.2;
    }
    const room = Math.min(wide, width - x);
    line = Math.max(line, put('mono-bold', size, row.right, x, room));
    x += room + BETWEEN * size;
  }
  if (row.note) {
    const beneath = section || width - x < NARROWEST * size;
    if (beneath) {
      y += line;
      x = left;
      line = 0;
    }
    line = Math.max(line, put('italic', size * NOTE, row.note, x, width - x));
  }
  return { height: y + line + size * (section ? 0.2 : 0.25), items };
}
