import { families } from '../../catalogue';
import { isQuiet } from '../../catalogue/interval';
import { cableText, freeCableId, jackLabel, moduleOfJack } from '../../patch/cables';
import type { Cable } from '../../patch/schema';
import { carriesSound, edgesInto, type GraphNode, nodeOf } from '../graph';
import type { Audibility } from '../audibility';
import type { Case, Finding, Mend } from './finding';
import { mendTo, valueFor } from './mend';

/** Outputs of keys that stay where they are when the key is let go. */
const STAYING = new Set(['velocity', 'pitch', 'pitch1', 'pitch2', 'place']);

/**
 * Amplifiers that something holds open when the key is let go: the velocity of the last key, its pitch. Whether they are
 * heard then is for the sound to say.
 */
export function examineDrones(c: Case, reach: Audibility): Finding[] {
  return c.graph.nodes.flatMap((node) => {
    if (node.kind !== 'amplifier' || !reach.heard(node.id, 'out')) return [];
    if (!edgesInto(c.graph, node.id, 'in').some((e) => carriesSound(c.graph, e))) return [];
    const held = edgesInto(c.graph, node.id, 'cv').find((e) =>
      staysUp(c, e.from.node, e.from.port, []),
    );
    if (!held) return [];
    const source = nodeOf(c.graph, held.from.node);
    const cable = c.patch.cables.find((k) => k.id === held.cable);
    const control = source.controls.gain;
    const off = valueFor(c.instrument, control, source.id, 'gain', 0);
    const [mend, ...others] = [
      ...(cable ? fromGate(c, cable) : []),
      ...(cable
        ? [{ text: `Pull ${cableText(c.instrument, cable)}`, settings: {}, pull: [cable.id] }]
        : []),
      ...((control && off !== undefined && [mendTo(c.instrument, { [control]: off })]) || []),
    ].filter((m) => m !== undefined);
    return [
      {
        id: `drone:${node.id}`,
        severity: 'wrong',
        title: `${node.name} stays open when the keys are let go`,
        why: `${source.name} keeps its voltage until the next key: the sound goes on for ever. An envelope or a gate shuts it.`,
        controls: control ? [control] : [],
        ...(cable ? { cables: [cable.id] } : {}),
        ...(mend ? { mend, others } : {}),
      } satisfies Finding,
    ];
  });
}

/** The same cable from a gate of the keys that is free. */
function fromGate(c: Case, cable: Cable): Mend[] {
  const used = new Set(c.patch.cables.map((k) => k.from));
  const gate = c.instrument.jacks.find(
    (j) =>
      j.direction === 'out' &&
      j.signal === 'gate' &&
      !used.has(j.id) &&
      Object.hasOwn(families.keys, nodeOf(c.graph, moduleOfJack(j)).kind),
  );
  if (!gate || !cable.to) return [];
  return [
    {
      text: `Take ${jackLabel(c.instrument, gate.id)} in its place`,
      settings: {},
      pull: [cable.id],
      plug: [{ id: freeCableId(c.patch.cables), from: gate.id, to: cable.to }],
    },
  ];
}

/** Whether an output stands at the voltage of a key that was let go, through whatever only scales. */
function staysUp(c: Case, id: string, port: string, seen: readonly string[]): boolean {
  if (seen.includes(id) || isQuiet(c.bounds.output(id, port))) return false;
  const node: GraphNode = nodeOf(c.graph, id);
  if (Object.hasOwn(families.keys, node.kind)) return STAYING.has(port);
  if (!['attenuator', 'multiple', 'offset', 'slew'].includes(node.kind)) return false;
  return edgesInto(c.graph, id).some((e) => staysUp(c, e.from.node, e.from.port, [...seen, id]));
}
