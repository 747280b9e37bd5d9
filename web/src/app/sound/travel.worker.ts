/// <reference lib="webworker" />
import { expose } from 'comlink';
import { endsOf, travelAt, type TravelPoint } from '@hurrel/core';
import type { TravelWorker } from './messages';

/** Places of the travel, ends first: what is asked for most comes soonest. */
const SHARES = [0, 1, 0.5, 0.25, 0.75, 0.125, 0.375, 0.625, 0.875];

expose({
  async travel({ instrument, patch, hand, note }, tell) {
    const at = (share: number): TravelPoint => travelAt(instrument, patch, hand, note, share);
    const points: TravelPoint[] = [];
    const taken = SHARES.map((share) => {
      const point = at(share);
      points.push(point);
      return tell(point);
    });
    points.sort((a, b) => a.share - b.share);
    const ends = endsOf(points, at);
    await Promise.all(taken);
    return ends;
  },
} satisfies TravelWorker);
