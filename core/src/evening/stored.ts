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

/** A sound of an evening, and the seconds that it spares in the breaks when it is loaded. */
export interface Sound {
  play: SongPatch;
  spares: number;
}

/** What may be stored on a panel: more sounds than there are places, or fewer. */
export interface Storable {
  panel: StagePanel;
  /** Names of its free places. */
  places: string[];
  /** In the order in which they are played. */
  sounds: Sound[];
}

/** What may be stored where, panel by panel, and the places that a panel does not have, as they were written. */
export function storingOf(
  evening: Evening,
  ways: Ways,
): { storing: Storable[]; unknown: { panel: string; place: string }[] } {
  const storing: Storable[] = [];
  const unknown: { panel: string; place: string }[] = [];
  for (const panel of evening.panels) {
    if (panel.places.length === 0) continue;
    const plays = playsOn(evening, panel).filter((p) => ways.recorded(p, panel.id));
    const [first] = plays;
    const memory = first && ways.recorded(first, panel.id)?.instrument.memory;
    if (!memory) continue;
    const places: string[] = [];
    for (const place of panel.places) {
      const slot = readSlot(memory, place);
      if (slot) places.push(slotName(memory, slot.bank, slot.slot));
      else unknown.push({ panel: panel.id, place });
    }
    storing.push({ panel, places: [...new Set(places)], sounds: soundsOf(panel, plays, ways) });
  }
  return { storing, unknown };
}

const playsOn = (evening: Evening, panel: StagePanel): SongPatch[] =>
  evening.songs
    .filter((s) => s.kind !== 'reserve')
    .flatMap((s) => s.plays.filter((p) => p.panel === panel.id));

/** Those that spare something. */
function soundsOf(panel: StagePanel, plays: readonly SongPatch[], ways: Ways): Sound[] {
  const sounds = new Map<string, Sound>();
  plays.forEach((play, i) => {
    const before = plays[i - 1] ?? null;
    if (before && nameOf(before) === nameOf(play)) return;
    const way = ways.plan(panel.id, before, play);
    if (!way) return;
    const spared = Math.max(0, secondsOf(workOf(way)) - secondsOf(loadingSteps(way.steps, '', '')));
    const known = sounds.get(nameOf(play));
    sounds.set(nameOf(play), { play, spares: (known?.spares ?? 0) + spared });
  });
  return [...sounds.values()].filter((s) => s.spares > 0);
}

/**
 * The sounds that spare the most, as many as there are places. What a stored sound spares does not depend on which others are
 * stored, because loading it takes as long whatever stood there before: so no other choice spares more, for any number of
 * places.
 */
export const sparingMost = ({ places, sounds }: Storable): Sound[] => {
  const chosen = new Set([...sounds].sort((a, b) => b.spares - a.spares).slice(0, places.length));
  return sounds.filter((s) => chosen.has(s));
};

/** Every choice of as many sounds as there are places. */
export function choicesOf({ places, sounds }: Storable): Sound[][] {
  const from = (at: number, count: number): Sound[][] => {
    if (count === 0) return [[]];
    if (sounds.length - at < count) return [];
    const taken = from(at + 1, count - 1).map((some) => [sounds[at]!, ...some]);
    return [...taken, ...from(at + 1, count)];
  };
  return from(0, Math.min(places.length, sounds.length));
}

/** How many choices there are. */
export function countChoices({ places, sounds }: Storable): number {
  const taken = Math.min(places.length, sounds.length);
  let count = 1;
  for (let k = 1; k <= taken; k++) count = (count * (sounds.length - taken + k)) / k;
  return count;
}

/** The chosen sounds in places, set up in the order in which they are played: then the last one's way to the next is known. */
export const keptAs = (
  evening: Evening,
  ways: Ways,
  { panel, places }: Storable,
  chosen: readonly Sound[],
): Kept[] =>
  chosen.map(({ play, spares }, i): Kept => {
    const steps = workOf(ways.plan(panel.id, chosen[i - 1]?.play ?? null, play)!);
    return {
      panel: panel.id,
      person: moverOf(evening, panel),
      place: places[i]!,
      play,
      movements: steps.length,
      seconds: secondsOf(steps) + STORED,
      saves: spares,
    };
  });

/** What is left of a way when the sound is loaded: what no memory keeps, cables, modules, and what stands behind. */
export function loadingSteps(
  steps: readonly { kind: string; id: string }[],
  place: string,
  name: string,
): Work[] {
  const load: Work = {
    kind: 'load',
    id: 'load',
    place,
    text: `Load ${place}: ${name}`,
    seconds: LOADED,
  };
  const others = steps.filter((s) =>
    ['pull', 'move', 'add', 'rack', 'outboard'].includes(s.kind),
  ) as Work[];
  return [load, ...others];
}

export const secondsOf = (steps: readonly { seconds: number }[]): number =>
  steps.reduce((sum, s) => sum + s.seconds, 0);
