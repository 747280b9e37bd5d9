import type { PartSubject } from '@hurrel/core';

/** Instruments that play together, to be rendered. */
export interface RunRequest {
  parts: PartSubject[];
  tempo: number;
  beats: number;
}
export interface RunWorker {
  /** A WAV file; `progress` is told the share that is done. */
  render(request: RunRequest, progress: (done: number) => void): Promise<Uint8Array>;
}
