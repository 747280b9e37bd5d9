/**
 * Clock readings of dials. Position p runs 0..1; a dial sweeps `sweep` degrees, symmetric about 12 o'clock,
 * so 300 degrees runs from 7 o'clock to 5 o'clock.
 */

/** Angle in degrees clockwise from 12 o'clock of a position; -150..150 for a 300 degree sweep. */
export const positionToAngle = (position: number, sweep = 300): number => (position - 0.5) * sweep;

/**
 * Position of a clock time, or undefined when the time lies in the gap below the dial.
 * Source: `angle = (h mod 12) 30 + m/2`, `p = ((angle - first) mod 360) / sweep`.
 * @param hours 0..12
 * @param minutes 0..59
 */
export function clockToPosition(hours: number, minutes: number, sweep = 300): number | undefined {
  const angle = (hours % 12) * 30 + minutes / 2;
  const first = 360 - sweep / 2;
  const turned = (((angle - first) % 360) + 360) % 360;
  return turned <= sweep ? turned / sweep : undefined;
}

/** Clock time `h:mm` of a position, to the minute. */
export function positionToClock(position: number, sweep = 300): string {
  const angle = ((positionToAngle(position, sweep) % 360) + 360) % 360;
  const minutes = Math.round(angle * 2) % 720;
  const hours = Math.floor(minutes / 60);
  return `${hours === 0 ? 12 : hours}:${String(minutes % 60).padStart(2, '0')}`;
}

/** A clock reading is good to a quarter of an hour: its share of the travel. */
export const clockTolerance = (sweep = 300): number => 7.5 / sweep;
