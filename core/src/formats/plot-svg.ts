/** A plot to be kept: axes with units, one line. */
export interface PlotFile {
  title: string;
  /** What it was made from. */
  note: string;
  x: { label: string; from: number; to: number; log?: boolean; ticks: readonly number[] };
  y: { label: string; from: number; to: number; ticks: readonly number[] };
  points: readonly (readonly [number, number])[];
}

const WIDTH = 960;
const HEIGHT = 480;
const EDGE = { left: 72, right: 24, top: 56, bottom: 56 };

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);
const short = (value: number): string =>
  Math.abs(value) >= 1000 ? `${value / 1000}k` : String(value);

/** A plot as an SVG document of 960 x 480, black on white, with everything in it that it needs. */
export function plotSvg({ title, note, x, y, points }: PlotFile): string {
  const place = x.log ? Math.log10 : (v: number): number => v;
  const [x0, x1] = [place(x.from), place(x.to)];
  const toX = (v: number): number =>
    EDGE.left + ((place(v) - x0) / (x1 - x0)) * (WIDTH - EDGE.left - EDGE.right);
  const toY = (v: number): number =>
    HEIGHT - EDGE.bottom - ((v - y.from) / (y.to - y.from)) * (HEIGHT - EDGE.top - EDGE.bottom);
  const line = points
    .filter(([a]) => a >= x.from && a <= x.to)
    .map(([a, b]) => `${toX(a).toFixed(2)} ${toY(Math.min(y.to, Math.max(y.from, b))).toFixed(2)}`);
  const grid = [
    ...x.ticks.map((t) => `M${toX(t).toFixed(1)} ${EDGE.top}V${HEIGHT - EDGE.bottom}`),
    ...y.ticks.map((t) => `M${EDGE.left} ${toY(t).toFixed(1)}H${WIDTH - EDGE.right}`),
  ].join('');
  const texts = [
    ...x.ticks.map((t) => [toX(t), HEIGHT - EDGE.bottom + 20, 'middle', short(t)] as const),
    ...y.ticks.map((t) => [EDGE.left - 8, toY(t) + 4, 'end', short(t)] as const),
    [WIDTH - EDGE.right, HEIGHT - 12, 'end', x.label] as const,
    [EDGE.left, EDGE.top - 10, 'start', y.label] as const,
  ].map(
    ([a, b, anchor, text]) =>
      `<text x="${a.toFixed(1)}" y="${b.toFixed(1)}" text-anchor="${anchor}">${escaped(text)}</text>`,
  );
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${HEIGHT}" viewBox="0 0 ${WIDTH} ${HEIGHT}" font-family="sans-serif" font-size="13" fill="#333">`,
    `<title>${escaped(title)}</title><desc>${escaped(note)}</desc>`,
    `<rect width="${WIDTH}" height="${HEIGHT}" fill="#fff"/>`,
    `<path d="${grid}" fill="none" stroke="#ddd"/>`,
    `<path d="M${line.join('L')}" fill="none" stroke="#14507f" stroke-width="1.6" stroke-linejoin="round"/>`,
    `<text x="${EDGE.left}" y="26" font-size="17" font-weight="bold">${escaped(title)}</text>`,
    `<text x="${EDGE.left}" y="${HEIGHT - 12}" fill="#666">${escaped(note)}</text>`,
    ...texts,
    '</svg>',
  ].join('\n');
}
