import * as z from 'zod';
import { LARGEST_SHEET } from './limits';

/** A place in a picture: shares of its width and height, 0..1. */
export const point2Schema = z.tuple([z.number().min(0).max(1), z.number().min(0).max(1)]);
export type Point2 = readonly [x: number, y: number];
/** Upper left, upper right, lower right, lower left. */
export type Corners = readonly [Point2, Point2, Point2, Point2];

/** A photograph of the real panel that lies beneath the drawn one. */
export const photographSchema = z.strictObject({
  /** SHA-256 of the picture as it is kept. */
  id: z.string().regex(/^[0-9a-f]{64}$/),
  /** Where the panel's corners are in it. */
  corners: z.tuple([point2Schema, point2Schema, point2Schema, point2Schema]),
  /** Panel units from the sheet's upper left corner that the panel in it takes: controls are put on its picture. */
  width: z.number().positive().max(LARGEST_SHEET),
  height: z.number().positive().max(LARGEST_SHEET),
  /** How much of it is seen, 0..1. */
  shown: z.number().min(0).max(1),
});
export type Photograph = z.infer<typeof photographSchema>;

/** Where a panel may be in a picture of which nothing is known yet. */
export const SOMEWHERE: Photograph['corners'] = [
  [0.1, 0.1],
  [0.9, 0.1],
  [0.9, 0.9],
  [0.1, 0.9],
];
