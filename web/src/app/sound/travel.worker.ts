/// <reference lib="webworker" />
import { endsOf, travelAt, type TravelPoint } from '@hurrel/core';
import type { TravelAnswer, TravelRequest } from './messages';

/** Places of the travel, ends first: what is asked for most comes soonest. */
const SHARES = [0, 1, 0.5, 0.25, 0.75, 0.125, 0.375, 0.625, 0.875];

addEventListener('message', ({ data }: MessageEvent<TravelRequest>) => {
  const { instrument, patch, hand, note } = data;
  const at = (share: number): TravelPoint => travelAt(instrument, patch, hand, note, share);
  const points = SHARES.map((share) => {
    const point = at(share);
    postMessage({ kind: 'point', point } satisfies TravelAnswer);
    return point;
  }).sort((a, b) => a.share - b.share);
  postMessage({ kind: 'ends', ends: endsOf(points, at) } satisfies TravelAnswer);
});
