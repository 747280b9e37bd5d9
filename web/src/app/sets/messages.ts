import type { Better, Evening, EveningPlan, Known } from '@hurrel/core';

/** A set with all that it names. */
export interface EveningRequest extends Known {
  evening: Evening;
}

export interface EveningWorker {
  /** `known` is left out where it is the same as before: the ways between sounds are worked out once. */
  plan(evening: Evening, known?: Known): EveningPlan;
  /** A better order of the songs that are not fixed. */
  order(request: EveningRequest, told: (lacking: number) => void): Better;
  /** Equal panels shared out among the songs. */
  panels(request: EveningRequest): Better;
}
