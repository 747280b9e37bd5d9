import {
  type Choose,
  type Difference,
  entryDifferences,
  fieldDifferences,
  type Merge,
  mergeDocuments,
  type ToldField,
} from '../document';
import { controlLabel } from '../instrument/control-name';
import type { Jack } from '../instrument/jack';
import type { Control, Instrument, Section } from '../instrument/schema';
import { isSwitched } from '../instrument/schema';
import { instrumentOf } from './instrument';
import { readOutline } from './read';
import { writeScale } from './scale';

const FIELDS: ToldField<Instrument>[] = [
  ['name', 'Name', (i) => i.name],
  ['maker', 'Maker', (i) => i.maker],
  ['summary', 'What it is', (i) => i.summary],
];

const byId = <T extends { id: string }>(items: readonly T[]): Record<string, T> =>
  Object.fromEntries(items.map((item) => [item.id, item]));

/** Differences from one description of an instrument to another: sections, controls and jacks, each in words. */
export function instrumentDifferences(before: Instrument, after: Instrument): Difference[] {
  const known = (id: string): Instrument =>
    after.controls.some((c) => c.id === id) ? after : before;
  const told = [
    ...fieldDifferences(FIELDS, before, after),
    ...entryDifferences(
      'sections',
      byId(before.sections),
      byId(after.sections),
      (id) => `Section ${id}`,
      saySection,
    ),
    ...entryDifferences(
      'controls',
      byId(before.controls),
      byId(after.controls),
      (id) => controlLabel(known(id), id),
      sayControl,
    ),
    ...entryDifferences(
      'jacks',
      byId(before.jacks),
      byId(after.jacks),
      (id) => `Jack ${id}`,
      sayJack,
    ),
  ];
  return told.filter((d) => d.before !== d.after);
}

const saySection = (section: Section | undefined): string =>
  section ? `${section.name}, ${section.stage}` : 'none';

function sayControl(control: Control | undefined): string {
  if (!control) return 'none';
  const spec = isSwitched(control)
    ? control.positions.map((p) => p.name).join('/')
    : control.scale
      ? `${writeScale(control.scale.marks)} ${control.scale.unit}`.trim()
      : 'no scale';
  return `${control.name}, ${control.kind}, ${spec}`;
}

const sayJack = (jack: Jack | undefined): string =>
  jack ? `${jack.name}, ${jack.direction}, ${jack.signal}` : 'none';

/** Merges two changes of one instrument: what was typed as a whole, and the panel made of it anew. */
export function mergeInstruments(
  base: Instrument | null,
  mine: Instrument,
  theirs: Instrument,
  choose?: Choose,
): Merge<Instrument> {
  const typed = ({ outline = '', summary }: Instrument) => ({ outline, summary });
  const { merged, conflicts } = mergeDocuments(
    {},
    base && typed(base),
    typed(mine),
    typed(theirs),
    choose,
  );
  const { outline } = readOutline(merged.outline);
  const made = instrumentOf(outline, merged.outline, mine);
  return { merged: { ...made, summary: merged.summary }, conflicts };
}
