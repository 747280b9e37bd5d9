import type { Instrument, Patch, Pattern } from '@hurrel/core';

/** One instrument with what it plays. */
export interface RunPart {
  instrument: Instrument;
  patch: Patch;
  patterns: Pattern[];
  gain: number;
  pan: number;
  seed: number;
}

/** Instruments that play together, to be rendered. */
export interface RunRequest {
  parts: RunPart[];
  tempo: number;
  beats: number;
}

/** How far it is; the file when it is done. */
export interface RunAnswer {
  done: number;
  wav?: Uint8Array;
}
