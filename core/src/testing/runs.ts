/** Whether the long tier is asked for: `npm run test:long`. */
const long = process.env['HURREL_LONG'] === '1';

/**
 * How often a property is tried: `few` times in every run, `many` times in the long one. For properties that take a second
 * and more; the others are tried as often everywhere.
 */
export const runs = (few: number, many = 10 * few): number => (long ? many : few);

/** Cases of a table of which every run takes every `nth`, and the long one all. */
export const everyNth = <T>(nth: number, cases: readonly T[]): T[] =>
  long ? [...cases] : cases.filter((_, i) => i % nth === 0);
