import { type Patch, phraseToNotes, type TimedNote } from '@hurrel/core';

/** Quarter notes after which a phrase that goes round begins again: a whole number of bars. */
const ROUND = 4;

/** What Play strikes: the patch's phrase, or one key where it has none. */
export const playedPhrase = ({ phrase }: Pick<Patch, 'phrase'>): Patch['phrase'] =>
  phrase.length > 0 ? phrase : [{ beat: 0, length: 2, note: 48, velocity: 100 }];

/** The same as timed notes, and the seconds after which it begins again. */
export function phraseRound(
  phrase: Patch['phrase'],
  tempo: number,
): { notes: TimedNote[]; bar: number } {
  const played = playedPhrase({ phrase });
  const last = played.reduce((end, n) => Math.max(end, n.beat + n.length), 0);
  const beats = Math.max(ROUND, Math.ceil(last / ROUND) * ROUND);
  return { notes: phraseToNotes(played, tempo), bar: (beats * 60) / tempo };
}
