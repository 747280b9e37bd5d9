import { compile } from '../circuit/compile';
import { type Finding, type Mend } from '../circuit/doctor';
import { mendTo } from '../circuit/doctor/mend';
import { edgesInto, type Graph } from '../circuit/graph';
import { matrixNodeId } from '../circuit/matrix';
import type { Control, Instrument, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { initPositions } from '../patch/create';
import type { MatrixRow, Patch } from '../patch/schema';
import { soundingValue } from '../reading/format';
import { snap } from '../reading/resolution';

/** Changes that are tried for one finding at most. */
const MOST = 32;
/** Steps upstream within which controls and matrix rows belong to a module. */
const NEAR = 2;

/**
 * Changes that might mend a finding, the smallest first: its own mends, then single controls that it names or that lead
 * into the modules it names, moved step by step, and matrix rows into them taken back.
 */
export function triesFor(instrument: Instrument, patch: Patch, finding: Finding): Mend[] {
  const own = [finding.mend, ...(finding.others ?? [])].filter((m) => m !== undefined);
  if (own.length === 0 && finding.severity === 'hint') return [];
  const graph = compile(instrument, patch);
  const nodes = modulesNear(graph, finding);
  const controls = new Set([
    ...finding.controls,
    ...graph.nodes.filter((n) => nodes.has(n.id)).flatMap((n) => Object.values(n.controls)),
  ]);
  const moves = [...controls].flatMap((id) => {
    const control = instrument.controls.find((c) => c.id === id);
    return control ? movesOf(instrument, patch, control) : [];
  });
  const named = new Set(finding.controls);
  moves.sort((a, b) => Number(named.has(b.id)) - Number(named.has(a.id)) || a.size - b.size);
  const rows = patch.matrix
    .filter((row) => row.depth !== 0 && nodes.has(matrixNodeId(row.row)))
    .flatMap((row) => [0.5, 0.25, 0].map((share) => rowMend(row, row.depth * share)));
  return [...own, ...rows, ...moves.map((m) => m.mend)].slice(0, MOST);
}

/** Modules whose controls a finding names, with what leads into them. */
function modulesNear(graph: Graph, finding: Finding): ReadonlySet<string> {
  const named = graph.nodes.filter(
    (n) =>
      finding.id.split(/[:+>]/).includes(n.id) ||
      Object.values(n.controls).some((id) => finding.controls.includes(id)),
  );
  let edge = named.map((n) => n.id);
  const seen = new Set(edge);
  for (let step = 0; step < NEAR; step++) {
    edge = edge.flatMap((id) => edgesInto(graph, id).map((e) => e.from.node));
    for (const id of edge) seen.add(id);
  }
  return seen;
}

interface Move {
  id: string;
  /** Share of travel, or positions as a share of all. */
  size: number;
  mend: Mend;
}

function movesOf(instrument: Instrument, patch: Patch, control: Control): Move[] {
  const now = soundingValue(control, patch.settings[control.id]);
  const move = (value: Value, size: number): Move => ({
    id: control.id,
    size,
    mend: mendTo(instrument, { [control.id]: value })!,
  });
  if (isSwitched(control)) {
    const at = control.positions.findIndex((p) => p.id === now);
    return control.positions.flatMap((p, i) =>
      i === at ? [] : [move(p.id, Math.abs(i - at) / control.positions.length)],
    );
  }
  const init = Number(initPositions(instrument)[control.id]);
  const values = [0, 0.1, 0.25, 0.5, 0.75, 0.9, 1].map((v) => snap(control, v));
  return [...new Set([init, ...values])]
    .filter((value) => value !== now)
    .map((value) => move(value, Math.abs(value - Number(now))));
}

const rowMend = (row: MatrixRow, depth: number): Mend => ({
  text:
    depth === 0
      ? `Empty matrix row ${row.row + 1}`
      : `Take the depth of matrix row ${row.row + 1} back to ${Math.round((100 * depth) / row.depth)} % of what it is`,
  settings: {},
  rows: [{ ...row, depth }],
});
