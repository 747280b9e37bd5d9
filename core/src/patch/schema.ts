import { settingSchema } from '../reading/setting';
import { phraseNoteSchema } from '../pattern/phrase';
import * as z from 'zod';
import { id } from '../instrument/atoms';
import { feedSchema } from './feed';
import { MOST_OUTBOARD, outboardSchema } from '../instrument/outboard';
import { placedSchema } from '../instrument/rack';
import { patternsSchema } from '../pattern/pattern';

/** Version of the patch file format that this code reads and writes. */
export const PATCH_FORMAT_VERSION = 1;

export const roles = ['bass', 'lead', 'arpeggio', 'drum', 'pad', 'effect', 'other'] as const;

export const checkpointSchema = z.strictObject({
  /** Section after whose movements one stops to listen. */
  after: id,
  /** MIDI number of the key to play. */
  note: z.number().int().min(0).max(127),
  /** What one should hear. */
  hear: z.string().trim().min(1).max(300),
});
export type Checkpoint = z.infer<typeof checkpointSchema>;

/** A cable between two jacks; with one end only, a plug that does nothing but break a normal. */
export const cableSchema = z.strictObject({
  id,
  /** Jack that gives the signal. */
  from: id.optional(),
  /** Jack that takes it. */
  to: id.optional(),
  /** Left in, but not in use. */
  inactive: z.boolean().optional(),
  /** Of the real cord: its colour in words, its length in cm. */
  colour: z.string().trim().max(24).optional(),
  length: z.number().int().min(1).max(2000).optional(),
  note: z.string().max(200).optional(),
});
export type Cable = z.infer<typeof cableSchema>;

/** A row of the matrix, by its number from 0. Depth -1 to 1: a share of the most that the panel shows. */
export const matrixRowSchema = z.strictObject({
  row: z.number().int().min(0).max(63),
  source: id,
  destination: id,
  depth: z.number().min(-1).max(1),
});
export type MatrixRow = z.infer<typeof matrixRowSchema>;

/** A named departure from a patch: what is moved, pulled, plugged or routed otherwise. */
export const variationSchema = z.strictObject({
  id,
  name: z.string().trim().min(1).max(80),
  about: z.string().max(500).default(''),
  settings: z.record(id, settingSchema).default({}),
  /** Revision of the instrument in whose place it is heard: another board. */
  revision: id.optional(),
  /** Cables of the patch that are not in. */
  pulled: z.array(id).max(600).default([]),
  /** Cables that are in besides. */
  plugged: z.array(cableSchema).max(600).default([]),
  /** Matrix rows that differ; depth 0 empties a row. */
  rows: z.array(matrixRowSchema).max(64).default([]),
});
export type Variation = z.infer<typeof variationSchema>;

/** What the ends of a performance control are for. */
export const endsSchema = z.strictObject({
  low: z.string().trim().max(200).default(''),
  high: z.string().trim().max(200).default(''),
});
export type Ends = z.infer<typeof endsSchema>;

/** What a person did to a panel, and what belongs to that sound. */
export const patchSchema = z.strictObject({
  format: z.literal('hurrel-patch'),
  version: z.literal(PATCH_FORMAT_VERSION),
  name: z.string().trim().min(1).max(80),
  instrument: id,
  /** Version of the instrument's description that it was recorded on; absent: the first. */
  edition: z.number().int().min(1).max(1e9).optional(),
  /** Revision of the instrument; absent when it has only one. */
  revision: id.optional(),
  /** Unit of the instrument that it was recorded on; absent when nobody said. */
  unit: z.string().min(1).max(64).optional(),
  song: z.string().trim().max(80).default(''),
  role: z.enum(roles).default('other'),
  /** Quarter notes a minute. */
  tempo: z.number().min(20).max(400).default(120),
  /** What it is for and how it should sound. */
  about: z.string().max(2000).default(''),
  settings: z.record(id, settingSchema).default({}),
  /** Notes on controls and sections, by `control:id` or `section:id`. */
  notes: z
    .record(z.string().regex(/^(control|section):[a-z0-9][a-z0-9-]{0,47}$/), z.string().max(1000))
    .default({}),
  cables: z.array(cableSchema).max(600).default([]),
  /** Where a cabinet's modules stood; absent for the cabinet's own arrangement. */
  rack: z.array(placedSchema).max(128).optional(),
  /** What stands behind the instrument and belongs to the sound, in the sound's order. */
  outboard: z.array(outboardSchema).max(MOST_OUTBOARD).default([]),
  /** Place of the instrument's own memory that it is stored in, and the name that it has there. */
  stored: z
    .strictObject({
      bank: z.number().int().min(1).max(128),
      slot: z.number().int().min(1).max(1024),
      name: z.string().max(64).default(''),
    })
    .optional(),
  /** Jack at which the sound is taken off; absent for the instrument's own output. */
  outlet: id.optional(),
  /** A recording that is fed into it. */
  feed: feedSchema.optional(),
  matrix: z.array(matrixRowSchema).max(64).default([]),
  variations: z.array(variationSchema).max(32).default([]),
  /** What wheel, bender, pedal, pressure and velocity do at their ends, by control. */
  ends: z.record(id, endsSchema).default({}),
  /** Findings that are meant so, by their id, with the reason. */
  meant: z.record(z.string().min(1).max(200), z.string().max(500)).default({}),
  phrase: z.array(phraseNoteSchema).max(512).default([]),
  /** What its sequencers hold. */
  patterns: patternsSchema.default([]),
  checkpoints: z.array(checkpointSchema).max(64).default([]),
});
export type Patch = z.infer<typeof patchSchema>;

/** Version of the instrument's description that a patch was recorded on. */
export const editionOf = ({ edition }: Pick<Patch, 'edition'>): number => edition ?? 1;

/** A patch as it may be written in a file, defaults left out. */
