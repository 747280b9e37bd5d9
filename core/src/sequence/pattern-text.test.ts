import fc from 'fast-check';
import { anySteps } from '../testing/patterns';
import { arpeggioModes } from '../pattern/arpeggio';
import { directions } from '../pattern/direction';
import { type Pattern, patternSchema } from '../pattern/pattern';
import { formatPattern, parsePatternText } from './pattern-text';
import { rateNames } from '../pattern/rate';

const name = fc
  .stringMatching(/^[A-Za-z0-9,:.' -]{1,30}$/)
  .map((s) => s.trim())
  .filter((s) => s !== '');
const id = fc.stringMatching(/^[a-z0-9][a-z0-9-]{0,10}$/);
const maybe = <T>(value: fc.Arbitrary<T>) => fc.option(value, { nil: undefined });
const anyTrack = fc.record(
  {
    id,
    name,
    on: id,
    length: fc.integer({ min: 1, max: 64 }),
    rate: fc.constantFrom(...rateNames),
    direction: fc.constantFrom(...directions),
    swing: fc.integer({ min: 500, max: 750 }).map((n) => n / 10),
    offset: fc.integer({ min: 0, max: 63 }),
    muted: fc.boolean(),
    ownFor: fc.constantFrom('note', 'step'),
    steps: anySteps({ max: 40 }),
    rows: fc.dictionary(
      id,
      fc.array(fc.double({ min: -10, max: 10, noNaN: true }).map((v) => v + 0)),
    ),
    arpeggio: fc.record({
      mode: fc.constantFrom(...arpeggioModes),
      octaves: fc.integer({ min: 1, max: 4 }),
      length: fc.double({ min: 0.05, max: 1, noNaN: true }),
      chords: fc.array(
        fc.record({
          notes: fc.uniqueArray(fc.integer({ min: 0, max: 127 }), { minLength: 1, maxLength: 8 }),
          steps: fc.integer({ min: 1, max: 256 }),
        }),
        { minLength: 1, maxLength: 4 },
      ),
    }),
  },
  { requiredKeys: ['id', 'name', 'steps', 'length'] },
);
const anyPattern: fc.Arbitrary<Pattern> = fc
  .record({
    id,
    name,
    sequencer: maybe(id),
    place: maybe(fc.constantFrom('A1', 'B12')),
    bars: fc.integer({ min: 1, max: 64 }),
    transpose: fc.integer({ min: -48, max: 48 }),
    next: maybe(id),
    about: fc.array(name, { maxLength: 3 }).map((lines) => lines.join('\n')),
    tracks: fc.array(anyTrack, { minLength: 1, maxLength: 4 }),
  })
  .map((pattern) => patternSchema.parse(pattern));

const refused = (text: string) => {
  const reading = parsePatternText(text);
  if (reading.ok) throw new Error('It was taken.');
  return reading;
};

describe('a pattern as text', () => {
  it('comes back as it was written, whatever is in it', () => {
    fc.assert(
      fc.property(anyPattern, (pattern) => {
        expect(parsePatternText(formatPattern(pattern))).toEqual({ ok: true, pattern });
      }),
    );
  });

  it('can be typed: blank lines, indents and the order of lines mean nothing', () => {
    const reading = parsePatternText(`pattern verse: Verse line
      bars 2
      about Thin, until the drop.
      track bass: Bass
        last 8
        c2' - . d#2~ | f2?30% .?fill
        . .
        own cutoff 1=0.5 4=1.0
        own mode 2=high
        swing 57`);
    expect(reading.ok && reading.pattern).toMatchObject({
      id: 'verse',
      bars: 2,
      about: 'Thin, until the drop.',
    });
  });

  it('says what is meant to the step', () => {
    const reading = parsePatternText(
      'pattern a: A\ntrack t: T\n last 4\n c2 -\n - x\n own cutoff 1=0.5 3=1.0\n own mode 3=high',
    );
    expect(reading.ok && reading.pattern.tracks[0]!.steps).toEqual([
      { notes: [36], ownValues: { cutoff: 0.5 } },
      { tie: true },
      { tie: true, ownValues: { cutoff: 1, mode: 'high' } },
      { notes: [60] },
    ]);
  });

  it.each([
    ['', 1, 0, /begins with a line/],
    ['track t: T', 1, 0, /begins with a line/],
    ['pattern Verse', 1, 8, /Expected "pattern name/],
    ['pattern a: A\nlast 4', 2, 0, /"last" is none of/],
    ['pattern a: A\nbars many', 2, 5, /"many" is no number/],
    ['pattern a: A\nbars 90\ntrack t: T', 1, 0, /bars: /],
    ['pattern a: A\n\ntrack t: T\n  c2 h2', 4, 5, /"h2" is none of/],
    ['pattern a: A\ntrack t: T\n  c2\n  own cutoff three', 4, 6, /3=0.5/],
    ['pattern a: A\ntrack t: T\n  own cutoff 70=0.5', 3, 0, /a track has 64/],
    ['pattern a: A\ntrack t: T\nchord c3 4', 3, 0, /under the arpeggio/],
    ['pattern a: A\ntrack t: T\ntrack u: U\nrate 1/7', 3, 0, /tracks\/1\/rate/],
    ['pattern a: A\npattern b: B', 2, 0, /one a text/],
  ])('%j is refused at line %i', (text, line, at, message) => {
    const reading = refused(text);
    expect([reading.line, reading.at]).toEqual([line, at]);
    expect(reading.message).toMatch(message);
  });

  it('never throws', () => {
    const words = fc.constantFrom(
      'pattern',
      'track',
      'ownValue',
      'row',
      'chord',
      'arpeggio',
      'c2',
      ':',
    );
    const text = fc.array(fc.oneof(words, fc.string(), fc.constant('\n'))).map((w) => w.join(' '));
    fc.assert(fc.property(text, (t) => void parsePatternText(t)));
    fc.assert(fc.property(text, (t) => void parsePatternText(`pattern a: A\ntrack t: T\n${t}`)));
  });
});
