import type { PartSubject } from '@hurrel/core';

/** Instruments that play together, to be rendered. */
export interface RunRequest {
  parts: PartSubject[];
  tempo: number;
  beats: number;
}

/** How far it is; the file when it is done. */
export interface RunAnswer {
  done: number;
  wav?: Uint8Array;
}
