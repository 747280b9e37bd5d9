import type { Instrument } from '../instrument/schema';
import type { Checkpoint, Patch } from '../patch/schema';
import { visitOf, visits } from '../rebuild/visits';
import { withoutSteps } from './tell-note';
import type { Work } from './ways';

/** A place in a changeover where one stops to listen. */
export interface ListeningPlace {
  /** `listen-` and the number of the patch's first checkpoint here. */
  id: string;
  /** What is played and heard here, in the patch's order. */
  checkpoints: [Checkpoint, ...Checkpoint[]];
  /** Ids of the steps behind which it comes, all of this changeover. */
  behind: string[];
  /** The panel as it stands there: the patch without what comes later, as far as that can be said. */
  there: Patch;
}

/**
 * Where one listens while a panel is changed over to a patch: behind the movements up to a checkpoint's section, in the order
 * of a rebuild; several behind the same section are one place. One before which nothing is moved since the place before is none.
 *
 * @param face the panel before which one stands
 * @param steps of the changeover, in any order; without a sound that is loaded, which moves everything at once
 */
export function listeningPlaces(
  face: Instrument,
  patch: Patch,
  steps: readonly Work[],
): ListeningPlace[] {
  if (steps.some((s) => s.kind === 'load')) return [];
  const all = visits(face, patch);
  const visit = new Map(steps.map((s) => [s, visitOf(all, s)]));
  const places = patch.checkpoints.flatMap((checkpoint, i) => {
    const at = all.findIndex((v) => v.section === checkpoint.after && !v.clearing);
    return at < 0 ? [] : [{ id: `listen-${i}`, checkpoint, at }];
  });
  const stops = [...new Set(places.map((p) => p.at))].sort((a, b) => a - b);
  let heard = -1;
  return stops.flatMap((at) => {
    const [first, ...others] = places.filter((p) => p.at === at);
    const behind = steps.filter((s) => visit.get(s)! <= at);
    const moved = behind.some((s) => visit.get(s)! > heard);
    heard = at;
    const later = steps.filter((s) => visit.get(s)! > at);
    if (!first || !moved) return [];
    return [
      {
        id: first.id,
        checkpoints: [first.checkpoint, ...others.map((p) => p.checkpoint)],
        behind: behind.map((s) => s.id),
        there: withoutSteps(patch, later),
      },
    ];
  });
}

/** The place behind what was done last, once all that comes before it is done; the next movement of the panel leaves it. */
export function placeNow<P extends ListeningPlace>(
  places: readonly P[],
  done: ReadonlySet<string>,
  last: string,
): P | undefined {
  const place = places.findLast((p) => p.behind.every((id) => done.has(id)));
  return place?.behind.includes(last) ? place : undefined;
}
