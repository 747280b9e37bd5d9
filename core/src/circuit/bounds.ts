import type { TimedNote } from '../pattern/timed';
import { families, type ModuleKind } from '../catalogue';
import { edgesInto, type Graph, nodeOf } from './graph';
import { addIntervals, type Interval, ZERO } from '../catalogue/interval';
import { outputBounds } from './module-bounds';

/** What every signal of a graph can reach while the notes are played; wheels and pedals over their whole travel. */
export interface Bounds {
  output(node: string, port: string): Interval;
  /** Sum of what is connected to an input; [0, 0] when nothing is. */
  input(node: string, port: string): Interval;
}

const isKeys = (kind: ModuleKind): boolean => Object.hasOwn(families.keys, kind);

/** Interval arithmetic over a graph: sure outer limits, not the values of one moment. */
export function boundsOf(graph: Graph, notes: readonly TimedNote[]): Bounds {
  const outputs = new Map<string, Interval>();
  const output = (node: string, port: string): Interval => outputs.get(`${node}.${port}`) ?? ZERO;
  const input = (node: string, port: string): Interval =>
    edgesInto(graph, node, port)
      .map((e) => output(e.from.node, e.from.port))
      .reduce(addIntervals, ZERO);
  // Twice over: a circle's signals are known from the second round on, as far as bounds can be.
  for (let round = 0; round < 2; round++) {
    for (const node of graph.nodes) {
      const coming = {
        input: (port: string): Interval => input(node.id, port),
        byKeys: (port: string): boolean =>
          edgesInto(graph, node.id, port).every((e) => isKeys(nodeOf(graph, e.from.node).kind)),
        notes,
      };
      for (const [port, interval] of Object.entries(outputBounds(node, coming))) {
        outputs.set(`${node.id}.${port}`, interval);
      }
    }
  }
  return { output, input };
}
