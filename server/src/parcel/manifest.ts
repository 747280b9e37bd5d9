import * as z from 'zod';

/** Version of the parcel format that this code reads and writes. */
export const PARCEL_VERSION = 4;

export const parcelKinds = [
  'instrument',
  'unit',
  'patch',
  'session',
  'evening',
  'take',
  'photograph',
  'sound',
] as const;
export type ParcelKind = (typeof parcelKinds)[number];

const id = z.string().regex(/^[A-Za-z0-9-]{1,64}$/);

/** One file of a parcel. */
const itemSchema = z.strictObject({
  path: z.string().min(1).max(300),
  kind: z.enum(parcelKinds),
  id,
  name: z.string().max(300),
  /** Of an instrument: versions that this description stands for, as patches of the parcel name them. */
  editions: z.array(z.number().int().min(1).max(1e9)).max(10_000).optional(),
  /** Of a take: its session. */
  session: id.optional(),
  size: z.number().int().min(0).max(1e12),
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
});
export type ParcelItem = z.infer<typeof itemSchema>;

/** What lies in a parcel: stands first in it, as `manifest.json`. */
export const manifestSchema = z.strictObject({
  format: z.literal('hurrel-parcel'),
  /** The first had no photographs, the second no sets, the third no recordings that patches are fed with. */
  version: z.number().int().min(1).max(PARCEL_VERSION),
  made: z.string().max(40),
  items: z.array(itemSchema).max(50_000),
});
