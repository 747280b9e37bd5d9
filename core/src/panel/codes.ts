import type { Instrument } from '../instrument/schema';
import { inWorkingOrder, sectionsInOrder } from '../instrument/order';

const SECTIONS = '1234567890';

/**
 * Two keys that name each control: the number of its section in working order (0 is the tenth) and a letter. Controls
 * beyond the tenth section or the twenty-sixth of a section are told by three keys: a letter of the section, then two.
 */
export function controlCodes(instrument: Instrument): Map<string, string> {
  const codes = new Map<string, string>();
  const controls = inWorkingOrder(instrument);
  sectionsInOrder(instrument).forEach((section, s) => {
    controls
      .filter((c) => c.section === section.id)
      .forEach((control, i) => {
        const short = s < SECTIONS.length && i < 26;
        codes.set(
          control.id,
          short
            ? `${SECTIONS[s]}${letter(i)}`
            : `${letter(s)}${letter(Math.floor(i / 26))}${letter(i)}`,
        );
      });
  });
  return codes;
}

const letter = (i: number): string => String.fromCharCode(97 + (i % 26));
