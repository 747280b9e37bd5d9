import { isQuiet } from '../../catalogue/interval';
import { cableText, jackOf } from '../../patch/cables';
import { matrixRowText } from '../../patch/matrix';
import { nodeOf } from '../graph';
import { matrixNodeId } from '../matrix';
import { type Audibility, closedAt } from '../audibility';
import type { Case, Finding } from './finding';

/** Modulation that was left on and goes nowhere: matrix rows, and cables, that change nothing. */
export function examineLeftovers(c: Case, reach: Audibility): Finding[] {
  return [...idleRows(c, reach), ...idleCables(c, reach)];
}

function idleRows(c: Case, reach: Audibility): Finding[] {
  const { matrix } = c.instrument;
  if (!matrix) return [];
  return c.patch.matrix.flatMap((row) => {
    const id = matrixNodeId(row.row);
    if (row.depth === 0 || !c.graph.nodes.some((n) => n.id === id)) return [];
    const quiet = isQuiet(c.bounds.input(id, 'in'));
    if (!quiet && reach.nodeHeard(id)) return [];
    const goal = matrix.destinations.find((d) => d.id === row.destination)!;
    const source = matrix.sources.find((s) => s.id === row.source)!;
    return [
      {
        id: `idle-row:${row.row}`,
        severity: 'idle',
        title: `Matrix row ${row.row + 1} changes nothing`,
        why: quiet
          ? `Nothing comes from ${source.name}.`
          : `${matrixRowText(matrix, row)}: ${goal.name} is not heard in this patch.`,
        controls: [source.control, goal.control].filter((k) => k !== undefined),
        mend: {
          text: `Empty matrix row ${row.row + 1}`,
          settings: {},
          rows: [{ ...row, depth: 0 }],
        },
      } satisfies Finding,
    ];
  });
}

function idleCables(c: Case, reach: Audibility): Finding[] {
  return c.patch.cables.flatMap((cable) => {
    const [from, to] = [jackOf(c.instrument, cable.from), jackOf(c.instrument, cable.to)];
    if (cable.inactive) return [];
    const text = cableText(c.instrument, cable);
    const mend = { text: `Pull ${text}`, settings: {}, pull: [cable.id] };
    if (!from || !to) {
      const jack = from ?? to;
      if (c.instrument.circuit.wires.some((w) => w.normalOf === jack?.id)) return [];
      return [
        {
          id: `idle-cable:${cable.id}`,
          severity: 'idle',
          title: `The ${text} does nothing`,
          why: 'No wire inside is broken by that jack.',
          controls: [],
          cables: [cable.id],
          mend,
        } satisfies Finding,
      ];
    }
    const edge = c.graph.edges.find((e) => e.cable === cable.id);
    // What does not drive its input at all is another finding.
    if (!edge) return [];
    if (isQuiet(c.bounds.output(edge.from.node, edge.from.port))) {
      return [
        {
          id: `idle-cable:${cable.id}`,
          severity: 'idle',
          title: `${text} carries nothing`,
          why: `${nodeOf(c.graph, edge.from.node).name} puts nothing out as it stands.`,
          controls: Object.values(nodeOf(c.graph, edge.from.node).controls).slice(0, 1),
          cables: [cable.id],
          mend,
        } satisfies Finding,
      ];
    }
    const shut = closedAt(nodeOf(c.graph, edge.to.node), edge.to.port, c.bounds);
    if (!shut && reach.nodeHeard(edge.to.node)) return [];
    return [
      {
        id: `idle-cable:${cable.id}`,
        severity: 'idle',
        title: `${text} leads nowhere`,
        why: shut
          ? `${nodeOf(c.graph, edge.to.node).name} ${shut.why}.`
          : `${nodeOf(c.graph, edge.to.node).name} is not heard in this patch. If the cable is only left in, say so.`,
        controls: [],
        cables: [cable.id],
        mend,
      } satisfies Finding,
    ];
  });
}
