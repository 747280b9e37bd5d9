import { LARGEST_SHEET } from '../instrument/limits';
import { panelOf } from '../instrument/panel-of';
import type { Instrument } from '../instrument/schema';

/**
 * A panel's sheet around what is on it. It holds the photograph beneath, and where the real one's size is
 * known it is as wide for its height as that: a unit is as
 * many millimetres across as down.
 * @param width and height that what is on it needs, in panel units
 */
export function sheetOf(
  panel: Instrument['panel'],
  width: number,
  height: number,
): Instrument['panel'] {
  const across = Math.max(width, panel.photograph?.width ?? 0);
  const down = Math.max(height, panel.photograph?.height ?? 0);
  if (!panel.millimetres) return { ...panel, width: across, height: down };
  const ratio = panel.millimetres.width / panel.millimetres.height;
  return {
    ...panel,
    width: Math.max(across, Math.min(LARGEST_SHEET, Math.ceil(down * ratio))),
    height: Math.max(down, Math.min(LARGEST_SHEET, Math.ceil(across / ratio))),
  };
}

/** Millimetres that a unit of a panel is on the real one; undefined when its size is not known. */
export const millimetresAUnit = ({ panel }: Pick<Instrument, 'panel'>): number | undefined =>
  panel.millimetres && panel.millimetres.width / panel.width;

/** The instrument with the size of the real one, or without it. */
export function withMillimetres(
  instrument: Instrument,
  millimetres: Instrument['panel']['millimetres'] | null,
): Instrument {
  const { millimetres: _, ...panel } = instrument.panel;
  return resized(instrument, millimetres ? { ...panel, millimetres } : panel);
}

/** The instrument with a photograph beneath its panel, or without one. */
export function withPhotograph(
  instrument: Instrument,
  photograph: Instrument['panel']['photograph'] | null,
): Instrument {
  const { photograph: _, ...panel } = instrument.panel;
  return resized(instrument, photograph ? { ...panel, photograph } : panel);
}

/** The instrument on another sheet, around what is on it. */
export function resized(instrument: Instrument, sized: Instrument['panel']): Instrument {
  const { sections } = panelOf(instrument);
  const width = Math.max(112, ...sections.map((s) => Math.ceil(s.x + s.width))) + 8;
  const height = Math.max(72, ...sections.map((s) => Math.ceil(s.y + s.height))) + 8;
  return { ...instrument, panel: sheetOf(sized, width, height) };
}
