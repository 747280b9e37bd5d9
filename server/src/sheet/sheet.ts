import { formatDuration, isWork } from '@hurrel/core';
import type { SheetContent } from './content';
import { flow } from './flow';
import { drawPanel } from './panel-on-paper';
import { type Doc, drawBox, INNER, makePaper, PAGE, put } from './paper';
import { type Item, layRow, type Measure } from './row-layout';
import { listRows } from './rows';

/** Points of the page that the panel takes at most: the rest is for the list. */
const PANEL_HEIGHT = 0.42 * PAGE.height;

/** One A4 page: the panel as recorded, and below it the movements that lead there. */
export const makeSheet = (content: SheetContent): Promise<Uint8Array> =>
  makePaper(`${content.patch.name} (${content.instrument.name})`, (doc) => {
    const below = drawPanel(doc, content, drawHeading(doc, content), PANEL_HEIGHT);
    drawList(doc, content, below);
  });

function drawHeading(doc: Doc, content: SheetContent): number {
  const { instrument, patch, version, plan, from, readingsOf, notReached } = content;
  const { margin } = PAGE;
  put(doc, 'bold', 20, patch.name, margin, margin - 6);
  const revision = instrument.revisions.find((r) => r.id === patch.revision);
  const facts = [
    `${instrument.maker} ${instrument.name}`,
    revision?.name,
    patch.song,
    `${patch.tempo} bpm`,
    `version ${version}`,
    readingsOf && `readings of ${readingsOf}`,
  ].filter(Boolean);
  put(doc, 'text', 9.5, facts.join('  ·  '), margin, margin + 19);
  const moves = plan.steps.filter(isWork).length;
  put(
    doc,
    'bold',
    9.5,
    `From ${from}: ${moves} movements, estimated ${formatDuration(plan.seconds)}`,
    margin,
    margin + 33,
  );
  let y = margin + 48;
  const paragraph = (font: 'text' | 'bold', text: string): void => {
    doc.font(font).fontSize(9).fillColor('#222');
    doc.text(text, margin, y, { width: INNER });
    y += doc.heightOfString(text, { width: INNER }) + 4;
  };
  if (notReached?.length) paragraph('bold', `Not as recorded: ${notReached.join('; ')}.`);
  if (patch.about) paragraph('text', patch.about);
  return y + 4;
}

const FOOT = 16;
const GAP = 16;
/**
 * Ways to set the list, the most legible first: a sheet on a music stand is read from 70 cm. It never grows to a second
 * page: its letters get smaller instead. One column while they are large, two from there on.
 */
const WAYS = [
  ...[16, 15, 14, 13, 12, 11.5, 11].map((size) => ({ size, columns: 1 })),
  ...[12, 11, 10, 9.5, 9, 8.5, 8, 7.5, 7, 6.5, 6, 5.5, 5, 4.5, 4].map((size) => ({
    size,
    columns: 2,
  })),
];
const SMALLEST = { size: 4, columns: 2 };

function drawList(doc: Doc, content: SheetContent, top: number): void {
  const rows = listRows(content);
  const height = PAGE.height - PAGE.margin - FOOT - top;
  const measure = measureOf(doc);
  const wide = (columns: number): number => (INNER - (columns - 1) * GAP) / columns;
  const laid = ({ size, columns }: typeof SMALLEST) =>
    rows.map((row) => layRow(measure, row, size, wide(columns)));
  const heights = (way: typeof SMALLEST): number[] => laid(way).map((row) => row.height);
  const heads = rows.map((row) => row.kind === 'section');
  const flown = (way: typeof SMALLEST) => flow(heights(way), height, heads);
  const way = WAYS.find((w) => flown(w).columns <= w.columns) ?? SMALLEST;
  const { places } = flown(way);
  laid(way).forEach(({ items }, i) => {
    const { column, y } = places[i]!;
    const x = PAGE.margin + column * (wide(way.columns) + GAP);
    if (rows[i]!.kind !== 'section') drawBox(doc, x, top + y, way.size);
    for (const item of items) drawItem(doc, item, x, top + y);
  });
  put(
    doc,
    'italic',
    7.5,
    'Readings are the panel’s own. Times are estimates. Turn the monitors down before resonance goes up. This replaces no manual.',
    PAGE.margin,
    PAGE.height - PAGE.margin - 8,
  );
}

const measureOf = (doc: Doc): Measure => ({
  width: (font, size, text) => doc.font(font).fontSize(size).widthOfString(text),
  height: (font, size, text, width) =>
    doc.font(font).fontSize(size).heightOfString(text, { width }),
});

function drawItem(
  doc: Doc,
  { font, size, text, x, y, width }: Item,
  left: number,
  top: number,
): void {
  doc.font(font).fontSize(size).fillColor('#000');
  doc.text(text, left + x, top + y, { width });
}
