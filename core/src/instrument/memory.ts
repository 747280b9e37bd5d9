import * as z from 'zod';

/** How an instrument tells over MIDI which of its places was chosen on the panel. */
export const programsSchema = z.strictObject({
  /** `bank`: each bank is one of MIDI; `through`: places are counted through all banks, 128 to each bank of MIDI. */
  counted: z.enum(['bank', 'through']),
  /** Which half of bank select tells the bank: controller 0 (coarse) or 32 (fine). */
  select: z.enum(['coarse', 'fine']),
});

/** Where an instrument keeps sounds by itself. */
export const memorySchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('none') }),
  z.strictObject({
    kind: z.literal('slots'),
    banks: z.number().int().min(1).max(128),
    slots: z.number().int().min(1).max(1024),
    /** Most characters of a name; 0 where sounds have only numbers. */
    nameLength: z.number().int().min(0).max(64),
    /** Characters a name may hold, in the order in which the encoder steps through them. */
    characters: z.string().min(2).max(256).optional(),
    /** Absent: it does not tell which place was chosen. */
    programs: programsSchema.optional(),
  }),
]);
export type Memory = z.infer<typeof memorySchema>;
