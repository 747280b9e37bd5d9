import equal from 'fast-deep-equal';
import type { Instrument } from '../instrument/schema';
import type { Sequencer } from '../instrument/sequencer';
import type { Patch } from '../patch/schema';
import type { Pattern } from '../pattern/pattern';
import { soundingValue } from '../reading/format';
import { rowMoves, rowsFromPanel, withRows } from './rows';

type Both = Pick<Patch, 'settings' | 'patterns'>;

/**
 * A patch after an edit, with one truth about the knobs that are steps of voltage rows: where the first pattern of such a
 * sequencer was edited, the panel follows it; where one of its knobs was turned, the pattern follows; a first pattern begins
 * with what the panel shows.
 */
export function withRowsTrue<P extends Both>(instrument: Instrument, before: Both, next: P): P {
  return instrument.sequencers
    .filter((s) => s.kind === 'rows')
    .reduce((patch, sequencer) => agreed(instrument, sequencer, before, patch), next);
}

function agreed<P extends Both>(
  instrument: Instrument,
  sequencer: Sequencer,
  before: Both,
  next: P,
): P {
  const first = (of: Both): Pattern | undefined =>
    of.patterns.find((p) => p.sequencer === sequencer.id);
  const [was, is] = [first(before), first(next)];
  if (!is) return next;
  if (!was) return withPattern(next, fromPanel(instrument, sequencer, next, is));
  if (!equal(was.tracks, is.tracks)) return withRows(instrument, sequencer, is, next);
  const knobs = new Set(rowMoves(instrument, sequencer, is).map((m) => m.control));
  const turned = [...knobs].some((id) => !equal(before.settings[id], next.settings[id]));
  return turned ? withPattern(next, fromPanel(instrument, sequencer, next, is)) : next;
}

const withPattern = <P extends Both>(patch: P, pattern: Pattern): P => ({
  ...patch,
  patterns: patch.patterns.map((p) => (p.id === pattern.id ? pattern : p)),
});

/** A pattern that says what the panel shows, in its first track. */
function fromPanel(
  instrument: Instrument,
  sequencer: Sequencer,
  { settings }: Pick<Patch, 'settings'>,
  pattern: Pattern,
): Pattern {
  const [track, ...others] = pattern.tracks;
  if (!track) return pattern;
  const values = Object.fromEntries(
    instrument.controls.map((c) => [c.id, soundingValue(c, settings[c.id])]),
  );
  const read = rowsFromPanel(instrument, sequencer, values);
  return { ...pattern, tracks: [{ ...track, ...read }, ...others] };
}
