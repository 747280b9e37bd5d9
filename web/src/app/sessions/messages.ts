import type { PassSubject, Session, Take } from '@hurrel/core';

/** A session to be rendered as a whole, or only some of its passes. */
export interface MixRequest {
  session: Session;
  subjects: PassSubject[];
  takes: [string, Take][];
  sampleRate: number;
}

/** How far it is; both sides when it is done. */
export interface MixAnswer {
  done: number;
  sides?: [Float32Array, Float32Array];
}
