import * as z from 'zod';

const id = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,47}$/, 'expected lower-case letters, digits and hyphens');

/** What a calibration point was measured against. */
export const measuredAgainst = ['tuner', 'lamp', 'display', 'meter', 'ear'] as const;

export const calibrationPointSchema = z.strictObject({
  /** Share of the control's travel. */
  at: z.number().min(0).max(1),
  /** What it comes to there, in the unit of the control's first binding. */
  value: z.number().min(-1e6).max(1e6),
  against: z.enum(measuredAgainst).default('tuner'),
});
export type CalibrationPoint = z.infer<typeof calibrationPointSchema>;

/** A place of an instrument's memory, and what is in it as far as it is known. */
export const slotSchema = z.strictObject({
  bank: z.number().int().min(1).max(128),
  slot: z.number().int().min(1).max(1024),
  name: z.string().max(64).default(''),
  /** Patch of the library that is stored there. */
  patch: z.string().max(64).optional(),
  /** Not to be overwritten. */
  needed: z.boolean().default(false),
  note: z.string().max(200).default(''),
});
export type Slot = z.infer<typeof slotSchema>;

/** One's own specimen of an instrument: how its controls really read, what its memory holds. */
export const unitSchema = z.strictObject({
  instrument: id,
  name: z.string().trim().min(1).max(80),
  note: z.string().max(1000).default(''),
  /** Points measured on this unit, by control, in order of travel. */
  calibration: z.record(id, z.array(calibrationPointSchema).min(1).max(16)).default({}),
  slots: z.array(slotSchema).max(4096).default([]),
});
export type Unit = z.infer<typeof unitSchema>;
export type UnitSource = z.input<typeof unitSchema>;
