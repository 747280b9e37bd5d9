import {
  type Cable,
  cablePath,
  drawControl,
  drawJack,
  type Instrument,
  jackOf,
  nameSizes,
  paperFonts,
  paperPens,
  plugStub,
  sectionsInOrder,
  type Shape,
} from '@hurrel/core';
import type { SheetContent } from './content';
import { type Doc, INNER, PAGE, put } from './paper';
import { paperScale, POINTS_A_MM } from './paper-scale';

/** A panel as it is recorded, with what it is drawn to. @param highest points that it takes at most @returns where it ends */
export function drawPanel(
  doc: Doc,
  { instrument, patch }: Pick<SheetContent, 'instrument' | 'patch'>,
  top: number,
  highest: number,
): number {
  const { scale, ratio } = paperScale(instrument.panel, INNER, highest);
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
    const [x, y] = [shape.x - width / 2, shape.y];
    // Where it stands on the screen: on its line, however large its letters are.
    const on = { lineBreak: false, baseline: 'alphabetic' } as const;
    if (shape.lettering === 'reading') {
      // A rim of paper keeps it clear of its dial.
      doc.lineWidth(3).strokeColor('#fff');
      doc.text(shape.text, x, y, { ...on, stroke: true, fill: false });
    }
    doc.fillColor(color).text(shape.text, x, y, on);
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
