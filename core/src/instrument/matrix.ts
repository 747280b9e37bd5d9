import * as z from 'zod';
import { finite, id, port, prose, words } from './atoms';
import { MOST_DESTINATIONS, MOST_SOURCES } from './limits';

/** A place where a matrix row may begin: something that moves by itself, or something the player moves. */
const sourceSchema = z.strictObject({
  id,
  name: words,
  port,
  /** Moved by the player: wheel, bender, pedal, pressure, velocity. */
  performance: z.boolean().optional(),
  /** Control to move when the source is picked on the panel. */
  control: id.optional(),
});

/** A place where a matrix row may end. */
const destinationSchema = z.strictObject({
  id,
  name: words,
  port,
  /** What a full depth adds at the port: V there for each V of the source. */
  full: finite,
  /** Control to touch when the destination is picked on the panel. */
  control: id.optional(),
});

/** A matrix: rows of source, signed depth and destination. */
export const matrixSchema = z.strictObject({
  /** Rows that can be filled. */
  rows: z.number().int().min(1).max(64),
  sources: z.array(sourceSchema).min(1).max(MOST_SOURCES),
  destinations: z.array(destinationSchema).min(1).max(MOST_DESTINATIONS),
  /** What the panel shows at full depth, and how finely: 64 in steps of 1, 100 % ... */
  depth: z.strictObject({
    most: z.number().positive().max(1000),
    step: z.number().positive().max(1000),
    unit: z.string().max(4).default(''),
  }),
  /** Rows whose source and destination are wired: only their depth is free. By row, counted from 0. */
  fixed: z
    .array(z.strictObject({ source: id, destination: id }))
    .max(64)
    .default([]),
  /** Presses that lead to a row. */
  route: z.array(words).max(12).default([]),
  note: prose.optional(),
});
export type Matrix = z.infer<typeof matrixSchema>;
