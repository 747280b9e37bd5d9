import * as z from 'zod';
import { callFaults, callsSchema } from './calls';

const id = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,47}$/, 'expected lower-case letters, digits and hyphens');
const name = z.string().trim().min(1).max(80);

/** Somebody of the band, by what they do. */
export const personSchema = z.strictObject({
  id,
  name,
  /** Where they stand: `stage left, behind the boxes`. */
  stands: z.string().trim().max(120).default(''),
});

/** A panel that is on stage: a unit, or an instrument of which nobody has said which one. */
export const stagePanelSchema = z.strictObject({
  id,
  name,
  instrument: id,
  unit: z.string().min(1).max(64).optional(),
  /** Who moves it; absent: the first person. */
  by: id.optional(),
  /** Who else may, how many seconds they need to get to it and back, and whether there is room for them beside its mover. */
  also: z
    .array(
      z.strictObject({
        by: id,
        walk: z.number().min(0).max(600).default(5),
        beside: z.boolean().default(false),
      }),
    )
    .max(24)
    .default([]),
  /** The hand that reaches it while whoever moves it plays something else; absent: either does. */
  side: z.enum(['left', 'right']).optional(),
  /** Before the evening it stands at its instrument's start, as somebody has said; false: nobody knows how it stands. */
  atStart: z.boolean().optional(),
  /** Places of its memory that may be stored into before the evening, by their names: `A11`. */
  places: z.array(z.string().trim().min(1).max(12)).max(128).default([]),
});
export type StagePanel = z.infer<typeof stagePanelSchema>;

/** Hands of somebody who plays. */
export const hands = ['left', 'right', 'both'] as const;
/** An encore is played at the end if at all; a song in reserve is not, until it is wanted. */
export const songKinds = ['song', 'encore', 'reserve'] as const;

/** A patch that a song needs on a panel. */
export const songPatchSchema = z.strictObject({
  panel: id,
  /** Patch of the library. */
  patch: z.string().min(1).max(64),
  variation: id.optional(),
  /** Who plays it; absent: whoever moves the panel. */
  by: id.optional(),
  /** It stays on this panel when equal panels are shared out. */
  locked: z.boolean().default(false),
  /** Bars of the song in which it is played; absent: all of it. */
  from: z.number().int().min(1).max(10_000).optional(),
  to: z.number().int().min(1).max(10_000).optional(),
  /** From this bar on a hand of whoever plays it is free. */
  free: z
    .strictObject({ hand: z.enum(hands), bar: z.number().int().min(1).max(10_000) })
    .optional(),
});
export type SongPatch = z.infer<typeof songPatchSchema>;

export const songSchema = z.strictObject({
  id,
  name,
  /** What stands on the panels while it is played. */
  plays: z.array(songPatchSchema).max(24).default([]),
  /** Seconds between the end of the song before and this one; of the first, what there is before doors. */
  pause: z.number().min(0).max(36_000).default(60),
  /** That is a wish: where more has to be moved the break is longer, and nothing is lacking. */
  wished: z.boolean().default(false),
  kind: z.enum(songKinds).default('song'),
  /** Seconds that it lasts; 0 when that is not known. */
  seconds: z.number().min(0).max(7200).default(0),
  /** It stays at its place when a better order is looked for. */
  fixed: z.boolean().default(false),
  note: z.string().max(500).default(''),
});
export type Song = z.infer<typeof songSchema>;

/** Most songs of an evening. */
export const MOST_SONGS = 200;

/** An evening on stage: songs in order, on which panels each plays what, and who moves them in between. */
export const eveningSchema = z
  .strictObject({
    format: z.literal('hurrel-set'),
    version: z.literal(1),
    name,
    place: z.string().trim().max(120).default(''),
    date: z.iso.date().optional(),
    calls: callsSchema.default({}),
    about: z.string().max(2000).default(''),
    people: z.array(personSchema).max(24).default([]),
    panels: z.array(stagePanelSchema).max(24).default([]),
    songs: z.array(songSchema).max(MOST_SONGS).default([]),
  })
  .superRefine(({ people, panels, songs, calls }, context) => {
    const report = (path: (string | number)[], message: string): void =>
      context.addIssue({ code: 'custom', path, message });
    const ids = (all: readonly { id: string }[], where: string): Set<string> => {
      const seen = new Set<string>();
      all.forEach((one, i) => {
        if (seen.has(one.id)) report([where, i, 'id'], `"${one.id}" is there twice.`);
        seen.add(one.id);
      });
      return seen;
    };
    for (const { kind, message } of callFaults(calls)) report(['calls', kind], message);
    const who = ids(people, 'people');
    const where = ids(panels, 'panels');
    ids(songs, 'songs');
    panels.forEach(({ by, also }, i) => {
      if (by !== undefined && !who.has(by)) report(['panels', i, 'by'], `There is nobody "${by}".`);
      also.forEach(({ by: other }, k) => {
        const path = ['panels', i, 'also', k, 'by'];
        if (!who.has(other)) report(path, `There is nobody "${other}".`);
        if (also.findIndex((a) => a.by === other) < k) report(path, `"${other}" is there twice.`);
      });
    });
    songs.forEach(({ plays }, i) => {
      const taken = new Set<string>();
      plays.forEach(({ panel, by, from, to }, k) => {
        const path = ['songs', i, 'plays', k, 'panel'];
        if (by !== undefined && !who.has(by))
          report(['songs', i, 'plays', k, 'by'], `There is nobody "${by}".`);
        if (from !== undefined && to !== undefined && to < from)
          report(['songs', i, 'plays', k, 'to'], 'It ends before it begins.');
        if (!where.has(panel)) report(path, `There is no panel "${panel}".`);
        if (taken.has(panel)) report(path, 'A panel plays one patch in a song.');
        taken.add(panel);
      });
    });
  });
export type Evening = z.infer<typeof eveningSchema>;

/** The same with what is in reserve played too; undefined when nothing is. */
export const withReserve = (evening: Evening): Evening | undefined =>
  evening.songs.some((s) => s.kind === 'reserve')
    ? {
        ...evening,
        songs: evening.songs.map((s) => (s.kind === 'reserve' ? { ...s, kind: 'song' } : s)),
      }
    : undefined;
