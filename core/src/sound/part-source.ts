import { compile } from '../circuit/compile';
import { ownSwitches, ownChanges } from '../circuit/own-values';
import type { Instrument } from '../instrument/schema';
import type { Patch } from '../patch/schema';
import { sequencerOf } from '../sequence/fit';
import type { Pattern } from '../pattern/pattern';
import { heldKey, withRows } from '../sequence/rows';
import type { PartSource } from './part';

/** An instrument, how it stands, and what it plays. */
export interface PartSubject extends Pick<PartSource, 'gain' | 'pan' | 'seed'> {
  /** Of a cabinet the face that the patch stands before. */
  instrument: Instrument;
  patch: Patch;
  /** The first is played, the others are those chained to it; at least one. */
  patterns: Pattern[];
}

/** An instrument and its patterns as the engine takes them: rows of voltages go onto the panel, and a key is held. */
export function partSource({ instrument, patch, patterns, ...mix }: PartSubject): PartSource {
  const [first] = patterns;
  const sequencer = first && sequencerOf(instrument, first);
  if (first && sequencer?.kind === 'rows') {
    const graph = compile(instrument, withRows(instrument, sequencer, first, patch));
    return { graph, patterns: heldKey(first, patch), turns: [], ...mix };
  }
  const turns = ownChanges(instrument, patch, patterns);
  const switches = ownSwitches(instrument, patch, patterns);
  return { graph: compile(instrument, patch), patterns, turns, switches, ...mix };
}
