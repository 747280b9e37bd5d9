import fc from 'fast-check';
import { clockToPosition, clockTolerance, positionToClock } from './dial';
import { readClockWords } from './clock-words';

describe('clock readings of a dial of 300 degrees', () => {
  it.each([
    [7, 0, 0],
    [9, 0, 0.2],
    [10, 30, 0.35],
    [12, 0, 0.5],
    [2, 30, 0.75],
    [5, 0, 1],
  ])('%p:%p is %p of the travel', (hours, minutes, position) =>
    expect(clockToPosition(hours, minutes)).toBeCloseTo(position, 12),
  );

  it.each([
    [5, 1],
    [6, 0],
    [6, 59],
  ])('%p:%p lies in the gap', (hours, minutes) =>
    expect(clockToPosition(hours, minutes)).toBeUndefined(),
  );

  it('is told to the minute and read again', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 600 }), (minute) => {
        const clock = positionToClock(minute / 600);
        const [hours, minutes] = clock.split(':').map(Number) as [number, number];
        expect(clockToPosition(hours, minutes)).toBeCloseTo(minute / 600, 9);
      }),
    );
  });

  it('is good to a quarter of an hour', () => expect(clockTolerance()).toBeCloseTo(0.025, 12));

  it('follows another sweep', () => {
    expect(clockToPosition(12, 0, 270)).toBe(0.5);
    expect(clockToPosition(7, 30, 270)).toBeCloseTo(0, 12);
    expect(clockToPosition(7, 0, 270)).toBeUndefined();
  });
});

describe('clock times in words', () => {
  it.each([
    ['half past two', 2, 30],
    ['quarter to 11', 10, 45],
    ['a quarter past twelve', 0, 15],
    ["three o'clock", 3, 0],
    ['half past 12', 0, 30],
  ])('%p', (words, hours, minutes) => expect(readClockWords(words)).toEqual({ hours, minutes }));

  it.each(['half two', 'quarter past nothing', 'half past 13'])('not %p', (words) =>
    expect(readClockWords(words)).toBeUndefined(),
  );
});
