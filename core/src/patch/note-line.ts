import type { Setting } from '../reading/setting';
import type { Control, Instrument } from '../instrument/schema';
import { controlLabel, controlName } from '../instrument/control-name';
import { parseReading } from '../reading/parse';

/** What one item of a note line was understood as. */
export interface LineItem {
  text: string;
  /** Control that was found, if one was. */
  control?: string;
  setting?: Setting | null;
  /** Why it was not understood, and what would have been. */
  error?: string;
}

/**
 * Reads notes as people jot them down: `cutoff 3.5-4, resonance 2; osc 2 fine 2:30`. Items end at a comma, a semicolon or
 * a line's end; each is a control's name, or its section's name and its own, whole or shortened word by word, then a
 * reading. A line that begins with two strokes is left out. A section named alone with a colon (`Filter: cutoff 4, resonance 2`) holds for the items behind it.
 * @param tempo quarter notes a minute, for note lengths
 * @returns one entry an item, in order; nothing is applied
 */
export function parseNoteLine(text: string, instrument: Instrument, tempo = 120): LineItem[] {
  // What stands behind two strokes is said to people.
  const lines = text.split('\n').filter((line) => !/^\s*\/\//.test(line));
  return lines
    .flatMap((line) => line.split(';'))
    .flatMap((written) => {
      const line = withoutCommas(written, instrument);
      const { section, rest } = readHeading(line, instrument);
      return splitItems(rest).map((item) => readItem(item, instrument, section, tempo));
    });
}

/** Names that hold a comma themselves (`Envelope 1, level`) are written without: it would part items. */
const withoutCommas = (line: string, { sections, controls }: Instrument): string =>
  [...sections, ...controls]
    .filter(({ name }) => name.includes(','))
    .reduce((text, { name }) => {
      const at = text.toLowerCase().indexOf(name.toLowerCase());
      const end = at + name.length;
      return at < 0 ? text : text.slice(0, at) + name.replace(/,/g, '') + text.slice(end);
    }, line);

/** A section named with a colon in front of a line; times of the clock have colons too, but name no section. */
function readHeading(line: string, instrument: Instrument): { section?: string; rest: string } {
  const heading = /^\s*([^:]{1,80}):\s*(.*)$/s.exec(line);
  const section = heading ? findSection(heading[1]!, instrument) : undefined;
  return section ? { section, rest: heading![2]! } : { rest: line };
}

/** Commas part items, but not inside a number (`3,5`) nor before `best`. */
const splitItems = (line: string): string[] =>
  line
    .split(/,(?!\d)(?!\s*best)/)
    .map((s) => s.trim())
    .filter((s) => s !== '');

function readItem(
  text: string,
  instrument: Instrument,
  section: string | undefined,
  tempo: number,
): LineItem {
  const words = text.split(/\s+/);
  const candidates: { control: Control; length: number }[] = [];
  for (let length = Math.min(words.length - 1, 6); length >= 1; length--) {
    const found = findControls(words.slice(0, length), instrument, section);
    if (found.length === 1) candidates.push({ control: found[0]!, length });
  }
  for (const { control, length } of candidates) {
    const parsed = parseReading(words.slice(length).join(' '), control, undefined, tempo);
    if (parsed.ok) return { text, control: control.id, setting: parsed.setting };
  }
  const nearest = candidates[0];
  if (nearest) {
    const parsed = parseReading(
      words.slice(nearest.length).join(' '),
      nearest.control,
      undefined,
      tempo,
    );
    return {
      text,
      control: nearest.control.id,
      error: parsed.ok ? '' : `${parsed.message} Expected ${parsed.expected}.`,
    };
  }
  const several = findControls(words.slice(0, 1), instrument, section);
  return {
    text,
    error:
      several.length > 1
        ? `"${words[0]}" could be ${several
            .slice(0, 4)
            .map((c) => fullName(c, instrument))
            .join(', ')}: name the section too.`
        : `No control is called "${words[0]}".`,
  };
}

const fullName = (control: Control, instrument: Instrument): string =>
  controlLabel(instrument, control.id);

const normal = (text: string): string[] =>
  text
    .toLowerCase()
    .replace(/[,.()]/g, ' ')
    .replace(/([a-z])(\d)/g, '$1 $2')
    .split(/[\s-]+/)
    .filter((w) => w !== '');

/** Every word of `given` begins a word of `full`, in the same order. */
function shortens(given: string[], full: string[]): boolean {
  let at = 0;
  for (const word of given) {
    while (at < full.length && !full[at]!.startsWith(word)) at++;
    if (at === full.length) return false;
    at++;
  }
  return given.length > 0;
}

function findSection(text: string, instrument: Instrument): string | undefined {
  const given = normal(text);
  const exact = instrument.sections.find((s) => normal(s.name).join(' ') === given.join(' '));
  if (exact) return exact.id;
  const found = instrument.sections.filter((s) => shortens(given, normal(s.name)));
  return found.length === 1 ? found[0]!.id : undefined;
}

function findControls(
  words: string[],
  instrument: Instrument,
  section: string | undefined,
): Control[] {
  const given = normal(words.join(' '));
  const within = instrument.controls.filter((c) => !section || c.section === section);
  const name = (c: Control): string[] => normal(controlName(instrument, c));
  const written = given.join(' ');
  const exact = within.filter(
    (c) => name(c).join(' ') === written || normal(fullName(c, instrument)).join(' ') === written,
  );
  if (exact.length === 1) return exact;
  const byName = within.filter(
    (c) => name(c)[0]?.startsWith(given[0] ?? ' ') && shortens(given, name(c)),
  );
  if (byName.length === 1) return byName;
  return within
    .filter((c) => {
      const full = normal(fullName(c, instrument));
      return (
        full[0]?.startsWith(given[0] ?? ' ') && shortens(given, full) && endsInName(given, name(c))
      );
    })
    .concat(byName.filter(() => given.length === 1));
}

/** The last word given belongs to the control's own name, not to its section's. */
const endsInName = (given: string[], name: readonly string[]): boolean =>
  name.some((w) => w.startsWith(given.at(-1)!));
