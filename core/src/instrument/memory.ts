import * as z from 'zod';

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
  }),
]);
export type Memory = z.infer<typeof memorySchema>;
