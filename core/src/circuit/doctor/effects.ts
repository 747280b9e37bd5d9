import { isQuiet } from '../../catalogue/interval';
import { noteLength } from '../../theory/time';
import { soundingValue } from '../../reading/format';
import { sameReading } from '../../reading/resolution';
import { formatPhysical } from '../../reading/unit';
import { isSwitched } from '../../instrument/switched';
import type { GraphNode } from '../graph';
import { edgesFrom, edgesInto, nodeOf, passesOn } from '../graph';
import type { Audibility } from '../audibility';
import type { Case, Finding } from './finding';
import { mendTo, valueFor } from './mend';

const wet = (node: GraphNode): boolean => Number(node.params.mix) > 0;

/** Delay and reverb one behind the other: what is delayed is reverberated as well, or the other way round. */
export function examineEffects(c: Case, reach: Audibility): Finding[] {
  const used = (kind: string): GraphNode[] =>
    c.graph.nodes.filter((n) => n.kind === kind && wet(n) && reach.nodeHeard(n.id));
  return used('delay').flatMap((delay) =>
    used('reverb').flatMap((reverb) => {
      const order = leadsTo(c, delay.id, reverb.id)
        ? ([delay, reverb] as const)
        : leadsTo(c, reverb.id, delay.id)
          ? ([reverb, delay] as const)
          : undefined;
      if (!order) return [];
      const [first, second] = order;
      return [
        {
          id: `chain:${first.id}>${second.id}`,
          severity: 'hint',
          title: `${second.name} is fed by ${first.name}`,
          why:
            first.kind === 'delay'
              ? 'Every repeat is reverberated too. Where both alone are wanted, set them side by side, or turn one off.'
              : 'The whole tail is repeated. Where both alone are wanted, set them side by side, or turn one off.',
          controls: [first.controls.mix, second.controls.mix].filter((id) => id !== undefined),
        } satisfies Finding,
      ];
    }),
  );
}

function leadsTo(c: Case, from: string, to: string): boolean {
  const seen = new Set([from]);
  const waiting = [from];
  while (waiting.length > 0) {
    for (const edge of edgesFrom(c.graph, waiting.shift()!)) {
      const next = nodeOf(c.graph, edge.to.node);
      // A mixer's channel that is down leads nowhere.
      if (next.kind === 'mixer' && Number(next.params[edge.to.port.replace('in', 'gain')]) === 0) {
        continue;
      }
      if (next.id === to) return true;
      if (!seen.has(next.id)) waiting.push(next.id);
      seen.add(next.id);
    }
  }
  return false;
}

/** Divisions that a delay is tied to by ear, in quarter notes. */
const BEATS = [0.25, 1 / 3, 0.375, 0.5, 2 / 3, 0.75, 1, 1.5];

/** What runs in time beside what runs freely; gates that begin at any moment. */
export function examineClocks(c: Case, reach: Audibility): Finding[] {
  const heard = c.graph.nodes.filter((n) => reach.nodeHeard(n.id));
  const tied = heard.filter((n) => n.params.clock === 'tempo' || n.kind === 'clock');
  const timed = tied.filter((n) => n.kind !== 'delay' || wet(n));
  return [
    ...heard
      .filter((n) => n.kind === 'delay' && wet(n) && n.params.clock === 'free')
      .flatMap((n) => (timed.length > 0 ? freeDelay(c, n, timed) : [])),
    ...heard.flatMap((n) => freeGate(c, n)),
  ];
}

function freeDelay(c: Case, delay: GraphNode, timed: readonly GraphNode[]): Finding[] {
  const time = Number(delay.params['time-left']);
  const lengths = BEATS.map((b) => noteLength(c.patch.tempo, 4, b));
  const near = lengths.reduce((a, b) => (Math.abs(b - time) < Math.abs(a - time) ? b : a));
  // Within two per cent it is in time, whatever keeps it there.
  if (Math.abs(near / time - 1) < 0.02) return [];
  const control = delay.controls['time-left'];
  const value = valueFor(c.instrument, control, delay.id, 'time-left', near);
  const found = c.instrument.controls.find((k) => k.id === control);
  // As near as the panel can be read it is in time already.
  const now = found && soundingValue(found, c.patch.settings[found.id]);
  if (found && value !== undefined && now !== undefined && sameReading(found, value, now))
    return [];
  const mend =
    control && value !== undefined ? mendTo(c.instrument, { [control]: value }) : undefined;
  return [
    {
      id: `free-delay:${delay.id}`,
      severity: 'hint',
      title: `${delay.name} runs beside the tempo`,
      why: `${timed.map((n) => n.name).join(' and ')} ${timed.length > 1 ? 'are' : 'is'} tied to ${c.patch.tempo} bpm, ${delay.name} stands free at ${formatPhysical(time, 's')}. The nearest note length is ${formatPhysical(near, 's')}.`,
      controls: control ? [control] : [],
      ...(mend ? { mend } : {}),
    },
  ];
}

/** Shapes with an edge that is heard as a beginning. */
const CHOPPING = new Set(['square', 'ramp-up', 'ramp-down', 'random']);

/** Amplifiers whose level a signal moves, through whatever only scales. */
function levelsMoved(c: Case, from: GraphNode, seen: readonly string[] = []): GraphNode[] {
  return edgesFrom(c.graph, from.id).flatMap((edge) => {
    const next = nodeOf(c.graph, edge.to.node);
    if (seen.includes(next.id) || isQuiet(c.bounds.output(from.id, edge.from.port))) return [];
    if (next.kind === 'amplifier') return edge.to.port === 'cv' ? [next] : [];
    return passesOn(next.kind) ? levelsMoved(c, next, [...seen, from.id]) : [];
  });
}

/** An LFO that opens gates while its phase runs free: the first stroke comes at any moment. */
function freeGate(c: Case, lfo: GraphNode): Finding[] {
  if (lfo.kind !== 'lfo' || lfo.params.reset === 'key') return [];
  const gates = edgesFrom(c.graph, lfo.id, 'out').filter((e) =>
    ['gate', 'trigger', 'clock'].includes(e.to.port),
  );
  // A level that an edge chops begins anywhere, just as a gate does.
  const chops = gates.length === 0 && CHOPPING.has(String(lfo.params.shape));
  const opens = chops ? levelsMoved(c, lfo) : gates.map((e) => nodeOf(c.graph, e.to.node));
  if (opens.length === 0) return [];
  const control = c.instrument.controls.find((k) => k.id === lfo.controls.reset);
  const position =
    control && isSwitched(control)
      ? control.positions.find(
          (p) =>
            control.bindings.find((b) => b.module === lfo.id && b.param === 'reset')?.values[
              p.id
            ] === 'key',
        )
      : undefined;
  const mend =
    control && position ? mendTo(c.instrument, { [control.id]: position.id }) : undefined;
  const goals = opens.map((n) => n.name).join(' and ');
  const keyed = edgesInto(c.graph, lfo.id, 'gate').length > 0;
  return [
    {
      id: `free-gate:${lfo.id}`,
      severity: 'hint',
      title: `${lfo.name} opens ${goals} at any moment`,
      why: `Its phase runs free, so keys struck together stutter. ${keyed ? 'Set it to begin anew with the key.' : 'Patch a gate into its reset.'}`,
      controls: control
        ? [control.id, ...Object.values(lfo.controls)]
        : Object.values(lfo.controls),
      ...(mend ? { mend } : {}),
    },
  ];
}
