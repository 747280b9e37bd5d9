import { compile, heldKey, lockTurns, type PartSource, sequencerOf, withRows } from '@hurrel/core';
import type { RunPart } from './messages';

/** An instrument and its patterns as the engine takes them. */
export function partSource({ instrument, patch, patterns, gain, pan, seed }: RunPart): PartSource {
  const [first] = patterns;
  const sequencer = first && sequencerOf(instrument, first);
  const shown = sequencer?.kind === 'rows' ? withRows(instrument, sequencer, first!, patch) : patch;
  return {
    graph: compile(instrument, shown),
    patterns: sequencer?.kind === 'rows' ? heldKey(first!, patch) : patterns,
    turns: lockTurns(instrument, patch, patterns),
    gain,
    pan,
    seed,
  };
}
