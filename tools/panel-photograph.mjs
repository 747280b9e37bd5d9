// Draws a picture that looks like a photograph of a panel: its drawing on a dark plate, knobs with light on them, seen a
// little from the side on a table. No real instrument is in it.
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import sharp from 'sharp';
import { root } from './lib.mjs';

/** Where the panel's corners are in the picture, shares of its width and height. */
export const CORNERS = [
  [0.12, 0.17],
  [0.86, 0.1],
  [0.93, 0.86],
  [0.06, 0.92],
];
const [WIDTH, HEIGHT] = [2000, 1400];

async function straightener() {
  const outfile = join(root, '.cache', 'straighten.mjs');
  await build({
    stdin: {
      contents: `export { straighten } from './panel/straighten'; export { homographyBetween, through } from './panel/homography';`,
      resolveDir: join(root, 'core/src'),
    },
    outfile,
    bundle: true,
    format: 'esm',
    logLevel: 'error',
  });
  return import(pathToFileURL(outfile).href);
}

/** The drawing of a panel in the colours of a painted plate, with a knob where each knob is. */
function plate({ panel, sections, controls, jacks }, scale) {
  const { width, height } = panel;
  const round = controls.filter((c) => c.kind === 'knob');
  const slid = controls.filter((c) => c.kind === 'slider');
  const switched = controls.filter((c) => 'positions' in c);
  const parts = [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width * scale}" height="${height * scale}">`,
    `<defs><radialGradient id="k" cx=".35" cy=".3"><stop offset="0" stop-color="#8b8f92"/><stop offset=".5" stop-color="#3a3d40"/><stop offset="1" stop-color="#141618"/></radialGradient>`,
    `<linearGradient id="p" x2=".3" y2="1"><stop offset="0" stop-color="#6b7f78"/><stop offset="1" stop-color="#4d5e59"/></linearGradient></defs>`,
    `<rect width="${width}" height="${height}" rx="6" fill="url(#p)"/>`,
    ...sections.map(
      (s) =>
        `<rect x="${s.x + 3}" y="${s.y + 3}" width="${s.width - 6}" height="${s.height - 6}" rx="4" fill="none" stroke="#dfe6df" stroke-width="1.6"/>` +
        `<text x="${s.x + 12}" y="${s.y + 20}" font-size="13" font-weight="700" fill="#f2f2e4" font-family="sans-serif">${s.name.toUpperCase()}</text>`,
    ),
    ...round.map(({ place: { x, y, size } }) => {
      const r = size / 2.3;
      return `<ellipse cx="${x + 3}" cy="${y + 5}" rx="${r}" ry="${r}" fill="#000" opacity=".35"/><circle cx="${x}" cy="${y}" r="${r}" fill="url(#k)"/><path d="M${x} ${y}L${x - 0.62 * r} ${y + 0.7 * r}" stroke="#f6f6f0" stroke-width="3"/>`;
    }),
    ...slid.map(
      ({ place: { x, y, size } }) =>
        `<path d="M${x} ${y - size / 2}V${y + size / 2}" stroke="#1b1f1d" stroke-width="5"/><rect x="${x - 10}" y="${y + size / 2 - 12}" width="20" height="11" rx="2" fill="#d8d3c6" stroke="#222"/>`,
    ),
    ...switched.map(
      ({ place: { x, y, size } }) =>
        `<rect x="${x - size / 4}" y="${y - 16}" width="${size / 2}" height="32" rx="3" fill="#22282a"/><rect x="${x - 7}" y="${y - 12}" width="14" height="14" rx="2" fill="#c7cfd2"/>`,
    ),
    ...jacks.map(
      ({ place: { x, y, size } }) =>
        `<circle cx="${x}" cy="${y}" r="${size / 2}" fill="#b9bdbd"/><circle cx="${x}" cy="${y}" r="${size / 3.4}" fill="#0c0d0e"/>`,
    ),
    ...[...controls, ...jacks].map(
      ({ name, place: { x, y, size }, kind }) =>
        `<text x="${x}" y="${y + (kind === 'slider' ? size / 2 + 15 : Math.max(30, size / 2 + 14))}" font-size="11" text-anchor="middle" fill="#f2f2e4" font-family="sans-serif">${name.replace(/&/g, '&amp;')}</text>`,
    ),
    '</svg>',
  ];
  return Buffer.from(parts.join(''));
}

/** @param instrument as it is described and laid out @returns a JPEG */
export async function photographOf(instrument) {
  const { straighten, homographyBetween, through } = await straightener();
  const { width, height } = instrument.panel;
  const scale = 1500 / width;
  const margin = 900;
  const [w, h] = [Math.round(width * scale), Math.round(height * scale)];
  const table = sharp({
    create: { width: w + 2 * margin, height: h + 2 * margin, channels: 4, background: '#8d6c4b' },
  });
  const whole = await table
    .composite([
      {
        input: Buffer.from(
          `<svg xmlns="http://www.w3.org/2000/svg" width="${w + 60}" height="${h + 60}"><rect x="30" y="34" width="${w}" height="${h}" rx="8" fill="#000" opacity=".55"/></svg>`,
        ),
        left: margin - 20,
        top: margin - 10,
      },
      {
        input: await sharp(plate(instrument, scale)).resize(w, h).png().toBuffer(),
        left: margin,
        top: margin,
      },
    ])
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const source = { ...whole.info, data: new Uint8ClampedArray(whole.data) };
  // What of the table and the plate each corner of the picture shows.
  const plateCorners = [
    [margin, margin],
    [margin + w, margin],
    [margin + w, margin + h],
    [margin, margin + h],
  ];
  const there = homographyBetween(CORNERS, plateCorners);
  const seen = [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ].map((corner) => {
    const [x, y] = through(there, corner);
    return [x / source.width, y / source.height];
  });
  const picture = straighten(source, seen, WIDTH, HEIGHT);
  // A little noise and softness, as a camera has it.
  const grain = Buffer.alloc(WIDTH * HEIGHT * 4);
  let state = 7;
  for (let i = 0; i < picture.data.length; i++) {
    state = (state * 1664525 + 1013904223) >>> 0;
    grain[i] =
      (i & 3) === 3 ? 255 : Math.max(0, Math.min(255, picture.data[i] + (state >>> 28) - 8));
  }
  return sharp(grain, { raw: { width: WIDTH, height: HEIGHT, channels: 4 } })
    .blur(0.8)
    .jpeg({ quality: 84 })
    .toBuffer();
}
