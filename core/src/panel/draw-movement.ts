import type { Control, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { positionToAngle } from '../reading/dial';
import { switchCells, turns } from './place';
import { arc, box, line, polar, type Shape, spoke } from './shape';

/** Where a control stood, and the way from there to where it shall stand: to be laid under the drawing of its target. */
export function drawMovement(control: Control, from: Value, to: Value): Shape[] {
  if (isSwitched(control)) {
    const cell = switchCells(control)[control.positions.findIndex((p) => p.id === from)];
    if (!cell) return [];
    return [
      {
        kind: 'path',
        pen: 'ghost',
        d: box(cell.x + 1, cell.y + 1, cell.width - 2, cell.height - 2),
      },
    ];
  }
  const { x, y, size } = control.place;
  const [a, b] = [Number(from), Number(to)];
  if (!turns(control)) {
    const at = (p: number): number => y + size / 2 - p * size;
    return [
      { kind: 'path', pen: 'ghost', d: line(x - 7, at(a), x + 7, at(a)) },
      { kind: 'path', pen: 'way', d: line(x + 13, at(a), x + 13, at(b)) },
    ];
  }
  const r = size / 2;
  const [start, end] = [a, b].map((p) => positionToAngle(p, control.sweep)) as [number, number];
  const shapes: Shape[] = [{ kind: 'path', pen: 'ghost', d: spoke(x, y, r - 3, r + 4, start) }];
  if (Math.abs(end - start) > 4) {
    const [low, high] = start < end ? [start, end] : [end, start];
    shapes.push({ kind: 'path', pen: 'way', d: arc(x, y, r + 10, low, high) });
    // An arrow's head at the end of the way.
    const turn = end > start ? -8 : 8;
    const tip = polar(x, y, r + 10, end);
    const [ax, ay] = polar(x, y, r + 13.5, end + turn);
    const [bx, by] = polar(x, y, r + 6.5, end + turn);
    shapes.push({ kind: 'path', pen: 'way', d: `${line(ax, ay, ...tip)}${line(bx, by, ...tip)}` });
  }
  return shapes;
}
