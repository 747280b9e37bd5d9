import {
  type Cable,
  cablePath,
  drawControl,
  drawJack,
  formatDuration,
  type Instrument,
  isWork,
  jackOf,
  paperFonts,
  paperPens,
  plugStub,
  sectionsInOrder,
  type Shape,
} from '@hurrel/core';
import PDFDocument from 'pdfkit';
import type { SheetContent } from './content';
import { sheetFonts } from './fonts';
import { listRows, type Row } from './rows';

const PAGE = { width: 595.28, height: 841.89, margin: 30 };
const INNER = PAGE.width - 2 * PAGE.margin;

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
  doc.font('text').fontSize(8.5).fillColor('#222');
  doc.text(patch.about, margin, margin + 48, { width: INNER, height: 22, ellipsis: true });
  return margin + 74;
}

function drawPanel(doc: Doc, { instrument, patch }: SheetContent, top: number): number {
  const scale = INNER / instrument.panel.width;
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
  for (const control of instrument.controls) {
    for (const shape of drawControl(control, patch.settings[control.id])) drawShape(doc, shape);
  }
  doc.restore();
  return top + instrument.panel.height * scale + 8;
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
    doc.text(shape.text, shape.x - width / 2, shape.y - size * 0.78, { lineBreak: false });
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
const COLUMNS = 2;
const GAP = 16;
const COLUMN = (INNER - GAP) / COLUMNS;
/** Letter sizes of the list, largest first: the page never grows to a second one, the letters get smaller instead. */
const SIZES = [10, 9.5, 9, 8.5, 8, 7.5, 7, 6.5, 6, 5.5, 5, 4.5, 4];

function drawList(doc: Doc, content: SheetContent, top: number): void {
  const rows = listRows(content);
  const height = PAGE.height - PAGE.margin - FOOT - top;
  const heights = (size: number): number[] => rows.map((row) => rowHeight(doc, row, size));
  const size = SIZES.find((s) => flow(heights(s), height).columns <= COLUMNS) ?? SIZES.at(-1)!;
  const { places } = flow(heights(size), height);
  rows.forEach((row, i) => {
    const { column, y } = places[i]!;
    drawRow(doc, row, PAGE.margin + column * (COLUMN + GAP), top + y, size);
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

/** Where rows of these heights stand when they fill columns of a height, one after the other. */
export function flow(
  heights: number[],
  height: number,
): { columns: number; places: { column: number; y: number }[] } {
  let [column, y] = [0, 0];
  const places = heights.map((h) => {
    if (y > 0 && y + h > height) [column, y] = [column + 1, 0];
    const place = { column, y };
    y += h;
    return place;
  });
  return { columns: column + 1, places };
}

/** Room of a row's name and of its reading, in letters of its size. */
const NAME = 8.4;
const READING = 5.6;

const noteLeft = (row: Row, size: number): number =>
  row.kind === 'section' ? 0 : size * (1.6 + (row.right ? NAME + READING : 5));

function noteHeight(doc: Doc, row: Row, size: number): number {
  if (row.note === '') return 0;
  doc.font('italic').fontSize(size * 0.88);
  return doc.heightOfString(row.note, { width: COLUMN - noteLeft(row, size) });
}

function rowHeight(doc: Doc, row: Row, size: number): number {
  const note = noteHeight(doc, row, size);
  return row.kind === 'section' ? size * 1.7 + note : Math.max(size * 1.45, note + size * 0.25);
}

function drawRow(doc: Doc, row: Row, x: number, y: number, size: number): void {
  const note = (at: number): void => {
    doc
      .font('italic')
      .fontSize(size * 0.88)
      .fillColor('#000');
    doc.text(row.note, x + noteLeft(row, size), at, { width: COLUMN - noteLeft(row, size) });
  };
  if (row.kind === 'section') {
    put(doc, 'bold', size, row.left, x, y + size * 0.3);
    if (row.note) note(y + size * 1.6);
    return;
  }
  doc
    .lineWidth(0.7)
    .strokeColor('#000')
    .rect(x + 1, y + size * 0.15, size * 0.85, size * 0.85)
    .stroke();
  // With nothing beside it a line has the whole column.
  const room = row.right || row.note ? size * NAME : COLUMN - size * 1.6;
  put(doc, row.kind === 'listen' ? 'bold' : 'text', size, row.left, x + size * 1.6, y, room);
  if (row.right) put(doc, 'mono-bold', size, row.right, x + size * (1.6 + NAME), y);
  if (row.note) note(y + size * 0.1);
}
