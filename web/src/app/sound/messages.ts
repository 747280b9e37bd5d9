import type {
  Finding,
  Instrument,
  Measurable,
  MeasuredValue,
  Patch,
  Picture,
  Played,
  Sensitivity,
  SoundFacts,
  TravelEnds,
  TravelPoint,
  Volts,
  WavFormat,
} from '@hurrel/core';

// What workers are asked, and what they answer. `tell` is called with each part of an answer as soon as there is one.

/** A patch to be looked at. The instrument is left out when it is the same as before. */
export interface PreviewRequest {
  instrument?: Instrument;
  patch: Patch;
  note: number;
}
export interface PreviewWorker {
  /** `early` gets a first picture, with the whole one still to come. */
  preview(request: PreviewRequest, early: (picture: Picture) => void): Promise<Picture>;
}

/** A patch to be examined. The instrument is left out when it is the same as before. */
export interface CheckupWorker {
  checkup(request: { instrument?: Instrument; patch: Patch }): Promise<Finding[]>;
}

export interface SensitivityRequest {
  instrument: Instrument;
  patch: Patch;
  note: number;
  controls: string[];
}
export interface SensitivityWorker {
  /** Done when all have been taken. */
  sensitivities(request: SensitivityRequest, tell: (of: Sensitivity) => void): Promise<void>;
}

export interface MatchRequest {
  first: { instrument: Instrument; patch: Patch };
  /** A patch, or the channels of a recording. */
  second:
    | { instrument: Instrument; patch: Patch }
    | { channels: Float32Array[]; sampleRate: number };
}
export interface MatchWorker {
  /** Loudness of both in LUFS while they play the first one's phrase; by single keys, how many LU the second is louder. */
  loudness(
    request: MatchRequest,
  ): Promise<{ first: number; second: number; keys: { note: number; difference: number }[] }>;
}

/** One note of a patch, or a recording, to be measured. */
export interface MeasureRequest {
  subject:
    | { instrument: Instrument; patch: Patch; note: number }
    | { channels: Float32Array[]; sampleRate: number };
  /** Also wanted as a WAV file of this kind. */
  format?: WavFormat;
}
export interface MeasureAnswer {
  facts: SoundFacts;
  wav?: Uint8Array;
}
/** One value of a circuit, to be read off a WAV file. */
export interface ValueRequest {
  wav: Uint8Array;
  what: Measurable;
  played: Played;
}
export interface MeasureWorker {
  measure(request: MeasureRequest): Promise<MeasureAnswer>;
  value(request: ValueRequest): MeasuredValue;
}

/** What stands at the ports of a patch while its first note is held. */
export interface VoltsWorker {
  volts(request: { instrument: Instrument; patch: Patch }): Promise<Volts[]>;
}

export interface TravelRequest {
  instrument: Instrument;
  patch: Patch;
  controller: string;
  note: number;
}
export interface TravelWorker {
  travel(request: TravelRequest, tell: (point: TravelPoint) => void): Promise<TravelEnds>;
}
