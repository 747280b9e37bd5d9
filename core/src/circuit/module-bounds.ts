import { moduleSpec } from '../catalogue';
import { type Interval, isQuiet, SUPPLY, ZERO } from '../catalogue/interval';
import type { Situation } from '../catalogue/situation';
import type { GraphNode } from './graph';

/** How far the outputs of a module go, for what comes in and what is played. */
export function outputBounds(
  node: GraphNode,
  coming: Pick<Situation, 'input' | 'byKeys' | 'notes'>,
): Record<string, Interval> {
  const { bounds } = moduleSpec(node.kind);
  const number = (name: string): number => Number(node.params[name]);
  return bounds?.({ params: node.params, number, ...coming }) ?? supplied(node, coming.input);
}

/** What is not known more closely stays within the supply, and is quiet when what it needs is. */
function supplied(node: GraphNode, input: (port: string) => Interval): Record<string, Interval> {
  const spec = moduleSpec(node.kind);
  const silent = spec.silentWithout?.every((port) => isQuiet(input(port))) ?? false;
  const gates: Interval = [0, 5];
  return Object.fromEntries(
    Object.entries(spec.outputs).map(([port, kind]) => [
      port,
      // A reading, whatever is heard.
      port === 'hz' ? [5, 20000] : silent ? ZERO : kind === 'gate' ? gates : SUPPLY,
    ]),
  );
}
