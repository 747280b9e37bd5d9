import { patternSchema } from '../pattern/pattern';
import { PatternRun, type RunSink } from './run';

const up = patternSchema.parse({
  id: 'p',
  name: 'P',
  tracks: [
    {
      id: 't',
      name: 'T',
      length: 16,
      rate: '1/16',
      arpeggio: {
        mode: 'up',
        octaves: 1,
        length: 0.5,
        chords: [{ notes: [48, 52, 55], steps: 16 }],
      },
    },
  ],
});

/** The notes that are struck, step by step, up to a quarter note. */
function listen() {
  const notes: number[] = [];
  const sink: RunSink = {
    press: (_beat, note) => notes.push(note),
    release: () => undefined,
    step: () => undefined,
  };
  return { sink, take: () => notes.splice(0) };
}

describe('a chord that hands hold', () => {
  it('is what the arpeggio runs through, from its first note on, until it is let go', () => {
    const run = new PatternRun([up]);
    const { sink, take } = listen();
    run.advance(1, sink);
    expect(take()).toEqual([48, 52, 55, 48]);
    run.chord = [67, 60];
    run.advance(2, sink);
    expect(take()).toEqual([60, 67, 60, 67]);
    run.chord = null;
    run.advance(3, sink);
    expect(take()).toEqual([55, 48, 52, 55]);
  });

  it('goes on over the end of the chord that is written, through an edit, and into what follows', () => {
    const next = { ...up, id: 'q', next: 'p' };
    const first = { ...up, bars: 1, next: 'q' };
    const run = new PatternRun([first, next]);
    const { sink, take } = listen();
    run.chord = [60, 64, 67];
    run.advance(3.75, sink);
    take();
    const edited = run.followedBy([{ ...first, transpose: 12 }, next], 3.75);
    edited.advance(5, sink);
    expect(take()).toEqual([60 + 12, 60, 64, 67, 60]);
  });
});
