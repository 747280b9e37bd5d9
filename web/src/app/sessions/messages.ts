import type { PassSubject, Session, Take } from '@hurrel/core';

/** A session to be rendered as a whole, or only some of its passes. */
export interface MixRequest {
  session: Session;
  subjects: PassSubject[];
  takes: [string, Take][];
  sampleRate: number;
}
export interface MixWorker {
  /** Both sides; `progress` is told the share that is done. */
  mix(request: MixRequest, progress: (done: number) => void): Promise<[Float32Array, Float32Array]>;
}
