import * as z from 'zod';

/** Share of travel 0..1, or the id of a position. */
export const valueSchema = z.union([
  z.number().min(0).max(1),
  z.string().regex(/^[a-z0-9][a-z0-9-]{0,47}$/, 'expected lower-case letters, digits and hyphens'),
]);
