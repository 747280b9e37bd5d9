import type { Instrument } from '../instrument/schema';
import { sectionsInOrder } from '../instrument/order';
import { jackOf } from '../patch/cables';
import type { Cable, Patch } from '../patch/schema';
import { cablePath, plugStub } from './draw-cable';
import { drawControl } from './draw-control';
import { drawJack } from './draw-jack';
import { jackNameSizes, nameSizes } from './name-sizes';
import { paperFonts, paperPens } from './paper';
import type { Shape } from './shape';

const FAMILIES: Record<string, string> = {
  text: 'font-family="\'Atkinson Hyperlegible Next\',sans-serif"',
  bold: 'font-family="\'Atkinson Hyperlegible Next\',sans-serif" font-weight="700"',
  italic: 'font-family="\'Atkinson Hyperlegible Next\',sans-serif" font-style="italic"',
  mono: 'font-family="\'Atkinson Hyperlegible Mono\',monospace"',
  'mono-bold': 'font-family="\'Atkinson Hyperlegible Mono\',monospace" font-weight="700"',
};

/**
 * A panel as an SVG file of its own, black on white: sections in their order, controls, jacks, and what a patch has set.
 * @param instrument a panel; of a cabinet its face
 * @param patch absent: nothing is set
 */
export function panelSvg(
  instrument: Instrument,
  patch?: Pick<Patch, 'settings' | 'cables'> & Partial<Pick<Patch, 'name'>>,
): string {
  const { width, height } = instrument.panel;
  // Where the real one's size is known the drawing is as large.
  const { millimetres } = instrument.panel;
  const across = millimetres ? `${millimetres.width}mm` : width;
  const down = millimetres ? `${(millimetres.width * height) / width}mm` : height;
  const title = [`${instrument.maker} ${instrument.name}`, patch?.name].filter(Boolean).join(': ');
  const jackSizes = jackNameSizes(instrument);
  const parts = [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${across}" height="${down}" role="img">`,
    `<title>${escaped(title)}</title>`,
    `<rect width="${width}" height="${height}" fill="#fff"/>`,
    ...sectionsInOrder(instrument).map((section, i) => {
      const { x, y, width: w, height: h, name } = section;
      return (
        `<rect x="${x}" y="${y}" width="${w}" height="${h}" fill="none" stroke="#000"/>` +
        `<text x="${x + 10}" y="${y + 18}" font-size="13" ${FAMILIES['bold']}>${escaped(`${i + 1} ${name}`)}</text>`
      );
    }),
    ...instrument.jacks.flatMap((jack) => drawJack(jack, jackSizes.get(jack.id)).map(draw)),
    ...(patch?.cables ?? []).map((cable) => drawCable(instrument, cable)),
    ...instrument.sections.flatMap((section) => {
      const controls = instrument.controls.filter((c) => c.section === section.id);
      const sizes = nameSizes(controls, section);
      return controls.flatMap((c) =>
        drawControl(c, patch?.settings[c.id], sizes.get(c.id)).map(draw),
      );
    }),
    '</svg>',
  ];
  return parts.filter((part) => part !== '').join('\n');
}

function drawCable(instrument: Instrument, cable: Cable): string {
  const [a, b] = [jackOf(instrument, cable.from), jackOf(instrument, cable.to)];
  const end = a ?? b;
  if (!end) return '';
  const d = a && b ? cablePath(a.place, b.place) : plugStub(end.place);
  const dash = cable.inactive ? ' stroke-dasharray="2 4"' : '';
  return `<path d="${d}" fill="none" stroke="#666" stroke-width="1.6"${dash}/>`;
}

function draw(shape: Shape): string {
  if (shape.kind === 'text') {
    const { font, color } = paperFonts[shape.lettering];
    // A rim of paper keeps a reading clear of its dial.
    const rim =
      shape.lettering === 'reading' ? ' paint-order="stroke" stroke="#fff" stroke-width="2.5"' : '';
    return `<text x="${shape.x}" y="${shape.y}" text-anchor="middle" font-size="${shape.size}" fill="${color}"${rim} ${FAMILIES[font] ?? ''}>${escaped(shape.text)}</text>`;
  }
  const { stroke = '#000', width = 1, dash, fill = 'none' } = paperPens[shape.pen];
  const dashes = dash ? ` stroke-dasharray="${dash.join(' ')}"` : '';
  return `<path d="${shape.d}" fill="${fill}" stroke="${stroke}" stroke-width="${width}"${dashes}/>`;
}

/** Text of people, safe between tags. What XML cannot hold at all is left out. */
const escaped = (text: string): string =>
  text
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);
