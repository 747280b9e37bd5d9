import {
  type Cable,
  cablePath,
  drawControl,
  drawJack,
  formatDuration,
  type Instrument,
  isWork,
  jackOf,
  nameSizes,
  paperFonts,
  paperPens,
  plugStub,
  sectionsInOrder,
  type Shape,
} from '@hurrel/core';
import PDFDocument from 'pdfkit';
import type { SheetContent } from './content';
import { sheetFonts } from './fonts';
import { paperScale, POINTS_A_MM } from './paper-scale';
import { type Item, layRow, type Measure } from './row-layout';
import { listRows } from './rows';

const PAGE = { width: 595.28, height: 841.89, margin: 30 };
const INNER = PAGE.width - 2 * PAGE.margin;
/** Points of the page that the panel takes at most: the rest is for the list. */
const PANEL_HEIGHT = 0.42 * PAGE.height;

/** One A4 page: the panel as recorded, and below it the movements that lead there. */
export async function makeSheet(content: SheetContent): Promise<Uint8Array> {
  const doc = new PDFDocument({
    size: 'A4',
    margin: 0,
    info: { Title: `${content.patch.name} (${content.instrument.name})`, Creator: 'Hurrel' },
  });
  const chunks: Buffer[] = [];
  doc.on('data', (chunk: Buffer) => chunks.push(chunk));
  const finished = new Promise<void>((done) => doc.on('end', () => done()));
  for (const [name, path] of Object.entries(sheetFonts)) doc.registerFont(name, path);
  const below = drawPanel(doc, content, drawHeading(doc, content));
  drawList(doc, content, below);
  doc.end();
  await finished;
  return Buffer.concat(chunks);
}

type Doc = PDFKit.PDFDocument;

const put = (
  doc: Doc,
  font: string,
  size: number,
  text: string,
  x: number,
  y: number,
  width?: number,
): number => {
  doc.font(font).fontSize(size).fillColor('#000');
  doc.text(text, x, y, {
    lineBreak: false,
    ...(width ? { width, height: size * 1.3, ellipsis: true } : {}),
  });
  return doc.widthOfString(text);
};

function drawHeading(doc: Doc, { instrument, patch, version, plan, from }: SheetContent): number {
  const { margin } = PAGE;
  put(doc, 'bold', 20, patch.name, margin, margin - 6);
  const revision = instrument.revisions.find((r) => r.id === patch.revision);
  const facts = [
    `${instrument.maker} ${instrument.name}`,
    revision?.name,
    patch.song,
    `${patch.tempo} bpm`,
    `version ${version}`,
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
  if (!patch.about) return margin + 52;
  doc.font('text').fontSize(9).fillColor('#222');
  doc.text(patch.about, margin, margin + 48, { width: INNER });
  return margin + 56 + doc.heightOfString(patch.about, { width: INNER });
}

function drawPanel(doc: Doc, { instrument, patch }: SheetContent, top: number): number {
  const { scale, ratio } = paperScale(instrument.panel, INNER, PANEL_HEIGHT);
  doc.save();
  doc.translate(PAGE.margin, top).scale(scale);
  sectionsInOrder(instrument).forEach((section, i) => {
    doc
      .lineWidth(1)
      .strokeColor('#000')
      .rect(section.x, section.y, section.width, section.height)
      .stroke();
    const title = `${i + 1}  ${section.name}`;
    doc.font('bold').fontSize(13).fillColor('#000');
    doc.text(title, section.x + 10, section.y + 6, { lineBreak: false });
  });
  for (const jack of instrument.jacks) {
    for (const shape of drawJack(jack)) drawShape(doc, shape);
  }
  for (const cable of patch.cables) drawCable(doc, instrument, cable);
  for (const section of instrument.sections) {
    const controls = instrument.controls.filter((c) => c.section === section.id);
    const sizes = nameSizes(controls, section);
    for (const control of controls) {
      const shapes = drawControl(control, patch.settings[control.id], sizes.get(control.id));
      for (const shape of shapes) drawShape(doc, shape);
    }
  }
  doc.restore();
  const bottom = top + instrument.panel.height * scale + 8;
  return ratio === undefined ? bottom : drawScale(doc, ratio, bottom);
}

/** What the panel is drawn to, with a bar of 50 mm of the real one to hold a rule to. */
function drawScale(doc: Doc, ratio: number, top: number): number {
  const bar = (50 / ratio) * POINTS_A_MM;
  const [x, y] = [PAGE.margin, top + 5];
  doc.lineWidth(0.8).strokeColor('#000');
  doc.path(`M${x} ${y - 3}v6M${x} ${y}h${bar}M${x + bar} ${y - 3}v6`).stroke();
  const words = ratio === 1 ? 'as large as the real one' : `1 : ${ratio}`;
  put(doc, 'text', 8, `50 mm; the panel is drawn ${words}`, x + bar + 6, top + 1);
  return top + 16;
}

/** A cord from jack to jack, thin enough to read through; broken where it is left in but not in use. */
function drawCable(doc: Doc, instrument: Instrument, cable: Cable): void {
  const [a, b] = [jackOf(instrument, cable.from), jackOf(instrument, cable.to)];
  const end = a ?? b;
  if (!end) return;
  doc.path(a && b ? cablePath(a.place, b.place) : plugStub(end.place));
  if (cable.inactive) doc.dash(2, { space: 4 });
  doc.lineWidth(1.6).strokeColor('#666').stroke().undash();
}

function drawShape(doc: Doc, shape: Shape): void {
  if (shape.kind === 'text') {
    const { font, color } = paperFonts[shape.lettering];
    // Print is read closer than a screen, but the panel is smaller here: letters a little larger than on screen.
    const size = shape.size * 1.06;
    doc.font(font).fontSize(size).fillColor(color);
    const width = doc.widthOfString(shape.text);
    const [x, y] = [shape.x - width / 2, shape.y - size * 0.78];
    if (shape.lettering === 'reading') {
      // A rim of paper keeps it clear of its dial.
      doc.lineWidth(3).strokeColor('#fff');
      doc.text(shape.text, x, y, { lineBreak: false, stroke: true, fill: false });
    }
    doc.fillColor(color).text(shape.text, x, y, { lineBreak: false });
    return;
  }
  const pen = paperPens[shape.pen];
  doc.path(shape.d);
  if (pen.dash) doc.dash(pen.dash[0], { space: pen.dash[1] });
  else doc.undash();
  doc.lineWidth(pen.width ?? 1);
  if (pen.fill && pen.stroke) doc.fillAndStroke(pen.fill, pen.stroke);
  else doc.strokeColor(pen.stroke ?? '#000').stroke();
  doc.undash();
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

/** To be ticked with a pencil. */
function drawBox(doc: Doc, x: number, y: number, size: number): void {
  doc
    .lineWidth(0.7)
    .strokeColor('#000')
    .rect(x + 1, y + size * 0.15, size * 0.85, size * 0.85)
    .stroke();
}

/**
 * Where rows of these heights stand when they fill columns of a height, one after the other.
 * @param heads whether a row is the heading of the next one, and stays with it
 */
export function flow(
  heights: number[],
  height: number,
  heads: readonly boolean[] = [],
): { columns: number; places: { column: number; y: number }[] } {
  let [column, y] = [0, 0];
  const places = heights.map((h, i) => {
    const needed = heads[i] ? h + (heights[i + 1] ?? 0) : h;
    if (y > 0 && y + needed > height) [column, y] = [column + 1, 0];
    const place = { column, y };
    y += h;
    return place;
  });
  return { columns: column + 1, places };
}
