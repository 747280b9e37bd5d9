import { endsOf, travelAt, type TravelPoint } from '@hurrel/core';
import { withFed } from './fed';
import type { TravelWorker } from './messages';

/** Places of the travel, ends first: what is asked for most comes soonest. */
const TRAVELS = [0, 1, 0.5, 0.25, 0.75, 0.125, 0.375, 0.625, 0.875];

export const travelJob: TravelWorker = {
  async travel({ instrument, patch: given, controller, note }, tell) {
    const patch = await withFed(given);
    const at = (travel: number): TravelPoint =>
      travelAt(instrument, patch, controller, note, travel);
    const points: TravelPoint[] = [];
    const taken = TRAVELS.map((travel) => {
      const point = at(travel);
      points.push(point);
      return tell(point);
    });
    points.sort((a, b) => a.travel - b.travel);
    const ends = endsOf(points, at);
    await Promise.all(taken);
    return ends;
  },
};
