import type { Instrument, Patch, TellingNote, Work } from '@hurrel/core';

/** What was moved on a panel towards a patch. */
export interface TellRequest {
  face: Instrument;
  patch: Patch;
  steps: Work[];
}

/** The note that tells most, and how it shall sound, rendered: a device that is too slow to play it live plays this. */
export interface Telling extends TellingNote {
  sound: { channels: Float32Array[]; sampleRate: number };
}

/** A panel as it stands. */
export interface DoctorRequest {
  face: Instrument;
  patch: Patch;
}

export interface StageWorker {
  /** What the doctor says of it, the gravest first. */
  doctor(request: DoctorRequest): Promise<string[]>;
  /** The note that tells most of what might have been forgotten. */
  tell(request: TellRequest): Promise<Telling>;
}
