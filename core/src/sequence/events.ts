import type { Pattern, PatternStep } from '../pattern/pattern';
import type { TimedNote } from '../pattern/timed';
import { PatternRun } from './run';

/** Where and how patterns are played. Quarter notes from the start, tempi in quarter notes a minute. */
export interface PatternTransport {
  /** Quarter notes to play. */
  beats: number;
  tempo: number;
  /** Tempi from a quarter note on, in order. */
  tempos?: readonly { beat: number; tempo: number }[];
  /** Same seed, same chances. Default 1. */
  seed?: number;
  /** Stretches in which fill is held: from, until (excluded). */
  fills?: readonly { from: number; to: number }[];
}

/** Something that a pattern makes happen. */
export type PatternEvent = {
  /** Quarter note and second from the start. */
  beat: number;
  seconds: number;
  /** Number of the track in its pattern. */
  track: number;
} & (
  | { kind: 'press'; note: number; velocity: number }
  | { kind: 'release'; note: number }
  | { kind: 'ownValue'; ownValues: NonNullable<PatternStep['ownValues']> }
);

/** Seconds at a quarter note. */
export function secondsAt(
  beat: number,
  { tempo, tempos = [] }: Pick<PatternTransport, 'tempo' | 'tempos'>,
): number {
  let [at, seconds, now] = [0, 0, tempo];
  for (const change of tempos) {
    if (change.beat >= beat) break;
    seconds += ((change.beat - at) * 60) / now;
    [at, now] = [change.beat, change.tempo];
  }
  return seconds + ((beat - at) * 60) / now;
}

/**
 * All that a pattern, and those chained to it, make happen: a pure function, exact to rounding. Keys that are still down
 * at the end are let go there.
 * @param patterns the first is played; `next` leads on within them
 */
export function events(patterns: readonly Pattern[], transport: PatternTransport): PatternEvent[] {
  const run = new PatternRun(patterns, transport.seed ?? 1);
  const all: PatternEvent[] = [];
  const seconds = (beat: number): number => secondsAt(beat, transport);
  const sink = {
    press: (beat: number, note: number, velocity: number, track: number) =>
      void all.push({ beat, seconds: seconds(beat), track, kind: 'press', note, velocity }),
    release: (beat: number, note: number, track: number) =>
      void all.push({ beat, seconds: seconds(beat), track, kind: 'release', note }),
    step: (beat: number, pattern: number, track: number, step: number) => {
      const ownValues = patterns[pattern]!.tracks[track]!.steps[step]?.ownValues;
      if (ownValues) all.push({ beat, seconds: seconds(beat), track, kind: 'ownValue', ownValues });
    },
  };
  for (const { from, to } of transport.fills ?? []) {
    run.advance(Math.min(from, transport.beats), sink);
    run.fill = true;
    run.advance(Math.min(to, transport.beats), sink);
    run.fill = false;
  }
  run.advance(transport.beats, sink);
  run.stop(transport.beats, sink);
  return all;
}

/** Keys and how long they are held, of events in order. */
export function notesOf(all: readonly PatternEvent[]): TimedNote[] {
  const notes: TimedNote[] = [];
  const down = new Map<number, TimedNote>();
  for (const event of all) {
    if (event.kind === 'press') {
      const note = {
        start: event.seconds,
        duration: 0,
        note: event.note,
        velocity: event.velocity,
      };
      notes.push(note);
      down.set(event.note, note);
    } else if (event.kind === 'release') {
      const note = down.get(event.note);
      if (note) note.duration = Math.max(1e-4, event.seconds - note.start);
      down.delete(event.note);
    }
  }
  return notes;
}
