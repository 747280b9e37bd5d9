import { stageSchema } from '../instrument/schema';
import {
  MOST_CABINET_ROWS,
  MOST_CONTROLS,
  MOST_JACKS,
  MOST_ON_A_MODULE,
  MOST_PLACED,
  MOST_SECTIONS,
  MOST_TYPES,
} from '../instrument/limits';
import { guessAmount, guessKind, guessSignal, guessStage } from './guess';
import { HIGHEST_CC, LineFault, readControl, readJack, readWords } from './line';
import {
  LONGEST_NAME,
  type OutlineControl,
  type OutlineFault,
  type OutlineGuess,
  type OutlineReading,
  type OutlineSection,
  type Stage,
} from './outline';
import { isByRatio, readOnScale, travelAt } from './scale';

const ROW = /^(\d+)\s*x\s+(.+?)\s*:\s*(.+)$/i;
const AS = /^(.*\S)\s*:\s*as\s+(.+)$/i;
const SECTION = /^(.*\S)\s*:\s*(?:(module)(?:\s+(\S+))?|(\S*))$/;
/** Longer than any row of names; what is pasted by mistake is not worked on for long. */
const LONGEST_LINE = 2000;
/** The last `by` parts name and maker; `by:` parts them where the maker has one of its own, and one at the end says no maker. */
const TITLES = [/^(.+?)\s+by:\s+(.+)$/, /^(.+)\s+by$/, /^(.+)\s+by\s+(.+)$/];

/**
 * Reads a panel in words, line by line:
 *
 * - `Crane by Saltpan`, before the first section: name and maker; `Stand by Me by`: a name and no maker;
 * - `Filter:` a section; `Filter: filter` with its place in the order of work; `Osc 2: as Osc 1` with the same in it;
 * - `cutoff 0..10`, `wave saw/pulse`, `fine`, `rate 20-20k Hz slider = 100 via menu > rate`: a control, see `readControl`;
 * - `| attack 0..10`: a slider; `+ resonance 0..10`: on the same knob as the one above;
 * - `4 x 0..10 slider: attack, decay, sustain, release`: a row of like ones;
 * - `< cutoff in, modulation`, `> line out`: a jack that goes in, or out;
 * - `VCO: module`, `VCO: module oscillators`: a kind of module that can stand in a cabinet, with what is on it below;
 * - `= VCO, VCO, Filter`: a row of the cabinet, from the left; the next such line is the row beneath;
 * - an empty line, or one that begins with two strokes: nothing.
 *
 * A line that is not understood is told with its place, and leaves the others as they are.
 */
export function readOutline(text: string): OutlineReading {
  const reader = new Reader();
  text.split(/\r?\n/).forEach((line, i) => reader.take(line, i + 1));
  return reader.reading;
}

class Reader {
  readonly reading: OutlineReading = {
    outline: { name: '', maker: '', sections: [] },
    faults: [],
    guesses: [],
  };
  private controls = 0;
  private jacks = 0;

  take(whole: string, line: number): void {
    const text = whole.trim();
    if (text === '' || text.startsWith('//')) return;
    try {
      if (text.length > LONGEST_LINE)
        throw new LineFault(`A line has ${LONGEST_LINE} letters at most.`, text);
      this.understand(text, line);
    } catch (error) {
      if (!(error instanceof LineFault)) throw error;
      this.fault(whole, line, error.part, error.message);
    }
  }

  private understand(text: string, line: number): void {
    const { outline } = this.reading;
    const row = ROW.exec(text);
    if (row) return this.row(row[1]!, row[2]!, row[3]!, line);
    if (/^[<>]/.test(text)) return this.jack(text, line);
    const as = AS.exec(text);
    if (as) return this.again(as[1]!, as[2]!, line);
    if (text.startsWith('=')) return this.cabinetRow(text.slice(1), text);
    const section = SECTION.exec(text);
    const stage = section?.[3] ?? section?.[4] ?? '';
    if (section && isSectionEnd(stage))
      return void this.section(section[1]!, stage, line, section[2] !== undefined);
    if (outline.sections.length === 0) return this.title(text);
    if (text.startsWith('+')) return this.second(text.slice(1).trim(), line);
    this.control(readControl(text), line, text);
  }

  private title(text: string): void {
    const { outline } = this.reading;
    if (outline.name !== '')
      throw new LineFault(
        'Which section is this in? Write the section’s name above it, with a colon behind.',
        text,
      );
    const title = TITLES.map((form) => form.exec(text)).find((found) => found !== null);
    const [, name = text, maker = ''] = title ?? [];
    const long = [name, maker].find((part) => part.length > LONGEST_NAME);
    if (long) throw new LineFault(`A name has ${LONGEST_NAME} letters at most.`, long);
    outline.name = name;
    outline.maker = maker;
  }

  private section(name: string, stage: string, line: number, module = false): OutlineSection {
    const { sections } = this.reading.outline;
    if (module && name.includes(','))
      throw new LineFault('Rows are written with commas: a module’s name has none.', name);
    if (module && sections.filter((s) => s.module).length === MOST_TYPES)
      throw new LineFault(`A cabinet has ${MOST_TYPES} kinds of module at most.`, name);
    if (name.length > LONGEST_NAME)
      throw new LineFault(`A name has ${LONGEST_NAME} letters at most.`, name);
    if (sections.some((s) => s.name.toLowerCase() === name.toLowerCase()))
      throw new LineFault(`There is a section "${name}" already: give this one a number.`, name);
    if (sections.length === MOST_SECTIONS)
      throw new LineFault(`A panel has ${MOST_SECTIONS} sections at most.`, name);
    const made: OutlineSection = {
      name,
      ...(module ? { module: true as const } : {}),
      controls: [],
      jacks: [],
    };
    if (stage !== '') made.stage = stage as Stage;
    else this.guess(line, `${guessStage(name).replace('-', ' ')}, by its name`);
    sections.push(made);
    return made;
  }

  private again(name: string, model: string, line: number): void {
    const { sections } = this.reading.outline;
    const like = sections.find((s) => s.name.toLowerCase() === model.toLowerCase());
    if (!like) throw new LineFault(`There is no section "${model}" above.`, model);
    this.room(like.controls.length, like.jacks.length, name);
    const made = this.section(name, like.stage ?? '', line, like.module === true);
    // Whatever else is the same, each sends a number of its own.
    made.controls = like.controls.map(({ cc: _, ...same }) => structuredClone(same));
    made.jacks = structuredClone(like.jacks);
    this.controls += made.controls.length;
    this.jacks += made.jacks.length;
  }

  private row(count: string, words: string, names: string, line: number): void {
    const all = names.split(',').map((n) => n.trim());
    if (all.length !== Number(count))
      throw new LineFault(`${count} were announced, and ${all.length} are named.`, count);
    const like = readWords(words);
    const made = all.map((name, i) => {
      if (name === '') throw new LineFault('Between two commas a name is missing.', names);
      if (name.length > LONGEST_NAME)
        throw new LineFault(`A name has ${LONGEST_NAME} letters at most.`, name);
      // Their controller numbers follow one another.
      const cc = like.cc === undefined ? {} : { cc: like.cc + i };
      return { name, ...structuredClone(like), ...cc };
    });
    this.room(made.length, 0, names);
    for (const control of made) this.control(control, line, words);
  }

  private cabinetRow(words: string, text: string): void {
    const { outline } = this.reading;
    const modules = new Map(
      outline.sections.filter((s) => s.module).map((s) => [s.name.toLowerCase(), s.name]),
    );
    const names = words.trim() === '' ? [] : words.split(',').map((n) => n.trim());
    const found = names.map((name) => {
      const known = modules.get(name.toLowerCase());
      if (known === undefined)
        throw new LineFault(
          name === ''
            ? 'Between two commas a module is missing.'
            : `There is no module "${name}" above: write "${name}: module", and what is on it.`,
          name === '' ? text : name,
        );
      return known;
    });
    const rows = outline.rows ?? [];
    if (rows.length === MOST_CABINET_ROWS)
      throw new LineFault(`A cabinet has ${MOST_CABINET_ROWS} rows at most.`, text);
    if (rows.flat().length + found.length > MOST_PLACED)
      throw new LineFault(`${MOST_PLACED} modules stand in a cabinet at most.`, text);
    outline.rows = [...rows, found];
  }

  private second(text: string, line: number): void {
    const above = this.reading.outline.sections.at(-1)!.controls.at(-1);
    if (!above)
      throw new LineFault('There is no control above that it could share a knob with.', text);
    this.control({ ...readControl(text), second: true }, line, text);
  }

  private control(control: OutlineControl, line: number, part: string): void {
    this.room(1, 0, part);
    checkRest(control);
    const section = this.reading.outline.sections.at(-1);
    if (!section)
      throw new LineFault(
        'Which section is this in? Write the section’s name above it, with a colon behind.',
        part,
      );
    this.sendsItsOwn(control, section, part);
    section.controls.push(control);
    this.controls++;
    const guessed = [
      ...(control.kind ? [] : [guessKind(control)]),
      ...(control.marks && isByRatio(control.marks, control.unit) ? ['by ratio'] : []),
      ...(control.amount === undefined && guessAmount(control) ? ['an amount'] : []),
    ];
    if (guessed.length > 0) this.guess(line, guessed.join(', '));
  }

  /** A controller number is one control's. */
  private sendsItsOwn({ cc }: OutlineControl, section: OutlineSection, part: string): void {
    if (cc === undefined) return;
    if (cc > HIGHEST_CC)
      throw new LineFault(`Controller numbers go from 0 to ${HIGHEST_CC}.`, `cc${cc}`);
    if (section.module)
      throw new LineFault(
        'A module can stand in a cabinet twice: it has no controller number.',
        part,
      );
    const all = this.reading.outline.sections.flatMap((s) => s.controls);
    const other = all.find((c) => c.cc === cc);
    if (other)
      throw new LineFault(`Controller number ${cc} is that of "${other.name}".`, `cc${cc}`);
  }

  private jack(text: string, line: number): void {
    const section = this.reading.outline.sections.at(-1);
    if (!section)
      throw new LineFault(
        'Which section is this in? Write the section’s name above it, with a colon behind.',
        text,
      );
    const jack = readJack(text);
    this.room(0, 1, text);
    section.jacks.push(jack);
    this.jacks++;
    if (!jack.signal) this.guess(line, guessSignal(jack));
  }

  private room(controls: number, jacks: number, part: string): void {
    if (this.controls + controls > MOST_CONTROLS)
      throw new LineFault(`A panel has ${MOST_CONTROLS} controls at most.`, part);
    if (this.jacks + jacks > MOST_JACKS)
      throw new LineFault(`A panel has ${MOST_JACKS} jacks at most.`, part);
    const section = this.reading.outline.sections.at(-1);
    if (!section?.module) return;
    if (section.controls.length + controls > MOST_ON_A_MODULE)
      throw new LineFault(`A module has ${MOST_ON_A_MODULE} controls at most.`, part);
    if (section.jacks.length + jacks > MOST_ON_A_MODULE)
      throw new LineFault(`A module has ${MOST_ON_A_MODULE} jacks at most.`, part);
  }

  private guess(line: number, says: OutlineGuess['says']): void {
    this.reading.guesses.push({ line, says });
  }

  private fault(whole: string, line: number, part: string, message: string): void {
    const found = whole.indexOf(part);
    const fault: OutlineFault =
      found < 0
        ? { line, column: 1, length: whole.length, message }
        : { line, column: found + 1, length: Math.max(1, part.length), message };
    this.reading.faults.push(fault);
  }
}

/** Behind a section's colon stands nothing, or its place in the order of work. */
const isSectionEnd = (word: string): boolean => word === '' || stageSchema.safeParse(word).success;

function checkRest({ rest, marks, positions, unit, writtenIn }: OutlineControl): void {
  if (rest === undefined) return;
  if (positions) {
    if (!positions.includes(rest)) throw new LineFault(`"${rest}" is none of its positions.`, rest);
    return;
  }
  if (!marks) {
    if (!/^\d+(\.\d+)?%$/.test(rest) || parseFloat(rest) > 100)
      throw new LineFault('Without a scale it rests at a share of its way: write = 50%.', rest);
    return;
  }
  const value = readOnScale(rest, { unit, writtenIn });
  if (Number.isNaN(value) || travelAt(marks, value) === null)
    throw new LineFault(`Its scale does not reach ${rest}.`, rest);
}
