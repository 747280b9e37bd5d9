import * as z from 'zod';

const id = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,47}$/, 'expected lower-case letters, digits and hyphens');

/** A part of the song: introduction, build, drop. */
export const partSchema = z.strictObject({
  id,
  name: z.string().trim().min(1).max(40),
  /** Bars of four quarter notes. */
  bars: z.number().int().min(1).max(128),
});
export type SongPart = z.infer<typeof partSchema>;

/** One recorded pass: an instrument playing one thing through the song. */
export const passSchema = z.strictObject({
  id,
  name: z.string().trim().min(1).max(60),
  /** Patch of the library. */
  patch: z.string().min(1).max(64),
  /** Pattern of that patch; absent for its phrase. */
  pattern: id.optional(),
  /** Parts in which it plays, with the variation of the patch; empty for the patch itself. */
  plays: z.record(id, z.union([id, z.literal('')])).default({}),
  /** Level in dB, and place from -1 (left) to 1. */
  level: z.number().min(-60).max(12).default(0),
  pan: z.number().min(-1).max(1).default(0),
  muted: z.boolean().default(false),
  /** Recording of it that is stored; absent as long as the model plays. */
  take: z.string().max(64).optional(),
});
export type Pass = z.infer<typeof passSchema>;

/** A track made of passes: a song's parts over bars, and what is recorded for it, pass after pass. */
export const sessionSchema = z
  .strictObject({
    format: z.literal('hurrel-session'),
    version: z.literal(1),
    name: z.string().trim().min(1).max(80),
    song: z.string().trim().max(80).default(''),
    tempo: z.number().min(20).max(400).default(120),
    about: z.string().max(2000).default(''),
    parts: z.array(partSchema).min(1).max(32),
    passes: z.array(passSchema).max(32).default([]),
  })
  .superRefine(({ parts, passes }, context) => {
    const known = new Set(parts.map((p) => p.id));
    const twice = (ids: string[], where: string): void => {
      ids.forEach((one, i) => {
        if (ids.indexOf(one) === i) return;
        context.addIssue({
          code: 'custom',
          path: [where, i, 'id'],
          message: `"${one}" is there twice.`,
        });
      });
    };
    twice(
      parts.map((p) => p.id),
      'parts',
    );
    twice(
      passes.map((p) => p.id),
      'passes',
    );
    passes.forEach((pass, i) => {
      for (const part of Object.keys(pass.plays)) {
        if (known.has(part)) continue;
        const message = `There is no part "${part}".`;
        context.addIssue({ code: 'custom', path: ['passes', i, 'plays', part], message });
      }
    });
  });
export type Session = z.infer<typeof sessionSchema>;
