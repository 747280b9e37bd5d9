import { readSlot, slotName } from '../unit/memory';
import { moverOf } from './mover';
import type { Evening, SongPatch, StagePanel } from './schema';
import { nameOf, type Ways, type Work, workOf } from './ways';

/** Seconds to go to a place of a memory and load what is there. */
export const LOADED = 4;
/** Seconds to store into one, as the rebuild reckons it. */
const STORED = 6;

/** A sound that is set up and stored before the evening, so that it is only loaded in it. */
export interface Kept {
  panel: string;
  /** Who sets it up. */
  person: string;
  /** Name of the place. */
  place: string;
  play: SongPatch;
  movements: number;
  /** Seconds that setting it up and storing it takes. */
  seconds: number;
  /** Seconds that it spares in the breaks. */
  saves: number;
}

export interface Keeping {
  kept: Kept[];
  /** Places that a panel does not have, as they were written. */
  unknown: { panel: string; place: string }[];
}

/**
 * Which sounds are stored in which free place before the evening. What a stored sound spares does not depend on which
 * others are stored, because loading it takes as long whatever stood there before: so those that spare the most are the
 * best choice there is, for any number of places.
 */
export function keepSounds(evening: Evening, ways: Ways): Keeping {
  const all: Keeping = { kept: [], unknown: [] };
  for (const panel of evening.panels) {
    if (panel.places.length === 0) continue;
    const plays = playsOn(evening, panel).filter((p) => ways.recorded(p));
    const [first] = plays;
    const memory = first && ways.recorded(first)?.instrument.memory;
    if (!memory) continue;
    const places: string[] = [];
    for (const place of panel.places) {
      const slot = readSlot(memory, place);
      if (slot) places.push(slotName(memory, slot.bank, slot.slot));
      else all.unknown.push({ panel: panel.id, place });
    }
    all.kept.push(...keepOn(evening, panel, plays, [...new Set(places)], ways));
  }
  return all;
}

const playsOn = (evening: Evening, panel: StagePanel): SongPatch[] =>
  evening.songs
    .filter((s) => s.kind !== 'reserve')
    .flatMap((s) => s.plays.filter((p) => p.panel === panel.id));

function keepOn(
  evening: Evening,
  panel: StagePanel,
  plays: readonly SongPatch[],
  places: readonly string[],
  ways: Ways,
): Kept[] {
  const saves = new Map<string, { play: SongPatch; seconds: number }>();
  plays.forEach((play, i) => {
    const before = plays[i - 1] ?? null;
    if (before && nameOf(before) === nameOf(play)) return;
    const way = ways.plan(panel.id, before, play);
    if (!way) return;
    const spared = Math.max(0, secondsOf(workOf(way)) - secondsOf(loadingSteps(way.steps, '', '')));
    const known = saves.get(nameOf(play));
    saves.set(nameOf(play), { play, seconds: (known?.seconds ?? 0) + spared });
  });
  const chosen = [...saves.values()]
    .filter((s) => s.seconds > 0)
    .sort((a, b) => b.seconds - a.seconds)
    .slice(0, places.length);
  // Set up in the order in which they are played: then the last one's way to the next is known.
  const inOrder = [...saves.values()].filter((s) => chosen.includes(s));
  return inOrder.map(({ play, seconds }, i): Kept => {
    const way = ways.plan(panel.id, inOrder[i - 1]?.play ?? null, play)!;
    const steps = workOf(way);
    return {
      panel: panel.id,
      person: moverOf(evening, panel),
      place: places[i]!,
      play,
      movements: steps.length,
      seconds: secondsOf(steps) + STORED,
      saves: seconds,
    };
  });
}

/** What is left of a way when the sound is loaded: what no memory keeps, cables, modules, and what stands behind. */
export function loadingSteps(
  steps: readonly { kind: string; id: string }[],
  place: string,
  name: string,
): Work[] {
  const load: Work = { kind: 'load', id: 'load', text: `Load ${place}: ${name}`, seconds: LOADED };
  const others = steps.filter((s) =>
    ['pull', 'move', 'add', 'rack', 'outboard'].includes(s.kind),
  ) as Work[];
  return [load, ...others];
}

export const secondsOf = (steps: readonly { seconds: number }[]): number =>
  steps.reduce((sum, s) => sum + s.seconds, 0);
