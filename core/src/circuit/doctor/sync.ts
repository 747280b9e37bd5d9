import { isSwitched } from '../../instrument/switched';
import type { GraphNode } from '../graph';
import { edgesInto, nodeOf } from '../graph';
import type { Audibility } from '../audibility';
import type { Case, Finding, Mend } from './finding';
import { tuning } from './filter';
import { mendTo } from './mend';

/** Synced oscillators that are tuned below their master all the time: they never complete a cycle and get weak. */
export function examineSync(c: Case, reach: Audibility): Finding[] {
  return c.graph.nodes.flatMap((slave) => {
    if (
      slave.kind !== 'oscillator' ||
      slave.params.sync !== 'on' ||
      slave.params.wave === 'noise'
    ) {
      return [];
    }
    const edge = edgesInto(c.graph, slave.id, 'sync')[0];
    if (!edge || !reach.heard(slave.id, 'out')) return [];
    const master = nodeOf(c.graph, edge.from.node);
    const short = tuning(master) - highestTuning(c, slave, master);
    // A slave in unison with its master is a matter of taste; one that is below it is not.
    return short > 0.01 ? [tooLow(c, slave, master, short)] : [];
  });
}

/** Semitones above the key that the slave reaches against its master's key, with all that bends it alone. */
function highestTuning(c: Case, slave: GraphNode, master: GraphNode): number {
  const bend = c.bounds.input(slave.id, 'mod')[1] - c.bounds.input(master.id, 'mod')[1];
  return tuning(slave) + 12 * bend;
}

function tooLow(c: Case, slave: GraphNode, master: GraphNode, short: number): Finding {
  const mend = raise(c, slave, short);
  return {
    id: `sync-low:${slave.id}`,
    severity: 'wrong',
    title: `${slave.name} is synced, but tuned below ${master.name}`,
    why: `It stays ${Math.round(short * 10) / 10} semitones under its master, so it never completes a cycle and sounds weak.`,
    controls: ['octave', 'interval', 'fine'].flatMap((p) => slave.controls[p] ?? []),
    ...(mend ? { mend } : {}),
  };
}

/** The lowest position of its octave switch that lifts the slave to its master or above. */
function raise(c: Case, slave: GraphNode, short: number): Mend | undefined {
  const control = c.instrument.controls.find((k) => k.id === slave.controls.octave);
  if (!control || !isSwitched(control)) return undefined;
  const values = control.bindings.find(
    (b) => b.module === slave.id && b.param === 'octave',
  )!.values;
  const now = Number(slave.params.octave);
  const enough = control.positions
    .filter((p) => Number(values[p.id]) - now >= short - 0.01)
    .sort((a, b) => Number(values[a.id]) - Number(values[b.id]))[0];
  return enough ? mendTo(c.instrument, { [control.id]: enough.id }) : undefined;
}
