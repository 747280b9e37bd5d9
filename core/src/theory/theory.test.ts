import fc from 'fast-check';
import {
  barsToSeconds,
  barsUntilMeeting,
  beatRate,
  C4_HZ,
  cancellationDip,
  cutoffReached,
  footageToSemitones,
  formatDuration,
  hzToMidi,
  midiToHz,
  midiToNote,
  midiToVolts,
  nearestRowCode,
  noteLength,
  noteToMidi,
  octaveThroughGain,
  pulseHarmonic,
  semitonesBetween,
  swingOffset,
  toDecibels,
  widthAttenuation,
} from './index';

describe('pitch', () => {
  it('puts A4 at 440 Hz and C4 at 0 V', () => {
    expect(midiToHz(69)).toBe(440);
    expect(C4_HZ).toBeCloseTo(261.6256, 4);
    expect(midiToVolts(60)).toBe(0);
    expect(midiToVolts(72)).toBe(1);
  });

  it('inverts itself', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 127, noNaN: true }), (midi) => {
        expect(hzToMidi(midiToHz(midi))).toBeCloseTo(midi, 9);
        expect(semitonesBetween(midiToHz(midi), 440)).toBeCloseTo(midi - 69, 9);
      }),
    );
  });

  it.each([
    [16, -12],
    [8, 0],
    [16 / 3, 7.02],
    [4, 12],
    [8 / 3, 19.02],
    [2, 24],
  ])('takes %p feet for %p semitones', (feet, semitones) => {
    expect(footageToSemitones(feet)).toBeCloseTo(semitones, 2);
  });

  it.each([
    [7, 5, 127, 15, 8.66],
    [12, 5, 127, 25, -18.9],
    [24, 5, 127, 51, 9.45],
    [7, 1, 127, 74, -0.79],
    [12, 8, 127, 16, 9.45],
  ])('finds the code for %p semitones in a row of %p V', (st, range, steps, code, cents) => {
    const found = nearestRowCode(st, range, steps);
    expect(found.code).toBe(code);
    expect(found.errorCents).toBeCloseTo(cents, 2);
  });

  it('tells what a path of gain 0.93 makes of an octave', () => {
    expect(octaveThroughGain(0.93)).toBeCloseTo(1116, 9);
    expect(1 / 0.93).toBeCloseTo(1.0753, 4);
    expect(toDecibels(1 / 0.93)).toBeCloseTo(0.63, 2);
  });

  it('beats at 0.446 Hz for 110 Hz and 7 cents', () => {
    expect(beatRate(110, 7)).toBeCloseTo(0.446, 3);
  });
});

describe('notes', () => {
  it.each([
    ['C4', 60],
    ['a#3', 58],
    ['Bb-1', 10],
    ['A4', 69],
    ['B♭2', 46],
  ])('reads %p as %p', (name, midi) => expect(noteToMidi(name)).toBe(midi));

  it.each(['H2', 'C', '4', 'C##4', 'C100', ''])('does not read %p', (name) =>
    expect(noteToMidi(name)).toBeUndefined(),
  );

  it('names every key so that it is read again', () => {
    for (let midi = 0; midi < 128; midi++) expect(noteToMidi(midiToNote(midi))).toBe(midi);
  });
});

describe('time', () => {
  it('has the note lengths at 132 bpm', () => {
    expect(1000 * noteLength(132, 4)).toBeCloseTo(454.55, 2);
    expect(1000 * noteLength(132, 8, 1.5)).toBeCloseTo(340.91, 2);
    expect(1000 * noteLength(132, 4, 2 / 3)).toBeCloseTo(303.03, 2);
  });

  it('lasts 14.545 s for 8 bars at 132 bpm, and 3.75 s for 2 at 128', () => {
    expect(barsToSeconds(8, 4, 132)).toBeCloseTo(14.545, 3);
    expect(1 / barsToSeconds(8, 4, 132)).toBeCloseTo(0.06875, 5);
    expect(barsToSeconds(2, 4, 128)).toBe(3.75);
  });

  it('swings sixteenths at 120 bpm by 58 % to 145 ms', () => {
    expect(1000 * swingOffset(noteLength(120, 16), 58)).toBeCloseTo(145, 9);
  });

  it('meets the bar again after lcm(k, n) / n bars', () => {
    expect(barsUntilMeeting(3, 16)).toBe(3);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 64 }), fc.integer({ min: 1, max: 64 }), (k, n) => {
        const bars = barsUntilMeeting(k, n);
        expect((bars * n) % k).toBe(0);
        for (let b = 1; b < bars; b++) expect((b * n) % k).not.toBe(0);
      }),
    );
  });

  it('writes minutes and seconds', () => {
    expect(formatDuration(98)).toBe('1:38');
    expect(formatDuration(59.6)).toBe('1:00');
  });
});

describe('levels', () => {
  it.each([
    [1, 0.7, -15.07],
    [1, 0.5, -9.54],
  ])('dips for levels %p and %p by %p dB', (a, b, dip) =>
    expect(cancellationDip(a, b)).toBeCloseTo(dip, 2),
  );

  it('cancels equal levels', () => expect(cancellationDip(1, 1)).toBe(-Infinity));

  it('lifts 180 Hz by 3.2 octaves to 1654 Hz', () =>
    expect(cutoffReached(180, 3.2)).toBeCloseTo(1654, 0));

  it('stops a pedal at 95 % with an attenuation of 0.90', () =>
    expect(widthAttenuation(0.5, 0.1, 5, 0.95)).toBeCloseTo(0.9, 9));

  it('has no even harmonics in a square, no third in a third', () => {
    expect(pulseHarmonic(2, 0.5)).toBeCloseTo(0, 12);
    expect(pulseHarmonic(3, 1 / 3)).toBeCloseTo(0, 12);
    expect(pulseHarmonic(1, 0.5)).toBe(1);
  });
});
