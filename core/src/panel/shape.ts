import type { JackSignal } from '../instrument/jack';

/**
 * What a panel is drawn with. Coordinates are panel units, y downwards. Screen, print and files paint the same shapes,
 * each with its own pens.
 */
export type Pen =
  /** The travel: recorded, not mattering, not recorded. */
  | 'scale'
  | 'scale-any'
  | 'scale-empty'
  | 'tick'
  /** Where it stands: exact, ends and field of a range, best guess, by ear. */
  | 'mark'
  | 'band'
  | 'band-end'
  | 'guess'
  | 'ear'
  /** Cells of a switch and its lamps. */
  | 'cell'
  | 'cell-on'
  | 'cell-any'
  | 'cell-empty'
  | 'lamp'
  | 'lamp-on'
  /** Outline of wheels and pedals. */
  | 'body'
  /** Jacks: the ring, the frame of what gives a signal, and the mark of each signal. */
  | 'jack'
  | 'jack-out'
  | `mark-${JackSignal}`
  /** A movement: where it stood, and the way from there. */
  | 'ghost'
  | 'way';

export type Lettering =
  | 'reading'
  | 'reading-faint'
  | 'name'
  | 'target'
  | 'word'
  | 'word-on'
  | 'word-faint';

export type Shape =
  | { kind: 'path'; pen: Pen; d: string }
  | { kind: 'text'; lettering: Lettering; x: number; y: number; size: number; text: string };

const round = (n: number): number => Math.round(n * 100) / 100;

/** Path data of a line. */
export const line = (x0: number, y0: number, x1: number, y1: number): string =>
  `M${round(x0)} ${round(y0)}L${round(x1)} ${round(y1)}`;

/** Path data of a rectangle. */
export const box = (x: number, y: number, width: number, height: number): string =>
  `M${round(x)} ${round(y)}h${round(width)}v${round(height)}h${round(-width)}Z`;

/** Path data of a circle. */
export const circle = (x: number, y: number, r: number): string =>
  `M${round(x - r)} ${round(y)}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`;

/** Point at an angle in degrees clockwise from 12 o'clock. */
export const polar = (x: number, y: number, r: number, degrees: number): [number, number] => {
  const a = (degrees * Math.PI) / 180;
  return [x + r * Math.sin(a), y - r * Math.cos(a)];
};

/** Path data of an arc between two such angles, from < to. */
export function arc(x: number, y: number, r: number, from: number, to: number): string {
  const [x0, y0] = polar(x, y, r, from);
  const [x1, y1] = polar(x, y, r, to);
  const large = to - from > 180 ? 1 : 0;
  return `M${round(x0)} ${round(y0)}A${round(r)} ${round(r)} 0 ${large} 1 ${round(x1)} ${round(y1)}`;
}

/** Path data of a bar across an arc: a line along the radius. */
export function spoke(x: number, y: number, from: number, to: number, degrees: number): string {
  const [x0, y0] = polar(x, y, from, degrees);
  const [x1, y1] = polar(x, y, to, degrees);
  return line(x0, y0, x1, y1);
}

/** Path data of a point towards the middle: a triangle along the radius, half as wide as it is long. */
export function point(x: number, y: number, from: number, to: number, degrees: number): string {
  const [tipX, tipY] = polar(x, y, from, degrees);
  const [baseX, baseY] = polar(x, y, to, degrees);
  const [alongX, alongY] = [(baseX - tipX) / 4, (baseY - tipY) / 4];
  const corners = [
    [tipX, tipY],
    [baseX - alongY, baseY + alongX],
    [baseX + alongY, baseY - alongX],
  ] as const;
  return `M${corners.map(([cx, cy]) => `${round(cx)} ${round(cy)}`).join('L')}Z`;
}
