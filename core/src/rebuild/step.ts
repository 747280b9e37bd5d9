import type { Value } from '../instrument/schema';
import type { Checkpoint, MatrixRow, Patch } from '../patch/schema';
import type { CableMove } from './cables';

/** What the panel is known to show before the rebuild. */
export type PanelBefore = Pick<Patch, 'settings' | 'cables' | 'matrix'> &
  Pick<
    Partial<Patch>,
    'rack' | 'patterns' | 'outboard' | 'outlet' | 'feed' | 'revision' | 'stored'
  >;

/** One movement of a hand. */
export interface Movement {
  kind: 'movement';
  /** Stable name of the step: the control's id. */
  id: string;
  control: string;
  section: string;
  /** What one reads now; `?` when that is not known. */
  from: string;
  /** What one shall read: the best guess of a range, the neighbourhood of a target. */
  to: string;
  fromValue?: Value;
  toValue: Value;
  /** `turn right`, `up`, `press twice` ...; absent when the way is not known. */
  way?: string;
  /** Both ends, when anywhere between will do. */
  range?: [string, string];
  /** What decides, when it is the ear. */
  target?: string;
  note?: string;
  route?: string[];
  seconds: number;
}

/** A stop to listen. */
export interface Listening {
  kind: 'listening';
  id: string;
  checkpoint: Checkpoint;
}

/** A cable that is pulled, put in, or moved by one end. */
export interface Cabling extends CableMove {
  kind: 'pull' | 'move' | 'add';
  id: string;
  section: string;
  /** Jack where the hand goes first. */
  jack: string;
  /** What to do, in the panel's words. */
  text: string;
  note?: string;
  seconds: number;
}

/** A row of the matrix that is set, or emptied. */
export interface RowSetting {
  kind: 'row';
  id: string;
  row: number;
  /** What stood in it; absent when it was empty. */
  before?: MatrixRow;
  from: string;
  to: string;
  route: string[];
  seconds: number;
}

/**
 * `rack`: a module of a cabinet that is put in, taken out or put elsewhere, with the power off; `outboard`: something that
 * is put behind the instrument or taken away, or the jack at which the sound is taken off.
 */
export interface Racking {
  kind: 'rack' | 'outboard';
  id: string;
  section: string;
  text: string;
  seconds: number;
}

/** A stretch of a pattern that is entered into a sequencer: one pass, one page of a track, one row of knobs. */
export interface Entering {
  kind: 'entry';
  id: string;
  pattern: string;
  /** What is entered and where: `Bar one into A1, pitches`. */
  text: string;
  /** What one reads while pressing. */
  told: string[];
  presses: number;
  seconds: number;
}

/** The sound is stored in a place of the instrument's own memory, under a name. */
export interface Storing {
  kind: 'store';
  id: string;
  /** `Store in A12` ... */
  text: string;
  /** What one reads while pressing: the name letter by letter, and what is lost of it. */
  told: string[];
  /** What would be lost by it on this unit; empty when nothing is known to be. */
  warning: string;
  seconds: number;
}

/** A sound that was stored before is loaded from its place. */
export interface Loading {
  kind: 'load';
  id: string;
  /** Name of the place: `A12`. */
  place: string;
  /** `Load A12: Night Lock call` */
  text: string;
  seconds: number;
}

export type Step =
  | Movement
  | Listening
  | Cabling
  | RowSetting
  | Racking
  | Entering
  | Storing
  | Loading;

/** What a hand does: everything but the stops to listen. */
export const isWork = (step: Step): step is Exclude<Step, Listening> => step.kind !== 'listening';
