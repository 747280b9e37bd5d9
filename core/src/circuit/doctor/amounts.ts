import { isQuiet } from '../../catalogue/interval';
import type { Cable, MatrixRow } from '../../patch/schema';
import { freeCableId, jackLabel, moduleOfJack } from '../../patch/cables';
import { edgesInto, nodeOf, type GraphNode } from '../graph';
import { matrixNodeId } from '../matrix';
import { type Case, type Mend } from './finding';
import { controlLabel } from '../../instrument/control-name';
import { valueFor } from './mend';

/** What scales a modulation on its way into an input. */
export interface Amount {
  /** Module in front of the input. */
  id: string;
  gain: number;
  /** Control that sets the gain. */
  control?: string;
  /** Matrix row that it is. */
  row?: MatrixRow;
  /** Cable that comes straight from the source, where nothing scales. */
  cable?: Cable;
}

/** The amounts before an input, of everything that really moves it. */
export const amountsInto = (c: Case, node: GraphNode, port: string): Amount[] =>
  edgesInto(c.graph, node.id, port)
    .filter((e) => !isQuiet(c.bounds.output(e.from.node, e.from.port)))
    .map((edge) => {
      const source = nodeOf(c.graph, edge.from.node);
      const scales = source.kind === 'attenuator';
      const row = c.patch.matrix.find((r) => matrixNodeId(r.row) === source.id);
      const cable = c.patch.cables.find((k) => k.id === edge.cable);
      const { gain: control } = source.controls;
      return {
        id: source.id,
        gain: scales ? Number(source.params.gain) : 1,
        ...(scales && control ? { control } : {}),
        ...(row ? { row } : {}),
        ...(cable ? { cable } : {}),
      };
    });

/** The same way through an attenuator that has both its jacks free, set to a gain; empty when there is none. */
export function throughAttenuator(c: Case, cable: Cable, gain: number): Mend[] {
  const used = new Set(c.patch.cables.flatMap((k) => [k.from, k.to]));
  const free = c.instrument.jacks.filter((j) => !used.has(j.id));
  for (const input of free) {
    const module = moduleOfJack(input);
    const node = c.graph.nodes.find((n) => n.id === module);
    if (input.direction !== 'in' || node?.kind !== 'attenuator') continue;
    const output = free.find((j) => j.direction === 'out' && moduleOfJack(j) === module);
    const control = node.controls.gain;
    const value = valueFor(c.instrument, control, module, 'gain', gain);
    if (!output || !control || value === undefined || !cable.from || !cable.to) continue;
    const first = freeCableId(c.patch.cables);
    const second = freeCableId([...c.patch.cables, { id: first }]);
    return [
      {
        text: `Put ${jackLabel(c.instrument, input.id)} and ${jackLabel(c.instrument, output.id)} in line, with ${controlLabel(c.instrument, control)} at ${Math.round(100 * gain)} %`,
        settings: { [control]: { kind: 'set', value } },
        pull: [cable.id],
        plug: [
          { id: first, from: cable.from, to: input.id },
          { id: second, from: output.id, to: cable.to },
        ],
      },
    ];
  }
  return [];
}
