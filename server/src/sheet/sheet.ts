import {
  drawControl,
  formatDuration,
  inWorkingOrder,
  type Instrument,
  midiToNote,
  type Movement,
  type Patch,
  type RebuildPlan,
  sectionsInOrder,
  type Shape,
} from '@hurrel/core';
import PDFDocument from 'pdfkit';
import { sheetFonts } from './fonts';
import { paperFonts, paperPens } from './pens';

const PAGE = { width: 595.28, height: 841.89, margin: 30 };
const INNER = PAGE.width - 2 * PAGE.margin;

export interface SheetContent {
  instrument: Instrument;
  patch: Patch;
  plan: RebuildPlan;
  /** What the panel shows before, in words. */
  from: string;
  version: number;
}

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
  const moves = plan.steps.filter((s) => s.kind === 'movement').length;
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
  for (const control of instrument.controls) {
    for (const shape of drawControl(control, patch.settings[control.id])) drawShape(doc, shape);
  }
  doc.restore();
  return top + instrument.panel.height * scale + 8;
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

const ROW = 11.2;
const FOOT = 16;

function drawList(doc: Doc, content: SheetContent, top: number): void {
  const rows = listRows(content);
  const height = PAGE.height - PAGE.margin - FOOT - top;
  const columns = 2;
  const gap = 14;
  const width = (INNER - gap) / columns;
  // As many rows as there are: the page never grows to a second one, the rows get lower instead.
  const row = Math.min(ROW, (height * columns) / (rows.length + 1));
  const perColumn = Math.ceil(rows.length / columns);
  rows.forEach((entry, i) => {
    const column = Math.floor(i / perColumn);
    const x = PAGE.margin + column * (width + gap);
    const y = top + (i % perColumn) * row;
    drawRow(doc, entry, x, y, width, Math.min(8.4, row * 0.76));
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

interface Row {
  kind: 'section' | 'movement' | 'listen';
  left: string;
  right: string;
  note: string;
}

function listRows({ instrument, patch, plan }: SheetContent): Row[] {
  const numbers = new Map(sectionsInOrder(instrument).map((s, i) => [s.id, `${i + 1}  ${s.name}`]));
  const names = new Map(inWorkingOrder(instrument).map((c) => [c.id, c.name]));
  const rows: Row[] = [];
  let section = '';
  for (const step of plan.steps) {
    if (step.kind === 'listening') {
      const { checkpoint } = step;
      rows.push({
        kind: 'listen',
        left: `Play ${midiToNote(checkpoint.note)}`,
        right: '',
        note: checkpoint.hear,
      });
      continue;
    }
    if (step.section !== section) {
      section = step.section;
      rows.push({
        kind: 'section',
        left: numbers.get(section) ?? section,
        right: '',
        note: patch.notes[`section:${section}`] ?? '',
      });
    }
    rows.push({
      kind: 'movement',
      left: names.get(step.control) ?? step.control,
      right: step.to,
      note: movementNote(step),
    });
  }
  return rows;
}

const movementNote = (step: Movement): string =>
  [
    step.from === '?' ? '' : `from ${step.from}`,
    step.range ? `anywhere ${step.range[0]} to ${step.range[1]}` : '',
    step.target ? `by ear: ${step.target}` : '',
    step.note ?? '',
  ]
    .filter(Boolean)
    .join(' · ');

function drawRow(doc: Doc, row: Row, x: number, y: number, width: number, size: number): void {
  if (row.kind === 'section') {
    put(doc, 'bold', size, row.left, x, y);
    if (row.note) put(doc, 'italic', size * 0.85, row.note, x + 96, y, width - 96);
    return;
  }
  doc
    .lineWidth(0.7)
    .strokeColor('#000')
    .rect(x + 2, y + 1, size * 0.8, size * 0.8)
    .stroke();
  put(doc, row.kind === 'listen' ? 'bold' : 'text', size, row.left, x + 14, y, 68);
  if (row.right) put(doc, 'mono-bold', size, row.right, x + 84, y, 46);
  const noteAt = row.right ? 132 : 60;
  put(doc, 'italic', size * 0.88, row.note, x + noteAt, y, width - noteAt);
}
