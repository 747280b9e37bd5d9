/** Length of a ring that holds so many samples of delay: a power of two, with room to read around a place. */
export function lineLength(longest: number): number {
  let length = 16;
  while (length < longest + 8) length *= 2;
  return length;
}

/**
 * A moving read point may not leap: it follows its goal at no more than half a sample a sample.
 * Source of the cubic by which lines are read between samples: the interpolating spline of E. Catmull and R. Rom (1974).
 */
export const creep = (now: number, goal: number): number => {
  const way = (goal - now) * 0.001;
  return now + (way > 0.5 ? 0.5 : way < -0.5 ? -0.5 : way > 1e-9 || way < -1e-9 ? way : goal - now);
};
