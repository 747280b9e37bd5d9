import type { Instrument, Patch, Stood, TellingNote, Work } from '@hurrel/core';

/** What was moved on a panel towards a patch. */
export interface TellRequest {
  face: Instrument;
  patch: Patch;
  steps: Work[];
  /** What stood there before. */
  stood?: Stood;
}

/** One key of a panel, rendered: a device that is too slow to play it live plays this. */
export interface Sound {
  channels: Float32Array[];
  sampleRate: number;
}

/** The note that tells most, and how it shall sound. */
export interface Telling extends TellingNote {
  sound: Sound;
}

/** A key of a panel as it stands. */
export interface SoundRequest {
  face: Instrument;
  patch: Patch;
  note: number;
}

/** What will be asked for: the note that tells most, or one key. */
export type Coming = TellRequest | SoundRequest;

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
  sound(request: SoundRequest): Promise<Sound>;
}
