import equal from 'fast-deep-equal';
import { controlLabel } from '../instrument/control-name';
import { sectionsInOrder } from '../instrument/order';
import type { Control, Instrument } from '../instrument/schema';
import { readingText } from '../reading/format';
import type { Setting } from '../reading/setting';
import { parseNoteLine } from './note-line';
import type { Patch } from './schema';

/**
 * What is recorded of a panel as lines that one can read aloud, a section a line: `Filter: cutoff 4, resonance 2`. Read again
 * they say the same. What cannot be said so, because two controls of the panel are called alike, stands behind two strokes.
 */
export function writeNoteLines(
  instrument: Instrument,
  { settings }: Pick<Patch, 'settings'>,
): string {
  const lines: string[] = [];
  for (const section of sectionsInOrder(instrument)) {
    const recorded = instrument.controls.flatMap((control): [Control, Setting][] => {
      const setting = settings[control.id];
      return control.section === section.id && setting ? [[control, setting]] : [];
    });
    const apart: string[] = [];
    const together: string[] = [];
    for (const [control, setting] of recorded) {
      const reading = readingText(control, setting);
      const item = `${control.name} ${reading}`;
      if (says(`${section.name}: ${item}`, instrument, control, setting)) together.push(item);
      else {
        const whole = `${controlLabel(instrument, control.id)} ${reading}`;
        const line = says(whole, instrument, control, setting) ? whole : `// ${whole}`;
        apart.push(line);
      }
    }
    if (together.length > 0) lines.push(`${section.name}: ${together.join(', ')}`);
    lines.push(...apart);
  }
  return lines.map((line) => `${line}\n`).join('');
}

/** Whether a line is read as one setting of one control, and no other. */
function says(line: string, instrument: Instrument, control: Control, setting: Setting): boolean {
  const [item, ...more] = parseNoteLine(line, instrument);
  return (
    more.length === 0 &&
    item?.error === undefined &&
    item?.control === control.id &&
    equal(readingText(control, item.setting ?? undefined), readingText(control, setting))
  );
}
