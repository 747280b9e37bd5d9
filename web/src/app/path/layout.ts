import { graphlib, layout } from '@dagrejs/dagre';
import type { Family, Path, PathEdge } from '@hurrel/core';
import { line, curveMonotoneX } from 'd3';

export interface DrawnNode {
  id: string;
  name: string;
  family: Family;
  x: number;
  y: number;
  width: number;
  height: number;
}
export interface DrawnEdge {
  edge: PathEdge;
  d: string;
  /** Where what is said of the way stands. */
  label: { x: number; y: number; text: string } | null;
}
export interface Drawing {
  width: number;
  height: number;
  nodes: DrawnNode[];
  edges: DrawnEdge[];
}

const HEIGHT = 44;
/** Width of a letter of a name, and what stands around it. */
const LETTER = 7.6;
const PADDING = 26;

/** Places a path from left to right: sources left, the output right. */
export function drawPath(path: Path): Drawing {
  const graph = new graphlib.Graph({ multigraph: true });
  graph.setGraph({
    rankdir: 'LR',
    nodesep: 20,
    ranksep: 46,
    edgesep: 10,
    marginx: 16,
    marginy: 16,
  });
  graph.setDefaultEdgeLabel(() => ({}));
  for (const node of path.nodes) {
    graph.setNode(node.id, { width: node.name.length * LETTER + PADDING, height: HEIGHT });
  }
  path.edges.forEach((edge, i) => {
    // Sound decides the order from left to right; what moves it gives way.
    graph.setEdge(edge.from, edge.to, { weight: edge.signal === 'audio' ? 4 : 1 }, String(i));
  });
  layout(graph);
  const curve = line<{ x: number; y: number }>(
    (p) => p.x,
    (p) => p.y,
  ).curve(curveMonotoneX);
  const { width = 0, height = 0 } = graph.graph();
  return {
    width,
    height,
    nodes: path.nodes.map((node) => ({ ...node, ...(graph.node(node.id) as Box) })),
    edges: path.edges.map((edge, i) => {
      const { points } = graph.edge(edge.from, edge.to, String(i)) as { points: Point[] };
      const at = points[Math.floor(points.length / 2)]!;
      const text = gainText(edge);
      return {
        edge,
        d: monotone(points)
          ? curve(points)!
          : line<Point>(
              (p) => p.x,
              (p) => p.y,
            )(points)!,
        label: text === '' ? null : { x: at.x, y: at.y - 5, text },
      };
    }),
  };
}

interface Point {
  x: number;
  y: number;
}
interface Box extends Point {
  width: number;
  height: number;
}

/** What runs back (a feedback) is drawn straight: the curve knows only one direction. */
const monotone = (points: readonly Point[]): boolean =>
  points.every((p, i) => i === 0 || p.x > points[i - 1]!.x);

const gainText = (edge: PathEdge): string => {
  if (edge.through.length === 0 || Math.abs(edge.gain - 1) < 1e-9) return '';
  const size = Math.abs(edge.gain);
  return `${edge.gain < 0 ? '−' : ''}×${size >= 10 ? size.toFixed(0) : Number(size.toPrecision(2))}`;
};
