import * as z from 'zod';

export const phraseNoteSchema = z.strictObject({
  /** Quarter notes from the start of the phrase. */
  beat: z.number().min(0).max(256),
  /** Quarter notes that the key is held. */
  length: z.number().positive().max(256),
  /** MIDI number. */
  note: z.number().int().min(0).max(127),
  velocity: z.number().int().min(1).max(127),
});
export type PhraseNote = z.infer<typeof phraseNoteSchema>;
