import type { Finding, Instrument, Patch, Picture, Setting, TimedNote } from '@hurrel/core';

/** What is asked of the worker that looks at a patch. */
export interface LookRequest {
  id: number;
  instrument: Instrument;
  patch: Patch;
  note: number;
}

export interface LookAnswer {
  id: number;
  picture: Picture;
  findings: Finding[];
  /** False for a first picture, with the whole one still to come. */
  done: boolean;
}

/** What is asked of the worker that plays. */
export interface PlayRequest {
  instrument: Instrument;
  revision: string | undefined;
  settings: Record<string, Setting>;
  patch: Patch;
  notes: TimedNote[];
  seconds: number;
  sampleRate: number;
}

/** A stretch of sound, in order; the last one says so. */
export interface PlayChunk {
  samples: Float32Array<ArrayBuffer>;
  done: boolean;
}
