import type { Control, Section } from '../instrument/schema';
import { drawControl, SMALLEST_NAME } from './draw-control';
import { type Box, controlBox } from './place';

const LARGEST_NAME = 15;
/** Width of a letter over its size, on average. */
const LETTER = 0.54;
/** Units that names keep apart. */
const APART = 5;

interface Name {
  id: string;
  x: number;
  y: number;
  letters: number;
  box: Box;
}

/**
 * How large the name of each control of a section can be written, in panel units: as large as neither its neighbours' names,
 * nor what they cover, nor the section's edges forbid.
 * @param controls of one section
 * @param section its edges; absent: they are in no name's way
 */
export function nameSizes(
  controls: readonly Control[],
  section?: Pick<Section, 'x' | 'width'>,
): Map<string, number> {
  const names = controls.flatMap((control): Name[] => {
    const shape = drawControl(control, undefined).find(
      (s) => s.kind === 'text' && s.lettering === 'name',
    );
    if (shape?.kind !== 'text') return [];
    const { x, y } = shape;
    return [{ id: control.id, x, y, letters: control.name.length, box: controlBox(control) }];
  });
  return new Map(
    names.map((name) => {
      const half = (LETTER * name.letters) / 2;
      const rooms = names.flatMap((other) => {
        if (other === name) return [];
        const across = Math.abs(other.x - name.x);
        const { x, y, width, height } = other.box;
        const level = Math.abs(other.y - name.y) < LARGEST_NAME;
        const beside = name.y > y && name.y - LARGEST_NAME < y + height;
        const gap = Math.max(x - name.x, name.x - (x + width));
        return [
          ...(level ? [(across - APART) / (half + (LETTER * other.letters) / 2)] : []),
          ...(beside && gap > 0 ? [(gap - 1) / half] : []),
        ];
      });
      const edges = section
        ? [(Math.min(name.x - section.x, section.x + section.width - name.x) - 3) / half]
        : [];
      const size = Math.min(LARGEST_NAME, ...rooms, ...edges);
      return [name.id, Math.max(SMALLEST_NAME, Math.floor(10 * size) / 10)];
    }),
  );
}
