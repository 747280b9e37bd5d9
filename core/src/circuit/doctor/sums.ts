import { moduleSpec } from '../../catalogue';
import { isQuiet } from '../../catalogue/interval';
import type { GraphNode } from '../graph';
import { type Edge, edgesInto, nodeOf } from '../graph';
import { closedAt } from '../audibility';
import type { Case } from './finding';

/** A source on its way into a sum, by nothing but gains. */
export interface Voice {
  source: GraphNode;
  /** Gain from the source to the sum, without its sign. */
  gain: number;
  /** The gain on the way that a control sets, nearest to the sum: where it is mended. */
  set?: { node: string; param: string; value: number };
}

/** Where sounds are added: a mixer's channels, or several connections into one input. */
export interface Sum {
  node: GraphNode;
  voices: Voice[];
}

/** Every sum of sources in a graph. */
export const sumsOf = (c: Case): Sum[] =>
  c.graph.nodes.flatMap((node) => {
    const ports = Object.entries(moduleSpec(node.kind).inputs)
      .filter(([, signal]) => signal === 'audio')
      .map(([port]) => port);
    if (node.kind === 'mixer') {
      const voices = ports.flatMap((port) => voicesInto(c, node, port));
      return voices.length > 1 ? [{ node, voices }] : [];
    }
    return ports.flatMap((port) => {
      if (edgesInto(c.graph, node.id, port).length < 2) return [];
      const voices = voicesInto(c, node, port);
      return voices.length > 1 ? [{ node, voices }] : [];
    });
  });

function voicesInto(c: Case, node: GraphNode, port: string): Voice[] {
  if (closedAt(node, port, c.bounds)) return [];
  const param = port.replace('in', 'gain');
  const own = node.kind === 'mixer' ? Number(node.params[param]) : 1;
  const set =
    node.kind === 'mixer' && node.controls[param]
      ? { node: node.id, param, value: own }
      : undefined;
  return edgesInto(c.graph, node.id, port).flatMap((edge) => follow(c, edge, own, set));
}

/** Back to the source, past what only scales. */
function follow(
  c: Case,
  edge: Edge,
  gain: number,
  set: Voice['set'],
  seen: readonly string[] = [],
): Voice[] {
  const node = nodeOf(c.graph, edge.from.node);
  if (seen.includes(node.id) || isQuiet(c.bounds.output(node.id, edge.from.port))) return [];
  const on = (factor: number, here: Voice['set']): Voice[] =>
    edgesInto(c.graph, node.id, 'in').flatMap((e) =>
      follow(c, e, gain * factor, set ?? here, [...seen, node.id]),
    );
  switch (node.kind) {
    case 'oscillator':
      return [{ source: node, gain, ...(set ? { set } : {}) }];
    case 'attenuator': {
      const value = Number(node.params.gain);
      const here = node.controls.gain ? { node: node.id, param: 'gain', value } : undefined;
      return on(Math.abs(value), here);
    }
    case 'inverter':
    case 'multiple':
      return on(1, undefined);
    default:
      return [];
  }
}
