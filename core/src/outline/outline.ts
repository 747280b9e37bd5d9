import type { JackSignal } from '../instrument/jack';
import type { Control, Display, PhysicalUnit, Scale, Section } from '../instrument/schema';

export type Kind = Control['kind'];
export type Stage = Section['stage'];

/** A number printed at a share of the travel, 0 one end stop, 1 the other. */
export interface Mark {
  at: number;
  value: number;
}

/** Units that a scale's numbers are written in, where not in the scale's own. */
export type WrittenIn = NonNullable<Scale['writtenIn']>;

/** A control as an outline says it; what is left out is guessed from the words. */
export interface OutlineControl {
  name: string;
  kind?: Kind;
  /** Printed numbers, at both ends at least; none for a bare knob. */
  marks?: Mark[];
  unit?: PhysicalUnit;
  writtenIn?: WrittenIn;
  /** Decimals that its numbers are written with, where they are more than the numbers need. */
  decimals?: number;
  /** Its number stands on a display, or is printed round it; left out: a display on encoders and menus. */
  display?: boolean;
  /** Numbers of the display are so far apart. */
  step?: number;
  /** Numbers in whose place the display shows a word. */
  words?: NonNullable<Display['words']>;
  /** Words of a switch, in order. */
  positions?: string[];
  /** Where it rests: a number of its scale, or one of its positions. */
  rest?: string;
  /** Presses that lead to it. */
  route?: string[];
  /** It is on the same knob as the control above it. */
  second?: boolean;
  /** A depth, send or amount. */
  amount?: boolean;
  /** Controller number that it sends over MIDI. */
  cc?: number;
}

export interface OutlineJack {
  name: string;
  direction: 'in' | 'out';
  signal?: JackSignal;
  standard?: 'V/oct' | 'Hz/V';
}

export interface OutlineSection {
  name: string;
  /** It is a kind of module that can stand in a cabinet, as often as wanted. */
  module?: true;
  stage?: Stage;
  controls: OutlineControl[];
  jacks: OutlineJack[];
}

/** A panel in words. */
export interface Outline {
  name: string;
  maker: string;
  sections: OutlineSection[];
  /** Rows of the cabinet from above, each its modules from the left; absent when nothing is said of them. */
  rows?: string[][];
}

/** What could not be understood, and where: lines and columns from 1. The rest of the outline stands. */
export interface OutlineFault {
  line: number;
  column: number;
  length: number;
  message: string;
}

/** What was not said and has been guessed. */
export interface OutlineGuess {
  line: number;
  says: string;
}

export interface OutlineReading {
  outline: Outline;
  faults: OutlineFault[];
  guesses: OutlineGuess[];
}

export const LONGEST_NAME = 80;
