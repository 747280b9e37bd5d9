import type { Evening } from './schema';
import { LOADED, secondsOf } from './stored';
import { nameOf, type Standing, type Ways, workOf } from './ways';

/**
 * A bound on the work of an evening: in no order of its songs do hands need less, as long as no setting serves two songs. On
 * every panel each sound is made from some other that is played on it, or from what it shows before the evening: it takes no
 * less than from the nearest of those, and where the panel has places that may be stored into, than to load it.
 * @returns seconds
 */
export function leastWork(evening: Evening, ways: Ways): number {
  let least = 0;
  for (const panel of evening.panels) {
    const plays = evening.songs
      .filter((song) => song.kind !== 'reserve')
      .flatMap((song): Standing[] => song.plays.filter((p) => p.panel === panel.id));
    const seconds = (from: Standing | null, to: Standing): number => {
      const plan = ways.plan(panel.id, from, to);
      return plan ? secondsOf(workOf(plan)) : 0;
    };
    // Of those that are played several times, one at least is not there yet.
    const sounds = new Map(plays.map((play) => [nameOf(play), play]));
    for (const [name, play] of sounds) {
      const others = [...sounds].flatMap(([other, from]) => (other === name ? [] : [from]));
      const near = [null, ...others].map((from) => seconds(from, play));
      least += Math.min(...near, ...(panel.places.length > 0 ? [LOADED] : []));
    }
  }
  return least;
}
