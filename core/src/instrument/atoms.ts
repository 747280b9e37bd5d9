import * as z from 'zod';
import { LARGEST_SHEET } from './limits';

/** Building blocks that the parts of an instrument file share. */
export const id = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,47}$/, 'expected lower-case letters, digits and hyphens')
  // Every object has one already: settings by id could not tell it from one of their own.
  .refine((text) => text !== 'constructor', 'this name is taken by the language: choose another');
export const words = z.string().min(1).max(80);
export const prose = z.string().max(2000);
export const finite = z.number().min(-1e6).max(1e6);
/** Share of a control's travel: 0 one end stop, 1 the other. */
export const travel = z.number().min(0).max(1);
export const port = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]*\.[a-z0-9][a-z0-9-]*$/, 'expected module.port');
export const place = z.strictObject({
  x: z.number().min(0).max(LARGEST_SHEET),
  y: z.number().min(0).max(LARGEST_SHEET),
  /** Diameter of a knob or jack, length of a slider or wheel, width of a switch; in panel units. */
  size: z.number().min(8).max(600),
});
