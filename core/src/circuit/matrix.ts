import type { Matrix } from '../instrument/matrix';
import type { MatrixRow } from '../patch/schema';
import type { Edge, GraphNode } from './graph';

/** Node that stands for a matrix row, by the row's number from 0. */
export const matrixNodeId = (row: number): string => `matrix-${row + 1}`;

/**
 * The nodes and connections that matrix rows make: each an attenuator between its source and its destination, with the
 * destination's full depth for 1. Rows whose ends the matrix does not have are left out.
 */
export function matrixRows(
  matrix: Matrix,
  rows: readonly MatrixRow[],
  connect: (from: string, to: string) => Edge,
): { nodes: GraphNode[]; edges: Edge[] } {
  const nodes: GraphNode[] = [];
  const ends: [string, string][] = [];
  for (const { row, source, destination, depth } of rows) {
    const from = matrix.sources.find((s) => s.id === source);
    const to = matrix.destinations.find((d) => d.id === destination);
    if (!from || !to) continue;
    const id = matrixNodeId(row);
    nodes.push({
      id,
      kind: 'attenuator',
      name: `matrix row ${row + 1}`,
      params: { gain: depth * to.full },
      controls: {},
    });
    ends.push([from.port, `${id}.in`], [`${id}.out`, to.port]);
  }
  return { nodes, edges: ends.map(([from, to]) => connect(from, to)) };
}
