/** Whether the long tier is asked for: `npm run test:long`. */
const long = process.env['HURREL_LONG'] === '1';

/** How often a property is tried: `few` times in every run, `many` times in the long one. */
export const runs = (few: number, many = 10 * few): number => (long ? many : few);
