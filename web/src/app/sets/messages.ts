import type { Better, Evening, EveningPlan, HandTimes, PanelBefore, Recorded } from '@hurrel/core';

/** What is known beside a set. */
export interface Known {
  /** By the patch's id; what is gone is left out. */
  library: Record<string, Recorded>;
  /** What panels show before the evening, by panel, as far as it is known. */
  before: Record<string, PanelBefore>;
  /** What movements take whom, by person; the stated defaults where nothing is. */
  times: Record<string, HandTimes>;
}

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
