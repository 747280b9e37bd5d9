import type { Control, Instrument, Section } from './schema';
import { stages } from './stages';

/** Sections in the order in which people work: output, oscillators, mixer, amplifier, filter ...; else as described. */
export const sectionsInOrder = (instrument: Instrument): Section[] =>
  instrument.sections
    .map((section, i) => ({ section, i }))
    .sort((a, b) => stages.indexOf(a.section.stage) - stages.indexOf(b.section.stage) || a.i - b.i)
    .map((entry) => entry.section);

/** Controls in working order: by section, inside a section as the instrument describes them. */
export function inWorkingOrder(instrument: Instrument): Control[] {
  const rank = new Map(sectionsInOrder(instrument).map((s, i) => [s.id, i]));
  return instrument.controls
    .map((control, i) => ({ control, i }))
    .sort(
      (a, b) =>
        (rank.get(a.control.section) ?? Infinity) - (rank.get(b.control.section) ?? Infinity) ||
        a.i - b.i,
    )
    .map((entry) => entry.control);
}
