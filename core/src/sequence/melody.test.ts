import fc from 'fast-check';
import { type MelodyStep, melodyToSteps, trackToMelody } from './melody';
import { trackSchema } from '../pattern/pattern';
import { parseSteps } from './text';
import { entryPasses, type Press, TwoPassBox } from './two-pass';

const read = (text: string): MelodyStep[] => {
  const reading = parseSteps(text);
  if (!reading.ok) throw new Error(reading.error.message);
  const length = text.split(/\s+/).length;
  return trackToMelody(trackSchema.parse({ id: 'a', name: 'a', length, steps: reading.steps }));
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
      fc.constantFrom<MelodyStep>({ kind: 'tie' }, { kind: 'rest' }),
    ),
    { minLength: 1, maxLength: 64 },
  )
  .map((steps) => {
    const kept: MelodyStep[] = [];
    for (const s of steps) {
      const last = kept.at(-1);
      kept.push(s.kind === 'tie' && (!last || last.kind === 'rest') ? { kind: 'rest' } : s);
    }
    return kept;
  });

describe('a line', () => {
  it('is the steps of a track, and back', () => {
    fc.assert(
      fc.property(anyLine, (line) => {
        const steps = melodyToSteps(line);
        const track = trackSchema.parse({ id: 'a', name: 'a', length: line.length, steps });
        expect(trackToMelody(track)).toEqual(line);
      }),
    );
  });
});

const enter = (...scripts: ReturnType<typeof entryPasses>[]): MelodyStep[] => {
  const box = new TwoPassBox();
  for (const press of scripts.flat().flatMap((p): Press[] => p.presses)) box.press(press);
  return box.line();
};

describe('the presses that enter a line', () => {
  it('are the sounding pitches, then the time, then the marks, worked out by hand', () => {
    const passes = entryPasses(read("c2 - . d#2'~ c3 ."));
    expect(passes.map((p) => [p.name, p.told.join(' ')])).toEqual([
      ['pitches', 'C2 D#2 C3'],
      ['time', 'note tie rest note note rest'],
      ['accents and slides', '4 accent and slide'],
    ]);
    // PITCH, C, D#, UP, C; TIME and six steps; MARKS, three times NEXT, ACCENT, SLIDE.
    expect(passes.map((p) => p.presses.length)).toEqual([5, 7, 6]);
  });

  it('give any line back when they are typed into an empty box', () => {
    fc.assert(fc.property(anyLine, (line) => expect(enter(entryPasses(line))).toEqual(line)));
  });

  it('turn any line that is in the box into any other, touching only what differs', () => {
    fc.assert(
      fc.property(anyLine, anyLine, (before, after) => {
        expect(enter(entryPasses(before), entryPasses(after, before))).toEqual(after);
        expect(entryPasses(after, after)).toEqual([]);
      }),
    );
    const [time] = entryPasses(read('c2 . . c2'), read('c2 . c2 c2'));
    expect([time!.name, time!.told]).toEqual(['time', ['3 rest']]);
  });

  it('make the same line with the time first, where a box wants or takes it so', () => {
    fc.assert(
      fc.property(anyLine, anyLine, (before, after) => {
        const anew = entryPasses(after, undefined, 'time');
        expect(enter(anew)).toEqual(after);
        expect(enter(entryPasses(before), entryPasses(after, before, 'time'))).toEqual(after);
        // As many presses, in another order.
        const presses = (passes: typeof anew): number =>
          passes.reduce((sum, p) => sum + p.presses.length, 0);
        expect(presses(anew)).toBe(presses(entryPasses(after)));
      }),
    );
    const names = entryPasses(read("c2 - . d#2'"), undefined, 'time').map((p) => p.name);
    expect(names).toEqual(['time', 'pitches', 'accents and slides']);
  });
});
