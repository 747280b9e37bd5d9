import * as z from 'zod';
import { id, words } from './atoms';
import { arpeggioModes } from '../pattern/arpeggio';
import { conditionKinds } from '../pattern/condition';
import { directions } from '../pattern/direction';
import { rateNames } from '../pattern/rate';

const midi = z.number().int().min(0).max(127);

/** What a sequencer can hold; what is left out is as its kind has it. */
const abilitiesSchema = z
  .object({
    /** Lowest and highest note. */
    notes: z.strictObject({ from: midi, to: midi }).optional(),
    /** Notes that may be struck together. */
    together: z.number().int().min(1).max(8).optional(),
    tie: z.boolean().optional(),
    slide: z.boolean().optional(),
    accent: z.boolean().optional(),
    velocity: z.boolean().optional(),
    length: z.boolean().optional(),
    micro: z.boolean().optional(),
    /** Controls that a step may give a value of its own; all that answer to numbers when it says so. */
    ownValues: z.union([z.array(id).max(200), z.literal('all')]).optional(),
    /** What own values were called in older files. */
    locks: z.union([z.array(id).max(200), z.literal('all')]).optional(),
    conditions: z.array(z.enum(conditionKinds)).optional(),
    rates: z.array(z.enum(rateNames)).min(1).optional(),
    directions: z.array(z.enum(directions)).min(1).optional(),
    swing: z.boolean().optional(),
    /** Tracks with lengths, rates and directions of their own. */
    ownLengths: z.boolean().optional(),
    modes: z.array(z.enum(arpeggioModes)).min(1).optional(),
    octaves: z.number().int().min(1).max(4).optional(),
  })
  .transform(({ locks, ...can }) => (locks === undefined ? can : { ownValues: locks, ...can }));
export type Abilities = z.infer<typeof abilitiesSchema>;

/** Which pass a box wants first. */
export const passOrders = ['pitches-first', 'time-first', 'either'] as const;

/** A sequencer of an instrument, and what it can do. */
export const sequencerSchema = z.strictObject({
  id,
  name: words,
  kind: z.enum(['two-pass', 'rows', 'multi-track', 'arpeggio']),
  /** Steps of a pattern, or of a track. */
  steps: z.number().int().min(1).max(256),
  /** Steps that are shown at once, where there are pages. */
  page: z.number().int().min(1).max(64).optional(),
  /** Numbered places, `A1` to `D16` with 4 banks of 16. */
  places: z
    .object({ banks: z.number().int().min(1).max(26), slots: z.number().int().min(1).max(999) })
    .optional(),
  /** Of a box of two passes: the one that it wants first, or that it takes either; absent: the pitches. */
  passes: z.enum(passOrders).optional(),
  /** Tracks that the box has, with the keys that strike them. */
  tracks: z
    .array(z.strictObject({ id, name: words, from: midi, to: midi }))
    .max(16)
    .default([]),
  /** Rows of voltages: the controls that hold their steps, and the module that runs them. */
  rows: z
    .array(
      z.strictObject({
        id,
        name: words,
        controls: z.array(id).min(1).max(64),
        /** Control that scales the row on its way, and whether the row is a pitch. */
        through: id.optional(),
        pitch: z.boolean().default(false),
      }),
    )
    .max(8)
    .default([]),
  /** Controls of the panel that do what a track can be told. */
  panel: z
    .object({
      last: id.optional(),
      direction: id.optional(),
      rate: id.optional(),
      swing: id.optional(),
      mode: id.optional(),
      octaves: id.optional(),
    })
    .default({}),
  can: abilitiesSchema.default({}),
});
export type Sequencer = z.infer<typeof sequencerSchema>;
