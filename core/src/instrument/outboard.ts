import * as z from 'zod';
import { finite, id, prose, travel, words } from './atoms';
import { taperSchema } from './schema';

/** Most things behind an instrument, and controls on one of them. */
export const MOST_OUTBOARD = 12;
export const MOST_OUTBOARD_CONTROLS = 16;

export const outboardSorts = [
  'pedal',
  'amplifier',
  'microphone',
  'desk',
  'effect',
  'recorder',
  'other',
] as const;

/** A control of a thing that stands behind an instrument: a knob, or a switch when it has positions. */
export const outboardControlSchema = z.strictObject({
  id,
  name: words,
  /** What is printed at both ends of a knob's travel. */
  scale: z.tuple([finite, finite]).default([0, 10]),
  /** Of a switch; `value` is what a position sets the parameter to. */
  positions: z
    .array(z.strictObject({ id, name: words, value: z.union([finite, words]).optional() }))
    .min(2)
    .max(16)
    .optional(),
  /** Where it rests: a share of its travel, or a position. */
  rest: z.union([travel, id]).default(0),
  /** Parameters of the thing's module that it turns, of one unit; without one it is noted, not heard. */
  turns: z.array(id).max(4).default([]),
  taper: taperSchema.optional(),
});
export type OutboardControl = z.infer<typeof outboardControlSchema>;

/** A thing behind an instrument that belongs to the sound: a pedal, an amplifier and its microphone, a desk. */
export const outboardSchema = z.strictObject({
  id,
  name: words,
  sort: z.enum(outboardSorts).default('other'),
  /** Kind of module that stands for it in what is heard; without one the sound goes through as it is. */
  module: id.optional(),
  params: z.record(id, z.union([finite, words])).default({}),
  controls: z.array(outboardControlSchema).max(MOST_OUTBOARD_CONTROLS).default([]),
  /** Left in its place, but switched off. */
  off: z.boolean().optional(),
  note: prose.optional(),
});
export type Outboard = z.infer<typeof outboardSchema>;
