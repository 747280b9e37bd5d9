import * as z from 'zod';
import { id, place, port, words } from './atoms';

/** What a jack carries. An S-trigger is a short to ground: it drives no gate, and no gate drives it. */
export const jackSignalSchema = z.enum([
  'audio',
  'pitch',
  'modulation',
  'gate',
  's-trigger',
  'clock',
]);
export type JackSignal = z.infer<typeof jackSignalSchema>;

export const jackSchema = z.strictObject({
  id,
  section: id,
  name: words,
  place,
  signal: jackSignalSchema,
  direction: z.enum(['in', 'out']),
  /** For pitch jacks: volts an octave unless stated. */
  standard: z.enum(['V/oct', 'Hz/V']).optional(),
  /** Highest level in V from zero: what an output gives, or what an input takes. */
  level: z.number().positive().max(20).optional(),
  /** Where it leads in the circuit; empty as long as nothing is said of that. */
  port: z.union([z.literal(''), port]).default(''),
});
export type Jack = z.infer<typeof jackSchema>;
