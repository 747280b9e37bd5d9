import { blankPattern, blankTrack, PLAIN_ARPEGGIO } from './blank';
import { arpeggioSchema, patternSchema, trackSchema } from './pattern';

describe('a track and a pattern of which nothing is said', () => {
  it('are what a file is read as that leaves out what it may', () => {
    expect(blankTrack('t1', 'line')).toEqual(trackSchema.parse({ id: 't1', name: 'line' }));
    const tracks = [{ id: 't1', name: 'line' }];
    expect(blankPattern('p', 'A', [blankTrack('t1', 'line')])).toEqual(
      patternSchema.parse({ id: 'p', name: 'A', tracks }),
    );
    const chords = [{ notes: [48], steps: 1 }];
    expect({ ...PLAIN_ARPEGGIO, chords }).toEqual(arpeggioSchema.parse({ chords }));
  });

  it('share nothing with each other', () => {
    const [a, b] = [blankTrack('a', 'a'), blankTrack('b', 'b')];
    expect(a.steps).not.toBe(b.steps);
    expect(a.rows).not.toBe(b.rows);
  });
});
