import type { VoiceAssignment } from '@hurrel/core';
import { tellAssignment } from './tell-assignment';

const assigned = (changes: Partial<VoiceAssignment>): VoiceAssignment => ({
  track: 0,
  step: 0,
  note: 60,
  beat: 0,
  held: 1,
  heard: 1,
  voices: [0],
  tied: false,
  ...changes,
});

describe('who gets a note, in words', () => {
  it.each([
    [
      'low-and-high',
      2,
      { heard: 0 },
      'stays silent: only the lowest and the highest key are played.',
    ],
    ['low-and-high', 2, { voices: [1] }, 'goes to voice 2.'],
    ['last', 2, { voices: [0, 1] }, 'is played.'],
    [
      'last',
      2,
      { voices: [0, 1], heard: 0.25 },
      'is played, and is heard for 0.25 of 1 quarter notes: the last key wins.',
    ],
    [
      'last',
      2,
      { voices: [0, 1], tied: true },
      'is played, bound to the note before: no envelope starts.',
    ],
    [
      'low',
      2,
      { voices: [], heard: 0.5 },
      'waits for its turn, and is heard for 0.5 of 1 quarter notes: the lowest key wins.',
    ],
    ['poly', 4, { voices: [2] }, 'goes to voice 3 of 4.'],
    [
      'poly',
      4,
      { voices: [2], heard: 0.333 },
      'goes to voice 3 of 4, and is heard for 0.33 of 1 quarter notes: there are 4 voices.',
    ],
  ] as const)('%s of %i: %j', (rule, voices, changes, words) => {
    const told = tellAssignment(
      assigned({ ...changes, voices: [...((changes as { voices?: number[] }).voices ?? [0])] }),
      {
        rule,
        voices,
        legato: false,
      },
    );
    expect(told).toEqual({ note: 'C4', words, silent: words.startsWith('stays silent') });
  });
});
