import type { Step } from './step';
import type { Instrument } from '../instrument/schema';
import { midiToNote } from '../theory';

/** What a step is about, without its goal: the control's name, `Play C3`, `Row 2`, or what a cable's step says. */
export function stepName(instrument: Instrument, step: Step): string {
  switch (step.kind) {
    case 'movement':
      return instrument.controls.find((c) => c.id === step.control)?.name ?? step.control;
    case 'listening':
      return `Play ${midiToNote(step.checkpoint.note)}`;
    case 'row':
      return `Row ${step.row + 1}`;
    default:
      return step.text;
  }
}

/** A step of a rebuild in one line: `Filter cutoff: 3.5`, `Row 2: ...`. */
export function sayStep(instrument: Instrument, step: Step): string {
  const name = stepName(instrument, step);
  switch (step.kind) {
    case 'movement': {
      const section = instrument.sections.find((s) => s.id === step.section)?.name;
      return `${section === undefined ? '' : `${section} `}${name}: ${step.to}`;
    }
    case 'row':
      return `${name}: ${step.to}`;
    default:
      return name;
  }
}
