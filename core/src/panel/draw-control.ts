import type { Setting } from '../reading/setting';
import type { ContinuousControl, Control, SwitchedControl } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { formatValue, soundingValue } from '../reading/format';
import { positionToAngle } from '../reading/dial';
import { CELL_HEIGHT, cellsBottom, liesDown, switchCells, turns } from './place';
import {
  arc,
  box,
  circle,
  line,
  point,
  type Shape,
  spoke,
  type Lettering,
  type Pen,
} from './shape';
import { boldWidth, lettersIn, wordWidth } from './word-width';

/** Size of a name's letters where its neighbours leave it no more, in panel units. */
export const SMALLEST_NAME = 11.5;

/**
 * Draws a control as it is recorded: kinds of setting differ by shape, not by colour alone.
 * @param nameSize of the letters of its name, see `nameSizes`
 */
export function drawControl(
  control: Control,
  setting: Setting | undefined,
  nameSize = SMALLEST_NAME,
): Shape[] {
  const shapes = isSwitched(control)
    ? drawSwitch(control, setting)
    : turns(control)
      ? drawDial(control, setting)
      : drawTravel(control, setting);
  if (nameSize === SMALLEST_NAME) return shapes;
  // The star of what does not matter has its room where names keep apart.
  return shapes.map((s) =>
    s.kind === 'text' && s.lettering === 'name' ? { ...s, size: nameSize } : s,
  );
}

type Text = Extract<Shape, { kind: 'text' }>;

const path = (pen: Pen, d: string): Shape => ({ kind: 'path', pen, d });
const text = (lettering: Lettering, x: number, y: number, size: number, words: string): Text => ({
  kind: 'text',
  lettering,
  x,
  y,
  size,
  text: words,
});

/** Units by which a reading may be wider than its dial; what there is above a slider. */
const BESIDE = 4;
const BESIDE_SLIDER = 44;

const scalePen = (setting: Setting | undefined): Pen =>
  !setting ? 'scale-empty' : setting.kind === 'any' ? 'scale-any' : 'scale';

/** What stands on the face: short, without the unit that the scale shares. */
export function faceReading(control: Control, setting: Setting | undefined): string {
  if (!setting) return '–';
  if (setting.kind === 'any') return 'any';
  return formatValue(control, soundingValue(control, setting)).replace(/ (st|cents|x)$/, '');
}

/** Size of a reading's letters, in panel units: as large as its room allows, so that it is read from a metre. */
const LARGEST_READING = 17;
const SMALLEST_READING = 10.5;
/** Width of a letter over its size. */
const LETTER = 0.6;

const readingSize = (words: string, room: number): number =>
  Math.max(SMALLEST_READING, Math.min(LARGEST_READING, room / (LETTER * words.length)));

/** A reading whose letters are as large as they can be in so much room; its middle is at y. */
function reading(
  control: Control,
  setting: Setting | undefined,
  x: number,
  y: number,
  room: number,
  words = faceReading(control, setting),
): Text {
  const said = setting !== undefined && setting.kind !== 'any';
  const size = said ? readingSize(words, room) : 13;
  const rounded = Math.floor(10 * size) / 10;
  return text(said ? 'reading' : 'reading-faint', x, y + 0.35 * rounded, rounded, words);
}

/** How far out a mark begins: at `from`, unless it would stand in a reading there and look like one of its signs. */
function besideReading(said: Text, from: number, degrees: number): number {
  const turned = (degrees * Math.PI) / 180;
  if (Math.abs(from * Math.cos(turned)) > 0.45 * said.size) return from;
  const half = (LETTER * said.size * said.text.length) / 2;
  return Math.max(from, (half + 3.5) / Math.abs(Math.sin(turned)));
}

const clip = (words: string, most: number): string =>
  words.length > most ? `${words.slice(0, most - 1).trimEnd()}…` : words;

/** Name under a control, and under it what the ear listens for. */
function lettering(control: Control, setting: Setting | undefined, x: number, y: number): Shape[] {
  const shapes = [text('name', x, y, SMALLEST_NAME, control.name)];
  if (setting?.kind === 'ear')
    shapes.push(
      text(
        'target',
        x,
        y + 11.5,
        10,
        clip(setting.target, Math.max(10, Math.floor((control.place.size + 34) / 5))),
      ),
    );
  return shapes;
}

function drawDial(control: ContinuousControl, setting: Setting | undefined): Shape[] {
  const { x, y, size } = control.place;
  const r = size / 2;
  // On a small dial the mark must leave the reading its room.
  const inner = size < 50 ? 2.5 : 5;
  const half = control.sweep / 2;
  const angle = (p: number): number => positionToAngle(p, control.sweep);
  const shapes: Shape[] = [path(scalePen(setting), arc(x, y, r, -half, half))];
  if (setting && setting.kind !== 'any') {
    const marks = control.scale?.marks.map((m) => m.at) ?? [0, 0.5, 1];
    for (const at of marks) shapes.push(path('tick', spoke(x, y, r + 1, r + 4, angle(at))));
  }
  // On a small dial the number stands alone; its unit is what the display says, and the inspector.
  const words = faceReading(control, setting);
  const parted = control.scale?.writtenIn !== undefined;
  const shown = size < 50 && !parted ? words.replace(/ (s|Hz|%|dB|V)$/, '') : words;
  const said = reading(control, setting, x, y, size + BESIDE, shown);
  if (setting?.kind === 'set') {
    const at = angle(Number(setting.value));
    const begins = besideReading(said, r - inner, at);
    // A bar beside a number would be its minus: there it is a point.
    const d =
      begins > r - inner ? point(x, y, begins + 2, begins + 8, at) : spoke(x, y, begins, r + 6, at);
    shapes.push(path('mark', d));
  }
  if (setting?.kind === 'range') {
    shapes.push(path('band', arc(x, y, r, angle(setting.from), angle(setting.to))));
    for (const end of [setting.from, setting.to]) {
      shapes.push(path('band-end', spoke(x, y, r - 5, r + 6, angle(end))));
    }
    shapes.push(path('guess', spoke(x, y, r - 9, r + 2, angle(setting.best))));
  }
  if (setting?.kind === 'ear') {
    shapes.push(path('guess', spoke(x, y, r - 3, r + 2, angle(Number(setting.near)))));
    const a = (angle(Number(setting.near)) * Math.PI) / 180;
    shapes.push(path('ear', circle(x + (r + 5.5) * Math.sin(a), y - (r + 5.5) * Math.cos(a), 4)));
  }
  shapes.push(said);
  shapes.push(...lettering(control, setting, x, y + r + 15));
  return shapes;
}

function drawTravel(control: ContinuousControl, setting: Setting | undefined): Shape[] {
  const { x, y, size } = control.place;
  const top = y - size / 2;
  const bottom = y + size / 2;
  const at = (p: number): number => bottom - p * size;
  const shapes: Shape[] = [];
  if (control.kind === 'wheel') shapes.push(path('body', box(x - 9, top - 4, 18, size + 8)));
  if (control.kind === 'pedal') {
    shapes.push(path('body', `M${x - 7} ${top - 4}h14l4 ${size + 8}h-22Z`));
  }
  shapes.push(path(scalePen(setting), line(x, top, x, bottom)));
  if (setting && setting.kind !== 'any') {
    const marks = control.scale?.marks.map((m) => m.at) ?? [0, 0.5, 1];
    for (const p of marks) shapes.push(path('tick', line(x - 7, at(p), x - 3, at(p))));
  }
  if (setting?.kind === 'set') {
    const p = at(Number(setting.value));
    shapes.push(path('mark', line(x - 10, p, x + 10, p)));
  }
  if (setting?.kind === 'range') {
    shapes.push(path('band', line(x, at(setting.from), x, at(setting.to))));
    for (const end of [setting.from, setting.to]) {
      shapes.push(path('band-end', line(x - 9, at(end), x + 9, at(end))));
    }
    shapes.push(path('guess', line(x - 4, at(setting.best), x + 12, at(setting.best))));
  }
  if (setting?.kind === 'ear') {
    const p = at(Number(setting.near));
    shapes.push(path('guess', line(x - 4, p, x + 4, p)), path('ear', circle(x + 9, p, 4)));
  }
  shapes.push(reading(control, setting, x, top - 13, BESIDE_SLIDER));
  shapes.push(...lettering(control, setting, x, bottom + 17));
  return shapes;
}

/** Size of a position's letters, in panel units; of the chosen one, which is the reading. */
const [SMALLEST_WORD, LARGEST_WORD, LARGEST_CHOSEN] = [11.5, 13, 17];
/** How far the chosen cell may stand out on either side; up and down it would cover its neighbours' words. */
const OUT = 4;
/** What the lamp of a button takes. */
const LAMP = 12;

function drawSwitch(control: SwitchedControl, setting: Setting | undefined): Shape[] {
  const cells = switchCells(control);
  const value = setting && setting.kind !== 'any' ? soundingValue(control, setting) : undefined;
  const lamp = control.kind === 'button';
  const lying = liesDown(control);
  const column = !lying && cells.at(-1)!.x === cells[0]!.x;
  const room = cells[0]!.width - (lamp ? LAMP : 0) - 4;
  const widest = Math.max(...control.positions.map((p) => wordWidth(p.name)));
  const size = lettersIn(SMALLEST_WORD, LARGEST_WORD, room / widest);
  const shapes: Shape[] = [];
  const draw = (i: number): void => {
    const [position, cell] = [control.positions[i]!, cells[i]!];
    const on = position.id === value;
    const pen: Pen = on
      ? 'cell-on'
      : !setting
        ? 'cell-empty'
        : setting.kind === 'any'
          ? 'cell-any'
          : 'cell';
    // The chosen one is read from a metre: it is as large as it can be, and its cell stands out where that helps.
    const wide = boldWidth(position.name);
    const beside = on && column ? OUT : 0;
    const letters = on
      ? lettersIn(SMALLEST_WORD, LARGEST_CHOSEN, (room + 2 * beside) / wide)
      : size;
    const across = Math.max(0, Math.min(beside, (letters * wide - room) / 2));
    shapes.push(path(pen, box(cell.x - across, cell.y, cell.width + 2 * across, cell.height)));
    const middle = cell.y + CELL_HEIGHT / 2;
    if (lamp) shapes.push(path(on ? 'lamp-on' : 'lamp', circle(cell.x - across + 8, middle, 3)));
    shapes.push(
      text(
        on ? 'word-on' : value === undefined ? 'word-faint' : 'word',
        cell.x + cell.width / 2 + (lamp ? LAMP / 2 : 0),
        middle + 0.35 * letters,
        letters,
        position.name,
      ),
    );
    if (on && setting?.kind === 'ear') {
      shapes.push(path('ear', circle(cell.x + cell.width + 2, middle, 4)));
    }
  };
  // The chosen one last: it lies on its neighbours.
  const chosen = control.positions.findIndex((p) => p.id === value);
  control.positions.forEach((_, i) => i !== chosen && draw(i));
  if (chosen >= 0) draw(chosen);
  const bottom = cellsBottom(cells);
  const named = setting?.kind === 'any' ? { ...control, name: `${control.name} *` } : control;
  shapes.push(...lettering(named, setting, control.place.x, bottom + (lying ? 14 : 15)));
  return shapes;
}
