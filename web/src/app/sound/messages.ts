import type {
  Finding,
  Instrument,
  Patch,
  Picture,
  TimedNote,
  SoundFacts,
  TravelEnds,
  TravelPoint,
  WavFormat,
  Sensitivity,
} from '@hurrel/core';

/** What is asked of the worker that looks at a patch. */
export interface LookRequest {
  id: number;
  instrument: Instrument;
  patch: Patch;
  note: number;
}

/** The wish on its way: without the instrument when that is the same as before. */
export type LookMessage = Omit<LookRequest, 'instrument'> &
  Partial<Pick<LookRequest, 'instrument'>>;

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

/** What is asked of a worker that weighs controls: one of two takes half of them. */
export interface WeighRequest {
  instrument: Instrument;
  patch: Patch;
  note: number;
  controls: string[];
}
export type WeighAnswer = Sensitivity;

/** What is asked of the worker that makes two sounds equally loud. */
export interface MatchRequest {
  first: { instrument: Instrument; patch: Patch };
  /** A patch, or the channels of a recording. */
  second:
    { instrument: Instrument; patch: Patch } | { channels: Float32Array[]; sampleRate: number };
}
export interface MatchAnswer {
  /** Loudness of both in LUFS. */
  first: number;
  second: number;
}

/** What is asked of the worker that measures: one note of a patch, or a recording. */
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

/** What is asked of the worker that walks through a hand's travel. */
export interface TravelRequest {
  instrument: Instrument;
  patch: Patch;
  hand: string;
  note: number;
}
export type TravelAnswer =
  { kind: 'point'; point: TravelPoint } | { kind: 'ends'; ends: TravelEnds };
