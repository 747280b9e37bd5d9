import type { Jack } from '../instrument/jack';
import type { Control, Instrument, Section } from '../instrument/schema';
import { drawControl, SMALLEST_NAME } from './draw-control';
import { jackBox, jackNameAt, LARGEST_JACK_NAME, SMALLEST_JACK_NAME } from './draw-jack';
import { type Box, controlBox } from './place';
import { boldWidth, lettersIn, wordWidth } from './word-width';

const LARGEST_NAME = 15;
/** Units that names keep apart. */
const APART = 9;

/** Where a section's title begins, from its left edge: after the number of its place in the working order. */
export const TITLE_AFTER = { short: 26, long: 32 };
const [SMALLEST_TITLE, LARGEST_TITLE] = [12.5, 16];

/**
 * How large the title of a section can be written, in panel units, with room for the sign of a note behind it.
 * @param from where it begins, from the section's left edge
 */
export function titleSize({ name, width }: Pick<Section, 'name' | 'width'>, from: number): number {
  return lettersIn(SMALLEST_TITLE, LARGEST_TITLE, (width - from - 14) / boldWidth(name));
}

/** A thing with a name beneath it. */
interface Named {
  id: string;
  x: number;
  y: number;
  /** Width over the size of its letters. */
  wide: number;
  box: Box;
  smallest: number;
  largest: number;
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
  const names = controls.flatMap(namedControl);
  return new Map(names.map((name) => [name.id, sizeOf(name, names, section)]));
}

/**
 * The same of all jacks of a panel.
 * @param panel a panel; of a cabinet its face
 */
export function jackNameSizes(
  panel: Pick<Instrument, 'sections' | 'jacks' | 'controls'>,
): Map<string, number> {
  const sizes = new Map<string, number>();
  for (const section of panel.sections) {
    const jacks = panel.jacks.filter((j) => j.section === section.id).map(namedJack);
    if (jacks.length === 0) continue;
    const controls = panel.controls.filter((c) => c.section === section.id).flatMap(namedControl);
    for (const jack of jacks) sizes.set(jack.id, sizeOf(jack, [...jacks, ...controls], section));
  }
  return sizes;
}

function namedControl(control: Control): Named[] {
  const shape = drawControl(control, undefined).find(
    (s) => s.kind === 'text' && s.lettering === 'name',
  );
  if (shape?.kind !== 'text') return [];
  const { x, y } = shape;
  const [smallest, largest] = [SMALLEST_NAME, LARGEST_NAME];
  const wide = wordWidth(control.name);
  return [{ id: control.id, x, y, wide, box: controlBox(control), smallest, largest }];
}

function namedJack(jack: Jack): Named {
  const { id, name, place } = jack;
  const { y } = jackNameAt(jack);
  return {
    id,
    x: place.x,
    y,
    wide: wordWidth(name),
    box: jackBox(jack),
    smallest: SMALLEST_JACK_NAME,
    largest: LARGEST_JACK_NAME,
  };
}

function sizeOf(
  name: Named,
  all: readonly Named[],
  section: Pick<Section, 'x' | 'width'> | undefined,
): number {
  const half = name.wide / 2;
  const rooms = all.flatMap((other) => {
    if (other === name) return [];
    const across = Math.abs(other.x - name.x);
    const { x, y, width, height } = other.box;
    const level = Math.abs(other.y - name.y) < name.largest;
    const beside = name.y > y && name.y - name.largest < y + height;
    const gap = Math.max(x - name.x, name.x - (x + width));
    return [
      ...(level ? [(across - APART) / (half + other.wide / 2)] : []),
      ...(beside && gap > 0 ? [(gap - 1) / half] : []),
    ];
  });
  const edges = section
    ? [(Math.min(name.x - section.x, section.x + section.width - name.x) - 3) / half]
    : [];
  return lettersIn(name.smallest, name.largest, ...rooms, ...edges);
}
