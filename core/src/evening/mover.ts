import type { Evening, Song, SongPatch, StagePanel } from './schema';

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

/** Quarter notes of a bar. */
const BAR = 4;

/**
 * Seconds of a song, at its end, in which somebody has a hand for something else: all of it when they do not play, and what
 * is left from the bar on from which of all that they play a hand is free. 0 where nobody knows how long the song is.
 *
 * @param tempoOf of what is played, in quarter notes a minute
 */
export function freeIn(
  evening: Evening,
  song: Song,
  person: string,
  tempoOf: (play: SongPatch) => number,
): number {
  if (song.seconds === 0 || song.kind === 'reserve') return 0;
  const plays = song.plays.filter((p) => playerOf(evening, p) === person);
  const left = plays.map((play) => {
    const bar = (BAR * 60) / tempoOf(play);
    // After the bar in which it is played last both hands are free.
    const from = Math.min(play.free?.bar ?? Infinity, (play.to ?? Infinity) + 1);
    return from === Infinity ? 0 : song.seconds - (from - 1) * bar;
  });
  return Math.max(0, Math.min(song.seconds, ...left));
}
