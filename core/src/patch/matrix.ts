import type { Matrix } from '../instrument/matrix';
import type { MatrixRow } from './schema';

/** What the panel shows for a depth: `+32`, `-100 %`, `0`. */
export function depthText(matrix: Matrix, depth: number): string {
  const { most, step, unit } = matrix.depth;
  const decimals = Math.max(0, Math.ceil(-Math.log10(step) - 1e-9));
  const shown = (depth * most).toFixed(decimals);
  const sign = depth > 0 ? '+' : '';
  return `${sign}${/^-0(\.0*)?$/.test(shown) ? shown.slice(1) : shown}${unit === '' ? '' : ` ${unit}`}`;
}

/** Depth -1..1 of what is typed, to the step that the panel resolves; undefined when it is no number it can show. */
export function parseDepth(matrix: Matrix, text: string): number | undefined {
  const { most, step } = matrix.depth;
  const match = /^([+-]?\d+(?:[.,]\d+)?)\s*(%|\D*)$/.exec(text.trim().replace(/^[−–]/, '-'));
  if (!match) return undefined;
  const number = Number(match[1]!.replace(',', '.'));
  if (Math.abs(number) > most) return undefined;
  return (Math.round(number / step) * step) / most || 0;
}

/** A row in one line: `LFO 1 to cutoff +32`. */
export function matrixRowText(matrix: Matrix, row: MatrixRow): string {
  const source = matrix.sources.find((s) => s.id === row.source)?.name ?? row.source;
  const destination =
    matrix.destinations.find((d) => d.id === row.destination)?.name ?? row.destination;
  return `${source} to ${destination} ${depthText(matrix, row.depth)}`;
}

/** First row that holds nothing, from 0; undefined when all are taken. */
export function freeRow(matrix: Matrix, rows: readonly MatrixRow[]): number | undefined {
  const taken = new Set(rows.map((r) => r.row));
  for (let row = matrix.fixed.length; row < matrix.rows; row++) if (!taken.has(row)) return row;
  return undefined;
}

/** Rows with one of them put in, taken out (depth 0 of a free row), or changed; in order of their numbers. */
export function withRow(rows: readonly MatrixRow[], row: MatrixRow | number): MatrixRow[] {
  const number = typeof row === 'number' ? row : row.row;
  const others = rows.filter((r) => r.row !== number);
  return (typeof row === 'number' ? others : [...others, row]).sort((a, b) => a.row - b.row);
}
