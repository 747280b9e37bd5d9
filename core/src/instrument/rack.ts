import * as z from 'zod';
import {
  LARGEST_SHEET,
  MOST_CABINET_ROWS,
  MOST_ON_A_MODULE,
  MOST_PLACED,
  MOST_TYPES,
} from './limits';
import { id, prose, words } from './atoms';

/** A module of a cabinet where it stands: `row` from the top, `at` in panel units from the left. */
export const placedSchema = z.strictObject({
  id,
  type: id,
  row: z
    .number()
    .int()
    .min(0)
    .max(MOST_CABINET_ROWS - 1),
  at: z.number().min(0).max(LARGEST_SHEET),
});
export type Placed = z.infer<typeof placedSchema>;

/** Builds the schema of a cabinet out of those of what its modules have on their faces and behind them. */
export const rackSchemaOf = <
  C extends z.ZodType,
  J extends z.ZodType,
  M extends z.ZodType,
  W extends z.ZodType,
  S extends z.ZodType,
  Q extends z.ZodType,
>(parts: {
  control: C;
  jack: J;
  module: M;
  wire: W;
  stage: S;
  sequencer: Q;
}) =>
  z.strictObject({
    /** Height of a row in panel units. */
    rowHeight: z.number().positive().max(1000),
    rows: z.number().int().min(1).max(MOST_CABINET_ROWS),
    /**
     * Kinds of module that can be placed. Ids inside are the type's own, and its own id is the section of what it holds: a
     * placed module puts its id and a hyphen in front of them. Coordinates are from the module's upper left corner.
     */
    types: z
      .array(
        z.strictObject({
          id,
          name: words,
          note: prose.optional(),
          stage: parts.stage,
          width: z.number().positive().max(LARGEST_SHEET),
          controls: z.array(parts.control).max(MOST_ON_A_MODULE).default([]),
          jacks: z.array(parts.jack).max(MOST_ON_A_MODULE).default([]),
          modules: z.array(parts.module).max(32).prefault([]),
          wires: z.array(parts.wire).max(64).default([]),
          /** Steps of its own, which patterns may hold. */
          sequencer: parts.sequencer.optional(),
        }),
      )
      .min(1)
      .max(MOST_TYPES),
    /** Where they stand unless a patch says otherwise. */
    placed: z.array(placedSchema).max(MOST_PLACED),
  });
