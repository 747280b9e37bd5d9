import type { Pattern, PatternStep, Track } from './pattern';

/** A step that does nothing. */
export const REST: PatternStep = Object.freeze({});

export const isRest = (step: PatternStep | undefined): boolean =>
  step === undefined || (step.notes === undefined && step.tie === undefined && !step.ownValues);

/** Whether a track strikes at a step, as far as its steps say: conditions and chances may still leave it out. */
export const strikes = (track: Track, index: number): boolean =>
  track.arpeggio !== undefined || stepOf(track, index).notes !== undefined;

/** Step of a track by its number from 0, written down or not. */
export const stepOf = (track: Track, index: number): PatternStep => track.steps[index] ?? REST;

/** A track with one step put in the place of another; rests behind the last step are not written down. */
export function withStep(track: Track, index: number, step: PatternStep): Track {
  const steps = Array.from({ length: Math.max(track.steps.length, index + 1) }, (_, i) =>
    i === index ? step : stepOf(track, i),
  );
  return { ...track, steps: withoutTail(steps) };
}

export function withoutTail(steps: readonly PatternStep[]): PatternStep[] {
  const last = steps.findLastIndex((step) => Object.keys(step).length > 0);
  return steps.slice(0, last + 1);
}

/** A pattern with one track put in the place of that with the same id. */
export const withTrack = (pattern: Pattern, track: Track): Pattern => ({
  ...pattern,
  tracks: pattern.tracks.map((t) => (t.id === track.id ? track : t)),
});

/** The patterns that follow each other from one on, until the chain ends or comes round. */
export function chainFrom(patterns: readonly Pattern[], first: string): Pattern[] {
  const chain: Pattern[] = [];
  let at = patterns.find((p) => p.id === first);
  while (at && !chain.includes(at)) {
    chain.push(at);
    const { next } = at;
    at = patterns.find((p) => p.id === next);
  }
  return chain;
}
