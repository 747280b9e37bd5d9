import fc from 'fast-check';
import { formatLine, type LineStep, lineToPhrase, parseLine, phraseToLine } from './line';
import { cannotEnter, entryScript, type Press, TwoPassBox } from './two-pass';

const note = (n: number, marks = ''): LineStep => ({
  kind: 'note',
  note: n,
  accent: marks.includes("'"),
  slide: marks.includes('~'),
});
const read = (text: string): LineStep[] => {
  const reading = parseLine(text);
  if (!reading.ok) throw new Error(reading.error.message);
  return reading.steps;
};

/** Lines whose ties hold something on. */
const anyLine = fc
  .array(
    fc.oneof(
      fc.record({
        kind: fc.constant('note' as const),
        note: fc.integer({ min: 12, max: 71 }),
        accent: fc.boolean(),
        slide: fc.boolean(),
      }),
      fc.constantFrom<LineStep>({ kind: 'tie' }, { kind: 'rest' }),
    ),
    { maxLength: 64 },
  )
  .map((steps) => {
    const kept: LineStep[] = [];
    for (const s of steps) {
      const last = kept.at(-1);
      kept.push(s.kind === 'tie' && (!last || last.kind === 'rest') ? { kind: 'rest' } : s);
    }
    return kept;
  });

describe('a typed line', () => {
  it('is notes, ties, rests, accents and slides', () => {
    expect(read("c2 - . d#2'")).toEqual([
      note(36),
      { kind: 'tie' },
      { kind: 'rest' },
      note(39, "'"),
    ]);
    expect(read("c2~ d'~ | bb1")).toEqual([note(36, '~'), note(38, "'~"), note(34)]);
  });

  it('is refused at the place, with what was expected', () => {
    const wrong = (text: string) => {
      const reading = parseLine(text);
      return reading.ok ? undefined : [reading.error.at, reading.error.message];
    };
    expect(wrong('c2 h2')).toEqual([3, expect.stringContaining('"h2" is none of')]);
    expect(wrong('. -')).toEqual([2, expect.stringContaining('no note to hold on')]);
    expect(wrong('c')).toEqual([0, expect.stringContaining('needs an octave')]);
    expect(wrong('c2 '.repeat(65))).toEqual([192, expect.stringContaining('64 steps')]);
  });

  it('is written as it is read', () => {
    fc.assert(fc.property(anyLine, (steps) => expect(read(formatLine(steps))).toEqual(steps)));
  });

  it('is played, and read off what is played', () => {
    const steps = read("c2 - . d#2'~ f2 . g2 - - -");
    const phrase = lineToPhrase(steps);
    expect(phrase.map((n) => [n.beat, n.note, n.velocity > 110])).toEqual([
      [0, 36, false],
      [0.75, 39, true],
      [1, 41, false],
      [1.5, 43, false],
    ]);
    expect(phraseToLine(phrase)).toEqual(steps);
    expect(phraseToLine([...phrase, { ...phrase[0]!, note: 48 }])).toBeUndefined();
    expect(phraseToLine([{ ...phrase[0]!, beat: 0.1 }])).toBeUndefined();
  });
});

const typed = (presses: readonly Press[]): LineStep[] => {
  const box = new TwoPassBox();
  for (const press of presses) box.press(press);
  return box.line();
};

describe('the presses that enter a line', () => {
  it('are the sounding pitches, then the time, then the marks, worked out by hand', () => {
    const { passes, presses } = entryScript(read("c2 - . d#2'~ c3 ."));
    expect(passes.map((p) => [p.name, p.told.join(' ')])).toEqual([
      ['pitches', 'C2 D#2 C3'],
      ['time', 'note tie rest note note rest'],
      ['accents and slides', '4 accent and slide'],
    ]);
    // PITCH, C, D#, UP, C; TIME and six steps; MARKS, three times NEXT, ACCENT, SLIDE.
    expect(presses).toBe(5 + 7 + 6);
  });

  it('give any line back when they are typed into an empty box', () => {
    fc.assert(
      fc.property(anyLine, (steps) => {
        const script = entryScript(steps);
        const line = typed(script.passes.flatMap((p) => p.presses));
        expect(line).toEqual(steps);
        expect(script.presses).toBe(script.passes.reduce((sum, p) => sum + p.presses.length, 0));
      }),
    );
  });

  it('are refused where the box cannot: too long, too high', () => {
    expect(cannotEnter(read('c2 '.repeat(17)), 16)).toMatch(/17 steps, the box has 16/);
    expect(cannotEnter(read('c6'), 16)).toMatch(/C6 is out of its reach, C0 to B4/);
    expect(cannotEnter(read('c2 c4'), 16)).toBeUndefined();
  });
});
