import type { TimedNote } from '../pattern/timed';
import type { Interval } from './interval';

export type Params = Readonly<Record<string, number | string>>;

/** A module as it stands, with what comes in and what is played. */
export interface Situation {
  params: Params;
  /** A numeric parameter, in the catalogue's unit. */
  number(name: string): number;
  /** Sum of what is connected to an input, in V; [0, 0] when nothing is. */
  input(port: string): Interval;
  /** Nothing but keys is connected to an input: it is open as long as one of the notes is held, and no longer. */
  byKeys(port: string): boolean;
  notes: readonly TimedNote[];
}

/** How far outputs go, in V; outputs that are left out stay within the supply. */
export type Bounds = (of: Situation) => Record<string, Interval>;

/** Why nothing passes from an input to the outputs. */
export interface Closing {
  /** Parameter that closes it, when one does. */
  param?: string;
  /** Input whose silence closes it, when one does. */
  port?: string;
  /** Can it be opened by turning something up, or is it another mode of the module? */
  gate: boolean;
  /** In words: `is at 0`, `has no pitch` ... */
  why: string;
}
export type Closes = (port: string, of: Pick<Situation, 'params' | 'input'>) => Closing | undefined;

/** Closed at an input while a parameter is 0. */
export const zero = (params: Params, param: string): Closing | undefined =>
  Number(params[param]) === 0 ? { param, gate: true, why: 'is at 0' } : undefined;
