import type { Control, Instrument, Section } from './schema';
import { stages } from './stages';

/** Sections in the order in which people work: output, oscillators, mixer, amplifier, filter ...; else as described. */
export const sectionsInOrder = (instrument: Instrument): Section[] =>
  instrument.sections
    .map((section, i) => ({ section, i }))
    .sort((a, b) => stages.indexOf(a.section.stage) - stages.indexOf(b.section.stage) || a.i - b.i)
    .map((entry) => entry.section);

/**
 * The section behind which a pitch is as a rule first heard while a panel is set: the last of the oscillators and the mixers, as
 * levels that are still down let none through; the first of all where there are none. No promise: what passes through an
 * amplifier or an input that comes later is heard later (4 of the 59 patches that come with Hurrel are silent there, 27 behind
 * their oscillators). What is rendered there tells.
 */
export const pitchHeardAfter = (instrument: Instrument): Section | undefined => {
  const sections = sectionsInOrder(instrument);
  return sections.findLast((s) => s.stage === 'oscillators' || s.stage === 'mixer') ?? sections[0];
};

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
