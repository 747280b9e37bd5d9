import { type Instrument, sectionsInOrder, type Step } from '@hurrel/core';

/** Where a step is made: the section's number in the working order, or the letter of what is no section, and its name. */
export interface StepSection {
  number: string;
  name: string;
}

const NOT_ON_THE_PANEL: Partial<Record<Step['kind'], StepSection>> = {
  row: { number: 'M', name: 'Matrix' },
  entry: { number: 'S', name: 'Sequencer' },
  store: { number: 'P', name: 'Memory' },
  load: { number: 'P', name: 'Memory' },
};
const WITHOUT_SECTION: Partial<Record<Step['kind'], string>> = {
  rack: 'Cabinet',
  outboard: 'Behind the instrument',
};

export function sectionOfStep(instrument: Instrument, step: Step): StepSection {
  const fixed = NOT_ON_THE_PANEL[step.kind];
  if (fixed) return fixed;
  const id = step.kind === 'listening' ? step.checkpoint.after : 'section' in step && step.section;
  const order = sectionsInOrder(instrument);
  const at = order.findIndex((s) => s.id === id);
  return at < 0
    ? { number: '', name: WITHOUT_SECTION[step.kind] ?? '' }
    : { number: String(at + 1), name: order[at]!.name };
}
