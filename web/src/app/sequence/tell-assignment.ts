import { type KeysRule, midiToNote, type VoiceAssignment } from '@hurrel/core';

/** What became of a note, in words. */
export interface ToldAssignment {
  note: string;
  words: string;
  silent: boolean;
}

const rules: Record<KeysRule['rule'], string> = {
  low: 'the lowest key wins',
  high: 'the highest key wins',
  last: 'the last key wins',
  first: 'the first key wins',
  'low-and-high': 'only the lowest and the highest key are played',
  poly: 'voices',
  paraphonic: 'voices',
  rotation: 'voices in turn',
  unison: 'all voices play the last key',
};

/** Says which voices play a note, whether it is cut short, and by which rule it stays silent. */
export function tellAssignment(
  assigned: VoiceAssignment,
  { rule, voices }: KeysRule,
): ToldAssignment {
  const note = midiToNote(assigned.note);
  const shared = rule === 'poly' || rule === 'paraphonic' || rule === 'rotation';
  if (assigned.heard === 0) return { note, words: `stays silent: ${rules[rule]}.`, silent: true };
  const all = assigned.voices.length === voices;
  const numbers = assigned.voices.map((v) => v + 1).join(', ');
  const who =
    assigned.voices.length === 0
      ? 'waits for its turn'
      : all && voices > 1 && !shared
        ? 'is played'
        : `goes to voice ${numbers}${shared ? ` of ${voices}` : ''}`;
  const lost = assigned.held - assigned.heard;
  const cut =
    lost > 0.01
      ? `, and is heard for ${round(assigned.heard)} of ${round(assigned.held)} quarter notes: ${
          shared ? `there are ${voices} voices` : rules[rule]
        }`
      : '';
  const tied = assigned.tied && !shared ? ', bound to the note before: no envelope starts' : '';
  return { note, words: `${who}${cut}${tied}.`, silent: false };
}

const round = (beats: number): number => Math.round(100 * beats) / 100;
