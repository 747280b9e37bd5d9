import fc from 'fast-check';
import { formatDuration, readDuration } from './duration';

describe('durations', () => {
  it.each([
    ['2:30', 150],
    ['45', 45],
    [' 45 s ', 45],
    ['1,5', 1.5],
    ['1:02:00', 3720],
  ])('%s is %d seconds', (text, seconds) => expect(readDuration(text)).toBe(seconds));

  it.each(['', 'soon', '2:', ':30', '-3', '1:2:3:4'])('"%s" is none', (text) =>
    expect(readDuration(text)).toBeNull(),
  );

  it('are read as they are written', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 3599 }), (s) => {
        expect(readDuration(formatDuration(s))).toBe(s);
      }),
    );
  });
});
