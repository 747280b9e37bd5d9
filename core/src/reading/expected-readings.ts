import type { Control } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { readingText } from './format';
import { readingStyle } from './resolution';
import { printedText } from './shown-number';
import { meanings, scaleBounds } from './taper';
import { formatPhysical } from './unit';

/** What a reading of this control may look like, in one line. */
export function expectedReadings(control: Control): string {
  if (isSwitched(control)) {
    return `${control.positions.map((p) => p.name).join(', ')}, or #1 to #${control.positions.length}`;
  }
  const sample = readingText(control, { kind: 'set', value: 0.75 });
  const parts: string[] = [];
  switch (readingStyle(control)) {
    case 'printed': {
      const [lo, hi] = scaleBounds(control.scale!).map((n) => printedText(control.scale!, n, 6));
      parts.push(`a number from ${lo} to ${hi}`);
      break;
    }
    case 'display':
      parts.push(`what the display shows, as ${sample}`);
      break;
    case 'clock':
      parts.push('a clock time as 2:30');
      break;
    case 'percent':
      break;
  }
  if (control.scale?.unit !== '%') parts.push('per cent of the travel as 70%');
  const meaning = meanings(control)[0];
  if (meaning && meaning.unit !== '' && meaning.unit !== control.scale?.unit) {
    const [lo, hi] = meaning.bounds.map((v) => formatPhysical(v, meaning.unit));
    parts.push(`${lo} to ${hi}`);
  }
  parts.push('a range as 40-50%', '~ and a target', '* or ?');
  return parts.join('; ');
}
