import { attackReached, longestGate } from '../../pattern/gate-times';
import { formatPhysical } from '../../reading/unit';
import type { GraphNode } from '../graph';
import { carriesSound, edgesInto, nodeOf } from '../graph';
import { isFilter } from '../signal-path';
import type { Audibility } from '../audibility';
import { paramLabel, type Case, type Finding } from './finding';
import { mendTo, valueFor } from './mend';

/** Level below which an envelope counts as never opened: -40 dB. */
const CLOSED = 0.01;
/** Level below which it hardly opens: about -10 dB. */
const HARDLY = 0.3;
/** Seconds within which an envelope without sustain is nothing but a click. */
const CLICK = 0.008;

/** Envelopes that open amplifiers, but do not open, or shut again at once. */
export function examineEnvelopes(c: Case, reach: Audibility): Finding[] {
  const amplifiers = c.graph.nodes.filter(
    (n) => n.kind === 'amplifier' && reach.heard(n.id, 'out'),
  );
  const opening = new Set(
    amplifiers.flatMap((a) => (carriesAudio(c, a) ? envelopesInto(c, a) : [])),
  );
  return [...opening].flatMap((node) => {
    const held = longestGate(c.notes);
    const reached = attackReached(Number(node.params.attack), held);
    if (reached < HARDLY) return [hardlyOpens(c, node, reached, held)];
    const [attack, decay, sustain] = ['attack', 'decay', 'sustain'].map((p) =>
      Number(node.params[p]),
    );
    if (sustain! < 1 && attack! + decay! < CLICK) return [onlyClick(c, node, attack! + decay!)];
    return [];
  });
}

const carriesAudio = (c: Case, amplifier: GraphNode): boolean =>
  edgesInto(c.graph, amplifier.id, 'in').some((e) => carriesSound(c.graph, e));

function envelopesInto(c: Case, goal: GraphNode, into = 'cv'): GraphNode[] {
  const found: GraphNode[] = [];
  const seen = new Set<string>();
  const walk = (id: string, port?: string): void => {
    for (const edge of edgesInto(c.graph, id, port)) {
      if (seen.has(edge.from.node)) continue;
      seen.add(edge.from.node);
      const node = nodeOf(c.graph, edge.from.node);
      if (node.kind === 'envelope') found.push(node);
      else walk(node.id);
    }
  };
  walk(goal.id, into);
  return found;
}

function hardlyOpens(c: Case, node: GraphNode, reached: number, held: number): Finding {
  const never = reached < CLOSED;
  const control = node.controls.attack;
  const value = valueFor(c.instrument, control, node.id, 'attack', Math.min(0.01, held / 4));
  const mend =
    control && value !== undefined ? mendTo(c.instrument, { [control]: value }) : undefined;
  return {
    id: `envelope-closed:${node.id}`,
    severity: never ? 'silent' : 'wrong',
    title: never ? `Silent: ${node.name} never opens` : `${node.name} hardly opens`,
    why: `${paramLabel(c, node, 'attack')} takes ${formatPhysical(Number(node.params.attack), 's')}, the keys are held for ${formatPhysical(held, 's')}: it reaches ${Math.round(reached * 100)} %.`,
    controls: control ? [control] : [],
    ...(mend ? { mend } : {}),
  };
}

function onlyClick(c: Case, node: GraphNode, seconds: number): Finding {
  const control = node.controls.sustain ?? node.controls.decay;
  const param = node.controls.sustain ? 'sustain' : 'decay';
  const value = valueFor(c.instrument, control, node.id, param, param === 'sustain' ? 70 : 0.3);
  const mend =
    control && value !== undefined ? mendTo(c.instrument, { [control]: value }) : undefined;
  return {
    id: `envelope-click:${node.id}`,
    severity: 'wrong',
    title: `${node.name} opens for no more than a click`,
    why: `Attack and decay are over after ${formatPhysical(seconds, 's')}, and there is no sustain.`,
    controls: [node.controls.sustain, node.controls.decay].filter((id) => id !== undefined),
    ...(mend ? { mend } : {}),
  };
}

/** How much longer than the amplifier's a filter's release may be before its end is nothing that is heard. */
const LONGER = 2;

/** Envelopes that go on moving a filter when the amplifier behind it has shut. */
export function examineTails(c: Case, reach: Audibility): Finding[] {
  const amplifiers = c.graph.nodes.filter(
    (n) => n.kind === 'amplifier' && reach.heard(n.id, 'out') && carriesAudio(c, n),
  );
  const opening = amplifiers.flatMap((a) => envelopesInto(c, a));
  // Where one of several sounds on, a long tail may well be heard.
  const longest = Math.max(...opening.map((e) => Number(e.params.release)), 0);
  if (opening.length === 0 || opening.length < amplifiers.length) return [];
  const moving = new Set(
    c.graph.nodes
      .filter((n) => isFilter(n.kind) && reach.heard(n.id, 'out'))
      .flatMap((f) => envelopesInto(c, f, 'cutoff')),
  );
  return [...moving].flatMap((node) => {
    const release = Number(node.params.release);
    const sustains = node.params.mode === 'adsr' && Number(node.params.sustain) > 0;
    if (opening.includes(node) || !sustains || release <= LONGER * longest) return [];
    const control = node.controls.release;
    const value = valueFor(c.instrument, control, node.id, 'release', longest);
    const mend =
      control && value !== undefined ? mendTo(c.instrument, { [control]: value }) : undefined;
    return [
      {
        id: `tail:${node.id}`,
        severity: 'hint' as const,
        title: `The end of ${node.name}'s release is not heard`,
        why: `It falls for ${formatPhysical(release, 's')}; the amplifier has shut after ${formatPhysical(longest, 's')}.`,
        controls: control ? [control] : [],
        ...(mend ? { mend } : {}),
      },
    ];
  });
}

/** Share of a filter's attack that must be over while the amplifier is open, for its rise to be heard at all. */
const RISEN = 0.5;

/** Envelopes that open a filter so slowly that the amplifier has shut before they rise. */
export function examineRises(c: Case, reach: Audibility): Finding[] {
  const amplifiers = c.graph.nodes.filter(
    (n) => n.kind === 'amplifier' && reach.heard(n.id, 'out') && carriesAudio(c, n),
  );
  const opening = amplifiers.flatMap((a) => envelopesInto(c, a));
  // Where an amplifier is opened by something else nobody knows when it shuts.
  if (opening.length === 0 || opening.length < amplifiers.length) return [];
  const held = longestGate(c.notes);
  const shut = Math.max(...opening.map((e) => shutAfter(e, held)));
  const moving = new Set(
    c.graph.nodes
      .filter((n) => isFilter(n.kind) && reach.heard(n.id, 'out'))
      .flatMap((f) => envelopesInto(c, f, 'cutoff')),
  );
  return [...moving].flatMap((node) => {
    const attack = Number(node.params.attack);
    if (opening.includes(node) || RISEN * attack <= shut) return [];
    const control = node.controls.attack;
    const value = valueFor(c.instrument, control, node.id, 'attack', shut / 4);
    const mend =
      control && value !== undefined ? mendTo(c.instrument, { [control]: value }) : undefined;
    return [
      {
        id: `late-rise:${node.id}`,
        severity: 'hint' as const,
        title: `The amplifier has shut before ${node.name} rises`,
        why: `${paramLabel(c, node, 'attack')} takes ${formatPhysical(attack, 's')}; the amplifier has shut after ${formatPhysical(shut, 's')}.`,
        controls: control ? [control] : [],
        ...(mend ? { mend } : {}),
      },
    ];
  });
}

/** Seconds from the stroke until an envelope is back at nothing. */
function shutAfter(node: GraphNode, held: number): number {
  const [attack, decay, sustain, release] = ['attack', 'decay', 'sustain', 'release'].map((p) =>
    Number(node.params[p]),
  );
  return sustain! > 0 ? held + release! : attack! + decay!;
}
