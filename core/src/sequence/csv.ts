import Papa from 'papaparse';
import { midiToNote } from '../theory/note';
import type { Pattern } from '../pattern/pattern';
import { stepOf } from '../pattern/steps';

const COLUMNS = [
  'track',
  'step',
  'notes',
  'tie',
  'velocity',
  'length',
  'accent',
  'slide',
  'condition',
  'micro',
  'own values',
  'volts',
] as const;

/** The steps of a pattern as a table, one line a step that holds something; RFC 4180, and nothing that a table would compute. */
export function patternCsv(pattern: Pattern): string {
  const lines: unknown[][] = [];
  for (const track of pattern.tracks) {
    for (let i = 0; i < track.length; i++) {
      const step = stepOf(track, i);
      const volts = Object.entries(track.rows).flatMap(([row, values]) =>
        values[i] === undefined ? [] : [`${row}=${values[i]}`],
      );
      if (Object.keys(step).length === 0 && volts.length === 0) continue;
      const ownValues = Object.entries(step.ownValues ?? {}).map(
        ([control, value]) => `${control}=${value}`,
      );
      lines.push([
        track.name,
        i + 1,
        step.notes?.map(midiToNote).join(' '),
        step.tie ? 1 : undefined,
        step.velocity,
        step.length,
        step.accent ? 1 : undefined,
        step.slide ? 1 : undefined,
        step.condition,
        step.micro,
        ownValues.join(' '),
        volts.join(' '),
      ]);
    }
  }
  return `${Papa.unparse({ fields: [...COLUMNS], data: lines }, { escapeFormulae: true })}\r\n`;
}
