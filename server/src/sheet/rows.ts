import {
  type Cabling,
  type Entering,
  type Instrument,
  type Listening,
  type Loading,
  type Movement,
  type Racking,
  type Storing,
  type RowSetting,
  sayStep,
  sectionsInOrder,
  type Step,
  stepName,
} from '@hurrel/core';
import type { SheetContent } from './content';

export interface Row {
  kind: 'section' | 'movement' | 'listen';
  left: string;
  right: string;
  note: string;
}

/** The list of a sheet: what to do, section by section, with places to listen. */
export function listRows({
  instrument,
  patch,
  plan,
}: Pick<SheetContent, 'instrument' | 'patch' | 'plan'>): Row[] {
  const numbers = new Map(sectionsInOrder(instrument).map((s, i) => [s.id, `${i + 1}  ${s.name}`]));
  const rows: Row[] = [];
  let section = '';
  for (const step of plan.steps) {
    if (step.kind === 'listening') {
      const { checkpoint } = step;
      rows.push({
        kind: 'listen',
        left: stepName(instrument, step),
        right: '',
        note: checkpoint.hear,
      });
      continue;
    }
    const group = groupOf(step);
    if (group !== section) {
      section = group;
      rows.push({
        kind: 'section',
        left: numbers.get(section) ?? section,
        right: '',
        note: patch.notes[`section:${section}`] ?? '',
      });
    }
    if (step.kind !== 'movement') {
      rows.push(
        step.kind === 'row'
          ? matrixRow(instrument, step)
          : {
              ...long,
              left: sayLong(step),
              note: 'told' in step ? step.told.join('  ') : '',
            },
      );
      continue;
    }
    rows.push({
      kind: 'movement',
      left: stepName(instrument, step),
      right: step.to,
      note: movementNote(step),
    });
  }
  return rows;
}

const long = { kind: 'movement', right: '', note: '' } as const;

/** Heading that a step stands under: its section, or what it has to do with. */
function groupOf(step: Exclude<Step, Listening>): string {
  if (step.kind === 'movement') return step.section;
  if (step.kind === 'row') return 'Matrix';
  if (step.kind === 'entry') return 'Sequencer';
  if (step.kind === 'store' || step.kind === 'load') return 'Memory';
  if (step.kind === 'outboard') return 'Behind the instrument';
  return step.kind === 'rack' ? 'Cabinet, with the power off' : 'Cables';
}

const sayLong = (step: Cabling | Racking | Entering | Storing | Loading): string => {
  if (step.kind === 'entry' || step.kind === 'store' || step.kind === 'load') return step.text;
  // The fonts of the sheet have no arrow.
  const text = step.text.replaceAll('→', 'to');
  return 'note' in step && step.note ? `${text} (${step.note})` : text;
};

const matrixRow = (instrument: Instrument, step: RowSetting): Row => ({
  ...long,
  left: sayStep(instrument, step),
  note: '',
});

const movementNote = (step: Movement): string =>
  [
    step.from === '?' ? '' : `from ${step.from}`,
    step.range ? `anywhere ${step.range[0]} to ${step.range[1]}` : '',
    step.target ? `by ear: ${step.target}` : '',
    step.note ?? '',
  ]
    .filter(Boolean)
    .join(' · ');
