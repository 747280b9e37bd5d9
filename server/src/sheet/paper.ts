import PDFDocument from 'pdfkit';
import { sheetFonts } from './fonts';
import { inLettersOf, type Letters } from './letters';

export type Doc = PDFKit.PDFDocument;

/** A4, in points. */
export const PAGE = { width: 595.28, height: 841.89, margin: 30 };
export const INNER = PAGE.width - 2 * PAGE.margin;

/** A document of A4 pages that `draw` fills. */
export async function makePaper(title: string, draw: (doc: Doc) => void): Promise<Uint8Array> {
  const doc = new PDFDocument({
    size: 'A4',
    margin: 0,
    info: { Title: title, Creator: 'Hurrel' },
  });
  const chunks: Buffer[] = [];
  doc.on('data', (chunk: Buffer) => chunks.push(chunk));
  const finished = new Promise<void>((done) => doc.on('end', () => done()));
  for (const [name, font] of sheetFonts()) doc.registerFont(name, font);
  inItsLetters(doc);
  draw(doc);
  doc.end();
  await finished;
  return Buffer.concat(chunks);
}

/** Whatever is written or measured from now on is in letters that the font of the moment has. */
function inItsLetters(doc: Doc): void {
  const said = (text: unknown): unknown => {
    const { font } = (doc as unknown as { _font: { font: Letters } })._font;
    return typeof text === 'string' ? inLettersOf(font, text) : text;
  };
  const own = doc as unknown as Record<string, (text: unknown, ...more: unknown[]) => unknown>;
  for (const name of ['text', 'widthOfString', 'heightOfString']) {
    const plain = own[name]!.bind(doc);
    own[name] = (text, ...more) => plain(said(text), ...more);
  }
}

/** A line of text; cut with an ellipsis where a width is given. @returns how wide it is */
export const put = (
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

/** To be ticked with a pencil. */
export function drawBox(doc: Doc, x: number, y: number, size: number): void {
  doc
    .lineWidth(0.7)
    .strokeColor('#000')
    .rect(x + 1, y + size * 0.15, size * 0.85, size * 0.85)
    .stroke();
}
