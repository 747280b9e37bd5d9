import { passesModule } from '../circuit/passing';
import type { Instrument } from '../instrument/schema';
import type { JackSignal } from '../instrument/jack';
import { jackOf, originJack } from '../patch/cables';
import type { Cable } from '../patch/schema';

interface Point {
  x: number;
  y: number;
}

const round = (n: number): number => Math.round(n * 10) / 10;

/** Path data of a cable that hangs between two points; the further apart, the deeper. */
export function cablePath(a: Point, b: Point): string {
  const sag = 14 + 0.16 * Math.hypot(b.x - a.x, b.y - a.y);
  const [third, two] = [a.x + (b.x - a.x) / 3, a.x + (2 * (b.x - a.x)) / 3];
  const low = Math.max(a.y, b.y);
  const lift = (y: number): number => round(y + (low - y) * 0.4 + sag);
  return `M${round(a.x)} ${round(a.y)}C${round(third)} ${lift(a.y)} ${round(two)} ${lift(b.y)} ${round(b.x)} ${round(b.y)}`;
}

/** Short end of a cable that is lifted out of the way: from its jack towards the other one. */
export function cableStub(at: Point, towards: Point, length = 22): string {
  const distance = Math.hypot(towards.x - at.x, towards.y - at.y) || 1;
  const x = at.x + (length * (towards.x - at.x)) / distance;
  const y = at.y + (length * (towards.y - at.y)) / distance;
  return `M${round(at.x)} ${round(at.y)}L${round(x)} ${round(y)}`;
}

/** Path data of the loose end of a plug that only breaks a normal. */
export const plugStub = (at: Point): string => `M${round(at.x)} ${round(at.y)}l7 13m-5 2l8 -4`;

/**
 * What a cable carries: what its output gives, else what its input takes. Jacks that say no more than that something moves
 * carry what is put into their module.
 */
export function cableSignal(
  instrument: Instrument,
  cable: Cable,
  cables: readonly Cable[] = [],
): JackSignal {
  const jack = jackOf(instrument, cable.from) ?? jackOf(instrument, cable.to);
  if (jack?.signal !== 'modulation') return jack?.signal ?? 'modulation';
  return originJack(instrument, cables, jack, (id) => passesModule(instrument, id)).signal;
}
