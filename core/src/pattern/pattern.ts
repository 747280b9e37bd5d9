import * as z from 'zod';
import { valueSchema } from './value';
import { arpeggioModes } from './arpeggio';
import { directions } from './direction';
import { MOST_STEPS, MOST_TRACKS } from './limits';
import { rateNames } from './rate';

const id = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,47}$/, 'expected lower-case letters, digits and hyphens');
const midi = z.number().int().min(0).max(127);

/** See `Condition`. */
export const conditionSchema = z
  .string()
  .regex(
    /^(fill|not-fill|first|not-first|previous|not-previous|[1-9]\d?%|[1-8]\/[2-8])$/,
    'expected fill, not-fill, first, not-first, previous, not-previous, a chance as 30% or rounds as 2/4',
  )
  .refine((text) => {
    const [a = '', b] = text.split('/');
    return b === undefined || Number(a) <= Number(b);
  }, 'expected a round among its rounds, as 2/4');

export const arpeggioSchema = z.strictObject({
  mode: z.enum(arpeggioModes).default('up'),
  /** Octaves that are run through. */
  octaves: z.number().int().min(1).max(4).default(1),
  /** Chords, one after the other: keys in the order of pressing, and steps that they are held. */
  chords: z
    .array(
      z.strictObject({
        notes: z.array(z.number().int().min(0).max(127)).min(1).max(8),
        steps: z.number().int().min(1).max(256),
      }),
    )
    .min(1)
    .max(32),
  /** Steps that a note sounds. */
  length: z.number().min(0.05).max(1).default(0.75),
});

/** One step. Nothing in it is a rest. */
export const stepSchema = z
  .strictObject({
    /** MIDI numbers that are struck. */
    notes: z.array(midi).min(1).max(8).optional(),
    /** The note before is held on through this step. */
    tie: z.literal(true).optional(),
    /** Steps that it sounds, when that is not three quarters of the last step it is held through. */
    length: z.number().min(0.05).max(64).optional(),
    velocity: z.number().int().min(1).max(127).optional(),
    accent: z.literal(true).optional(),
    /** Runs on into the next note. */
    slide: z.literal(true).optional(),
    /** Controls that stand elsewhere from this step on, for as long as the track's `ownFor` says. */
    ownValues: z.record(id, valueSchema).optional(),
    /** What own values were called in older files. */
    locks: z.record(id, valueSchema).optional(),
    condition: conditionSchema.optional(),
    /** Shares of a step that it comes late, or early when below 0. */
    micro: z.number().min(-0.5).max(0.5).optional(),
  })
  .transform(({ locks, ...step }) =>
    locks ? { ...step, ownValues: { ...locks, ...step.ownValues } } : step,
  );
export type PatternStep = z.infer<typeof stepSchema>;

export const trackSchema = z.strictObject({
  id,
  name: z.string().trim().min(1).max(40),
  /** Track of the box that it is on; absent for the only one, or for what is played from outside. */
  on: id.optional(),
  /** Steps that are played, wherever the steps written down end. */
  length: z.number().int().min(1).max(MOST_STEPS).default(16),
  rate: z.enum(rateNames).default('1/16'),
  direction: z.enum(directions).default('forward'),
  /** Per cent of a pair of steps that the first one takes. */
  swing: z.number().min(50).max(75).default(50),
  /** Step that counts as the first, from 0. */
  offset: z.number().int().min(0).max(63).default(0),
  muted: z.boolean().default(false),
  /** How long a step's own values last: until the track strikes again, or to the end of the step. */
  ownFor: z.enum(['note', 'step']).default('note'),
  steps: z.array(stepSchema).max(MOST_STEPS).default([]),
  /** Volts of the rows, step by step, by the row's id. */
  rows: z.record(id, z.array(z.number().min(-10).max(10)).max(MOST_STEPS)).default({}),
  /** Keys that are held and run through, instead of steps. */
  arpeggio: arpeggioSchema.optional(),
});
export type Track = z.infer<typeof trackSchema>;

export const patternSchema = z.strictObject({
  id,
  name: z.string().trim().min(1).max(80),
  /** Sequencer of the instrument that it is for; absent when it is played from outside. */
  sequencer: id.optional(),
  /** Numbered place of the box's memory, in its own words. */
  place: z.string().trim().max(12).optional(),
  /** Bars of four quarter notes until what is chained or queued follows. */
  bars: z.number().int().min(1).max(64).default(1),
  /** Semitones. */
  transpose: z.number().int().min(-48).max(48).default(0),
  tracks: z.array(trackSchema).min(1).max(MOST_TRACKS),
  /** Pattern that follows when this one has been through. */
  next: id.optional(),
  about: z.string().max(500).default(''),
});
export type Pattern = z.infer<typeof patternSchema>;

export const patternsSchema = z
  .array(patternSchema)
  .max(64)
  .superRefine((patterns, context) => {
    const ids = new Set<string>();
    patterns.forEach((pattern, i) => {
      if (ids.has(pattern.id)) {
        const message = `There are two patterns "${pattern.id}".`;
        context.addIssue({ code: 'custom', path: [i, 'id'], message });
      }
      ids.add(pattern.id);
    });
    patterns.forEach(({ next }, i) => {
      if (next === undefined || ids.has(next)) return;
      const message = `There is no pattern "${next}" to follow.`;
      context.addIssue({ code: 'custom', path: [i, 'next'], message });
    });
  });
