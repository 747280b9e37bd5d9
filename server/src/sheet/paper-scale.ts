import type { Instrument } from '@hurrel/core';

/** Points of paper to a millimetre. */
export const POINTS_A_MM = 72 / 25.4;
/** So many millimetres of the real one to one on paper: what one can reckon with. */
const RATIOS = [1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 30, 40, 50];

export interface PaperScale {
  /** Points of paper to a unit of the panel. */
  scale: number;
  /** The real one is so many times as large; absent when its size is not known. */
  ratio?: number;
}

/**
 * How large a panel is drawn on paper: as large as fits; where its real size is known, the largest scale that one can
 * reckon with.
 * @param width and height that there are on the page, in points
 */
export function paperScale(panel: Instrument['panel'], width: number, height: number): PaperScale {
  const fits = Math.min(width / panel.width, height / panel.height);
  if (!panel.millimetres) return { scale: fits };
  const real = (panel.millimetres.width / panel.width) * POINTS_A_MM;
  const ratio = RATIOS.find((r) => real / r <= fits + 1e-9);
  return ratio === undefined ? { scale: fits } : { scale: real / ratio, ratio };
}
