import type { LowPass } from './low-pass';
import type { Bounds, Closes } from './situation';

/**
 * How a kind of module is described. Voltages are the circuit's unit: audio about +-5 V, envelopes 0..5 V, LFOs +-5 V,
 * gates 0/5 V, pitch 1 V an octave with 0 V at C4. Several wires into one port add.
 */
export type SignalKind = 'audio' | 'pitch' | 'modulation' | 'gate' | 'sync';

export interface NumberParam {
  kind: 'number';
  unit: string;
  lo: number;
  hi: number;
  default: number;
  /** Where it contributes nothing: what a control is moved to when it is taken away to hear what it does. */
  neutral?: number;
}
export interface ChoiceParam {
  kind: 'choice';
  choices: readonly string[];
  default: string;
}
export type ParamSpec = NumberParam | ChoiceParam;

/** What a module is in the drawing of a path. */
export type Family = 'keys' | 'source' | 'filter' | 'level' | 'modulator' | 'effect' | 'output';

/** How a voltage moves parameters beside their controls. */
export interface ByVoltage {
  params: readonly string[];
  /** So many of the parameter's units a volt, or an octave a volt. */
  by: number | 'octaves';
}

export interface ModuleSpec {
  family: Family;
  /** Only scales or copies: drawn as part of the way from one module to another. */
  folds?: true;
  summary: string;
  /** What it computes, in the names of its ports and parameters. */
  equation: string;
  /** Where the method comes from; absent where the equation says it all. */
  source?: string;
  inputs: Record<string, SignalKind>;
  /** Inputs that move parameters, once a block of 64 samples. */
  byVoltage?: Readonly<Record<string, ByVoltage>>;
  outputs: Record<string, SignalKind>;
  params: Record<string, ParamSpec>;
  /** From here on a circuit runs once a voice (`open`), or the voices are taken together again (`close`). */
  voices?: 'open' | 'close';
  /** Outputs of a module that opens voices which are the same for all. */
  shared?: readonly string[];
  /** Puts out nothing as long as these inputs are silent. */
  silentWithout?: readonly string[];
  /** How far its outputs go; without it they stay within the supply. */
  bounds?: Bounds;
  /** Why an input does not matter as the module stands; without it every input does. */
  closes?: Closes;
  /** Sounds by itself, whatever comes in. */
  sounds?: true;
  /** A low-pass, as the doctor judges it. */
  lowPass?: LowPass;
}

export const number = (
  unit: string,
  lo: number,
  hi: number,
  value: number,
  neutral?: number,
): NumberParam => ({
  kind: 'number',
  unit,
  lo,
  hi,
  default: value,
  ...(neutral === undefined ? {} : { neutral }),
});

export const choice = (choices: readonly string[], value = choices[0]!): ChoiceParam => ({
  kind: 'choice',
  choices,
  default: value,
});
