import type { Value } from '../instrument/schema';
import { barsUntilMeeting } from '../theory/time';
import type { Condition } from '../pattern/condition';
import { MOST_STEPS } from '../pattern/limits';
import type { PatternStep, Track } from '../pattern/pattern';
import { isRest, stepOf, withoutTail } from '../pattern/steps';

/** Steps of a track that are struck, from 0. */
export const hitsOf = (track: Track): number[] =>
  Array.from({ length: track.length }, (_, i) => i).filter(
    (i) => stepOf(track, i).notes !== undefined,
  );

/** A track of another length or other steps. */
export const rebuilt = (track: Track, length: number, step: (i: number) => PatternStep): Track => ({
  ...track,
  length,
  steps: withoutTail(Array.from({ length }, (_, i) => step(i))),
});

/** A hit every so many steps: the track, and after how many bars it meets the same place of the bar again. */
export interface EveryResult {
  track: Track;
  bars: number;
  /** Steps until it meets; the track is as long, where that is within reach, so that the figure does not break. */
  meets: number;
}

/**
 * A hit every `every` steps from `from` (0 is the first step) against a bar of `bar` steps. The track becomes as long as
 * it takes to meet the bar again, lcm(every, bar), when that is 64 steps at most, else `every` steps.
 */
export function hitsEvery(
  track: Track,
  every: number,
  from: number,
  hit: PatternStep,
  bar = 16,
): EveryResult {
  const bars = barsUntilMeeting(every, bar);
  const meets = bars * bar;
  const length = meets <= MOST_STEPS ? meets : every;
  const start = ((from % every) + every) % every;
  return {
    track: rebuilt(track, length, (i) => (i % every === start ? hit : {})),
    bars,
    meets,
  };
}

/**
 * Lays a value along the hits of another track: every `each`-th of them, from the first, gets the value. A track that is
 * shorter, or comes round at another time, is repeated until both meet, when that is 64 steps at most; else until it is as
 * long as the other.
 */
export function ownValuesAlong(
  track: Track,
  other: Track,
  control: string,
  value: Value,
  each = 1,
): Track {
  const hits = hitsOf(other);
  const wanted = new Set<number>();
  // lcm(track, other)
  const meeting = barsUntilMeeting(other.length, track.length) * track.length;
  const turns = Math.ceil(other.length / track.length);
  const length = meeting <= MOST_STEPS ? meeting : Math.min(MOST_STEPS, turns * track.length);
  const rounds = Math.ceil(length / other.length);
  for (let r = 0, n = 0; r < rounds; r++) {
    for (const hit of hits) if (n++ % each === 0) wanted.add(r * other.length + hit);
  }
  return rebuilt(track, length, (i) => {
    const step = stepOf(track, i % track.length);
    return wanted.has(i) && step.notes
      ? { ...step, ownValues: { ...step.ownValues, [control]: value } }
      : step;
  });
}

/**
 * An answer that only sounds in fill: the notes again, so many semitones higher, so many steps later, where the track
 * rests.
 */
export function answer(
  track: Track,
  later: number,
  semitones = 12,
  condition: Condition = 'fill',
): Track {
  const copies = new Map<number, PatternStep>();
  for (const hit of hitsOf(track)) {
    const step = stepOf(track, hit);
    if (step.condition === condition) continue;
    const at = (hit + later) % track.length;
    const notes = step.notes!.map((n) => n + semitones).filter((n) => n <= 127);
    if (isRest(stepOf(track, at)) && notes.length > 0)
      copies.set(at, { ...step, notes, condition });
  }
  return rebuilt(track, track.length, (i) => copies.get(i) ?? stepOf(track, i));
}

/**
 * Quieter hits that lead to a stroke: `count` steps before it, along v = soft + (loud - soft) * x^curve, x running from 0
 * to just below 1. Steps that are struck already keep what they have.
 * @param stroke step of the stroke, from 0
 * @param curve above 0: 1 rises evenly, 2 late
 */
export function ghosts(track: Track, stroke: number, count: number, soft = 18, curve = 1.5): Track {
  const head = stepOf(track, stroke);
  if (!head.notes) return track;
  const loud = head.velocity ?? 100;
  const added = new Map<number, PatternStep>();
  for (let n = 0; n < count; n++) {
    const at = (((stroke - count + n) % track.length) + track.length) % track.length;
    if (at === stroke || stepOf(track, at).notes) continue;
    const velocity = Math.round(soft + (loud - soft) * (n / count) ** curve);
    added.set(at, { notes: head.notes, velocity: Math.min(127, Math.max(1, velocity)) });
  }
  return rebuilt(track, track.length, (i) => added.get(i) ?? stepOf(track, i));
}

/** All notes so many semitones higher; undefined when one would leave MIDI's range. */
export function transposed(track: Track, semitones: number): Track | undefined {
  const steps = track.steps.map((s) =>
    s.notes ? { ...s, notes: s.notes.map((n) => n + semitones) } : s,
  );
  const fits = steps.every((s) => s.notes?.every((n) => n >= 0 && n <= 127) ?? true);
  return fits ? { ...track, steps } : undefined;
}

/** All steps so many places later, within the track's length. */
export const rotated = (track: Track, by: number): Track =>
  rebuilt(track, track.length, (i) =>
    stepOf(track, (((i - by) % track.length) + track.length) % track.length),
  );
