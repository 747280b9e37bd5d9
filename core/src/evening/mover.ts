import type { Evening, hands, Song, SongPatch, StagePanel } from './schema';
import type { Work } from './ways';

/** Whoever moves a panel. */
export const moverOf = ({ people }: Evening, panel: StagePanel | undefined): string =>
  panel?.by ?? people[0]?.id ?? '';

/** Whoever moves the panel of an id. */
export const moverOn = (evening: Evening, panel: string): string =>
  moverOf(
    evening,
    evening.panels.find((p) => p.id === panel),
  );

/** Whoever plays a patch: whoever moves its panel, unless somebody else is named. */
export const playerOf = (evening: Evening, play: SongPatch): string =>
  play.by ?? moverOn(evening, play.panel);

/** What a movement needs while its maker plays: one hand, whichever, or both. */
export type Needs = (typeof hands)[number] | 'either';

/**
 * Hands that a movement takes on a panel: one turns, switches, pulls and plugs, that which reaches the panel; two enter, store and
 * rack, and what is set by ear wants a key held.
 * @param side the hand that reaches the panel
 */
export const needsOf = (step: Work, side: 'left' | 'right' | undefined): Needs =>
  (step.kind === 'movement' && step.target === undefined) ||
  step.kind === 'add' ||
  step.kind === 'move' ||
  step.kind === 'pull' ||
  step.kind === 'load'
    ? (side ?? 'either')
    : 'both';

const suffices = (free: (typeof hands)[number], needs: Needs): boolean =>
  free === 'both' || needs === 'either' || free === needs;

/** Quarter notes of a bar. */
const BAR = 4;

/**
 * Seconds of a song, at its end, in which somebody has a hand for something else: all of it when they do not play, and what
 * is left from the bar on from which of all that they play a hand is free that will do. 0 where nobody knows how long the song is.
 *
 * @param tempoOf of what is played, in quarter notes a minute
 */
export function freeIn(
  evening: Evening,
  song: Song,
  person: string,
  tempoOf: (play: SongPatch) => number,
  needs: Needs = 'either',
): number {
  if (song.seconds === 0 || song.kind === 'reserve') return 0;
  const plays = song.plays.filter((p) => playerOf(evening, p) === person);
  const left = plays.map((play) => {
    const bar = (BAR * 60) / tempoOf(play);
    // After the bar in which it is played last both hands are free.
    const free = play.free && suffices(play.free.hand, needs) ? play.free.bar : Infinity;
    const from = Math.min(free, (play.to ?? Infinity) + 1);
    return from === Infinity ? 0 : song.seconds - (from - 1) * bar;
  });
  return Math.max(0, Math.min(song.seconds, ...left));
}
