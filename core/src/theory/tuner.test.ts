import fc from 'fast-check';
import { midiToHz } from './pitch';
import { readTuner } from './tuner';

describe('a tuner', () => {
  it('shows the nearest note, the cents, and the semitones from a reference', () => {
    expect(readTuner(440)).toEqual({ note: 69, cents: 0 });
    const seven = readTuner(midiToHz(55), 48);
    expect(seven).toMatchObject({ note: 55 });
    expect(seven.semitones).toBeCloseTo(7, 9);
    expect(readTuner(440 * 2 ** (20 / 1200)).cents).toBeCloseTo(20, 9);
    expect(readTuner(442, undefined, 442)).toMatchObject({ note: 69 });
  });

  it('never shows more than half a semitone beside a note, and loses nothing', () => {
    fc.assert(
      fc.property(fc.double({ min: 20, max: 12000, noNaN: true }), (hz) => {
        const { note, cents } = readTuner(hz);
        expect(Math.abs(cents)).toBeLessThanOrEqual(50 + 1e-9);
        expect(midiToHz(note + cents / 100) / hz).toBeCloseTo(1, 9);
      }),
    );
  });
});
