import type { Graph } from '../circuit/graph';
import type { Finding } from '../circuit/doctor';
import { feedsBack, FOR_EVER, OVER, type Rendered } from './rendered';

/** In dB over full scale: what a converter cuts off is heard from here on. */
const CLIPS = 0.5;
/** Loudest window in dB below which one turns up the volume and still hears little. */
const FAINT = -50;
/** In dB: from here on something is heard. */
const HEARD = -60;

/**
 * What is heard to be wrong, whatever the graph says: clipping, a tail that never ends, sound without a key or only without
 * one, sound below hearing, hardly any sound. The graph only says where to look.
 */
export function verdictsOf(graph: Graph, heard: Rendered, hasKeys: boolean): Finding[] {
  const rules: (() => Finding | undefined)[] = [
    () => clips(graph, heard),
    () => (hasKeys ? endless(graph, heard) : undefined),
    () => (hasKeys ? withoutKey(graph, heard) : undefined),
    () => belowHearing(graph, heard),
    () => (hasKeys ? faint(graph, heard) : undefined),
  ];
  return rules.flatMap((rule) => rule() ?? []);
}

const round = (db: number): number => Math.round(db);

/** Controls of what the sound goes through last: its level. */
const levelsOf = (graph: Graph): string[] => {
  const output = graph.nodes.find((n) => n.id === graph.output);
  const into = graph.edges.filter((e) => e.to.node === graph.output).map((e) => e.from.node);
  const near = [output, ...graph.nodes.filter((n) => into.includes(n.id))];
  return near.flatMap((n) => ['level', 'gain', 'volume'].flatMap((p) => n?.controls[p] ?? []));
};

function clips(graph: Graph, { peak, over }: Rendered): Finding | undefined {
  if (peak < CLIPS) return undefined;
  return {
    id: `clips:${graph.output}`,
    severity: 'wrong',
    title: `Clips: ${peak.toFixed(1)} dB over full scale`,
    why: `${over} samples of the phrase are cut off at a converter or a recorder. Turn the output or the mixer down.`,
    controls: levelsOf(graph),
  };
}

function endless(graph: Graph, { before, after, tail }: Rendered): Finding | undefined {
  if (after < OVER || tail < FOR_EVER - 1 || before > OVER) return undefined;
  const loops = feedsBack(graph);
  const [loop] = loops;
  const name = graph.nodes.find((n) => n.id === loop?.node)?.name;
  return {
    id: `endless:${loop?.node ?? graph.output}`,
    severity: 'wrong',
    title: name ? `${name} never dies away` : 'The sound never ends',
    why: `${round(tail)} s after the last key is let go it is still at ${round(after)} dB.${
      name ? ' Its feedback gives back as much as it gets, or more.' : ' Something holds it open.'
    }`,
    controls: loops.flatMap(
      ({ node, param }) => graph.nodes.find((n) => n.id === node)?.controls[param] ?? [],
    ),
  };
}

function withoutKey(graph: Graph, { before, loudest }: Rendered): Finding | undefined {
  if (before < HEARD || loudest >= HEARD) return undefined;
  return {
    id: `only-without-key:${graph.output}`,
    severity: 'wrong',
    title: 'It sounds only with no key held',
    why: `Before the first key it is at ${round(before)} dB, while keys are held at ${round(loudest)} dB: the keys shut what they should open.`,
    controls: [],
  };
}

function belowHearing(graph: Graph, { loudest, withInfra }: Rendered): Finding | undefined {
  if (withInfra < HEARD || loudest > withInfra - 20) return undefined;
  return {
    id: `below-hearing:${graph.output}`,
    severity: 'wrong',
    title: 'What comes out is below hearing',
    why: `Below 20 Hz it is at ${round(withInfra)} dB, above at ${round(loudest)} dB: a speaker moves, and nobody hears it. Tune it up.`,
    controls: graph.nodes.flatMap((n) =>
      ['octave', 'footage', 'interval'].flatMap((p) => n.controls[p] ?? []),
    ),
  };
}

function faint(graph: Graph, { loudest, withInfra, peak }: Rendered): Finding | undefined {
  if (loudest > FAINT || loudest < -80 || withInfra > loudest + 20) return undefined;
  return {
    id: `faint:${graph.output}`,
    severity: 'wrong',
    title: `Hardly heard: ${round(loudest)} dB`,
    why: `The loudest moment of the phrase is at ${round(loudest)} dB (peak ${round(peak)} dB), where a full sound is at -20.`,
    controls: [...graph.nodes.flatMap((n) => n.controls['cutoff'] ?? []), ...levelsOf(graph)],
  };
}
