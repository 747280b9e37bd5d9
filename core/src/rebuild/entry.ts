import type { Instrument } from '../instrument/schema';
import type { Patch } from '../patch/schema';
import type { Pattern } from '../pattern/pattern';
import { enterPattern } from '../sequence/script';
import type { Entering, PanelBefore } from './step';

/**
 * What is entered into the instrument's own sequencers, pattern by pattern: over the pattern that is in the same place
 * now, or anew. Patterns that a box cannot hold are left out; where they are edited it says why.
 */
export function entrySteps(instrument: Instrument, before: PanelBefore, patch: Patch): Entering[] {
  const rows = new Set(instrument.sequencers.filter((s) => s.kind === 'rows').map((s) => s.id));
  return patch.patterns.flatMap((pattern) => {
    // Rows whose steps are knobs stand right already once the panel does; a second pattern of them is set when it is played.
    if (rows.has(pattern.sequencer ?? '')) return [];
    const there = inSlot(before.patterns ?? [], pattern);
    const next = patch.patterns.find((p) => p.id === pattern.next);
    const entry = enterPattern(instrument, pattern, there, patch, next);
    if (!entry.ok) return [];
    const place = pattern.place === undefined ? '' : ` into ${pattern.place}`;
    return entry.script.groups.map((group, i): Entering => ({
      kind: 'entry',
      id: `entry-${pattern.id}-${i}`,
      pattern: pattern.id,
      text: `${pattern.name}${place}, ${group.title}`,
      told: group.told,
      presses: group.presses,
      seconds: group.seconds,
    }));
  });
}

/** The pattern that is in the same place of the same sequencer. */
const inSlot = (patterns: readonly Pattern[], wanted: Pattern): Pattern | undefined =>
  patterns.find(
    (p) =>
      p.sequencer === wanted.sequencer &&
      (wanted.place === undefined ? p.id === wanted.id : p.place === wanted.place),
  );
