import * as z from 'zod';
import { id } from '../instrument/atoms';
import type { PanelBefore } from '../rebuild/step';
import { panelShownSchema } from '../rebuild/shown';

/** What a hand does, as far as its time is of another kind. */
export const handKinds = ['knob', 'ear', 'switch', 'cable', 'pull'] as const;
export type HandKind = (typeof handKinds)[number];

/** Latest clock that a mark may carry: more than anybody ticks. */
const MOST_CLOCK = 1e9;

/** What one device said of one thing, and when. */
export const markSchema = z.strictObject({
  /**
   * Of a movement `done`, `later`, `wrong` or `open`; of a person's place the song; of a break when it began; of a control that
   * was heard over MIDI what it sent, 0 to 127; of a memory of which it was heard that a place was chosen, the place.
   */
  value: z.string().min(1).max(64),
  /** One more than any clock that the device had seen: what is said knowingly of what was said before is later. */
  clock: z.number().int().min(0).max(MOST_CLOCK),
  device: z.string().regex(/^[A-Za-z0-9-]{1,64}$/),
  at: z.iso.datetime(),
  person: id.optional(),
  kind: z.enum(handKinds).optional(),
  /** Seconds that the movement took. */
  seconds: z.number().min(0).max(3600).optional(),
  /** How often it was ticked and did not stand as it should. */
  missed: z.number().int().min(0).max(1000).optional(),
});
export type WalkMark = z.infer<typeof markSchema>;

/** Most things of which something can be said in one walk. */
const MOST_MARKS = 50_000;

/** What was said, by what it is said of: `work/<song>/<panel>/<step>`, `at/<person>`, `begun/<song>`, `heard/<panel>/<control>`, `loaded/<panel>`. */
export const marksSchema = z
  .record(z.string().regex(/^[a-z]+\/[^\n]{1,200}$/), markSchema)
  .refine(
    (all) => Object.keys(all).length <= MOST_MARKS,
    `A walk has ${MOST_MARKS} marks at most.`,
  );
export type Marks = z.infer<typeof marksSchema>;

/** `stage`: for the audience; `rehearsal`: against the clock, for the times that it teaches. */
export const walkKinds = ['stage', 'rehearsal'] as const;
export type WalkKind = (typeof walkKinds)[number];

/** What panels showed when a walk began, by panel; what is not known is left out. */
export const walkBeforeSchema = z.record(id, panelShownSchema);
export type WalkBefore = Record<string, PanelBefore>;

/** Of what was said apart at the same time: a hand that has moved something has moved it. */
const weight = ({ value }: WalkMark): number => ['open', 'later', 'wrong', 'done'].indexOf(value);

/** The later of two marks; where neither knew of the other what is done, then what the device with the greater name says. */
const later = (a: WalkMark, b: WalkMark): WalkMark => {
  if (a.clock !== b.clock) return a.clock > b.clock ? a : b;
  if (weight(a) !== weight(b)) return weight(a) > weight(b) ? a : b;
  if (a.device !== b.device) return a.device > b.device ? a : b;
  return JSON.stringify(a) >= JSON.stringify(b) ? a : b;
};

/**
 * Brings together what was said apart. A join of a semilattice, thing by thing (a last-writer-wins map over Lamport clocks;
 * Shapiro et al., Conflict-free Replicated Data Types, SSS 2011): in whatever order and however often parts arrive, all
 * that have heard the same say the same.
 */
export function joinMarks(a: Marks, b: Marks): Marks {
  const joined = { ...a };
  for (const [key, mark] of Object.entries(b)) {
    const known = joined[key];
    joined[key] = known ? later(known, mark) : mark;
  }
  return joined;
}

/** What of `news` says more than is known. */
export const newsOf = (known: Marks, news: Marks): Marks =>
  Object.fromEntries(
    Object.entries(news).filter(([key, mark]) => {
      const there = known[key];
      return !there || (later(there, mark) === mark && !sameMark(there, mark));
    }),
  );

const sameMark = (a: WalkMark, b: WalkMark): boolean =>
  a.clock === b.clock && a.device === b.device && a.value === b.value;

/** The same with one thing said anew. */
export function withMark(marks: Marks, key: string, said: Omit<WalkMark, 'clock'>): Marks {
  const clock = Object.values(marks).reduce((most, m) => Math.max(most, m.clock), 0);
  return { ...marks, [key]: { ...said, clock: Math.min(MOST_CLOCK, clock + 1) } };
}

/** What a movement is known by in a walk: the song that it is for, the panel, the step. */
export const workKey = (song: string, panel: string, step: string): string =>
  `work/${song}/${panel}/${step}`.slice(0, 200);

/** What a movement's key says; undefined for one of something else. */
export function workOfKey(key: string): { song: string; panel: string; step: string } | undefined {
  const [kind, song, panel, ...step] = key.split('/');
  if (kind !== 'work' || !song || !panel || step.length === 0) return undefined;
  return { song, panel, step: step.join('/') };
}

export const placeKey = (person: string): string => `at/${person || 'all'}`;
export const begunKey = (song: string): string => `begun/${song}`;
export const heardKey = (panel: string, control: string): string =>
  `heard/${panel}/${control}`.slice(0, 200);
export const loadedKey = (panel: string): string => `loaded/${panel}`;
