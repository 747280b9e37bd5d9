import * as z from 'zod';
import { id } from '../instrument/atoms';

/** A recording that is played into an input of the panel and belongs to the sound. */
export const feedSchema = z.strictObject({
  /** SHA-256 of its WAV file. */
  sound: z.string().regex(/^[0-9a-f]{64}$/),
  /** What people call it. */
  name: z.string().trim().min(1).max(80),
  /** Input that it is plugged into. */
  jack: id,
  /** It runs from the beginning on, or each key that is pressed starts it. */
  start: z.enum(['running', 'key']).default('running'),
  /** At its end it begins again. */
  round: z.boolean().default(true),
  /** Volts of its full scale over 10. */
  level: z.number().min(0).max(2).default(0.5),
});
export type Feed = z.infer<typeof feedSchema>;

/** The samples of a recording: what a patch's checksum stands for. 1 is full scale. */
export interface FedSound {
  left: Float32Array;
  right: Float32Array;
  sampleRate: number;
}

/** A patch with the samples of what is fed into it at hand; a plain patch is heard without. */
export interface WithFed {
  fed?: FedSound;
}
