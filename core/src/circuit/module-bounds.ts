import { moduleSpec, type ModuleSpec } from '../catalogue';
import { movedInterval } from '../catalogue/by-voltage';
import { hull, type Interval, isQuiet, SUPPLY, ZERO } from '../catalogue/interval';
import type { Situation } from '../catalogue/situation';
import type { GraphNode } from './graph';

/** How far the outputs of a module go, for what comes in and what is played. */
export function outputBounds(
  node: GraphNode,
  coming: Pick<Situation, 'input' | 'byKeys' | 'notes'>,
): Record<string, Interval> {
  const spec = moduleSpec(node.kind);
  const { bounds } = spec;
  if (!bounds) return supplied(node, coming.input);
  const all = situations(spec, node.params, coming.input).map((params) =>
    bounds({ params, number: (name) => Number(params[name]), ...coming }),
  );
  return all.reduce((sum, one) =>
    Object.fromEntries(
      Object.entries(one).map(([port, interval]) => [port, hull(sum[port] ?? interval, interval)]),
    ),
  );
}

/** How a module may stand: with every parameter that voltages move at either end of where they move it. */
function situations(
  spec: ModuleSpec,
  params: GraphNode['params'],
  input: (port: string) => Interval,
): GraphNode['params'][] {
  const moved = new Set(
    Object.entries(spec.byVoltage ?? {})
      .filter(([port]) => !isQuiet(input(port)))
      .flatMap(([, { params: names }]) => names),
  );
  let all = [params];
  for (const name of moved) {
    const ends = movedInterval(spec, name, Number(params[name]), input);
    all = all.flatMap((one) => [one, ...ends.map((end) => ({ ...one, [name]: end }))]);
  }
  return all;
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
