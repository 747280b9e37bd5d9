import { isQuiet } from '../../catalogue/interval';
import type { Control } from '../../instrument/schema';
import { jackLabel } from '../../patch/cables';
import { moduleSpec } from '../../catalogue';
import type { GraphNode } from '../graph';
import { edgesInto, nodeOf } from '../graph';
import type { Closed, Audibility } from '../audibility';
import { paramLabel, type Case, type Finding } from './finding';
import { commonRule, type VoiceRule } from '../../pattern/allocate';
import { controlLabel } from '../../instrument/control-name';

/**
 * Controls that change nothing in this patch, each with its reason: turning one leaves every sample as it is. Only what
 * has been recorded is spoken of; what does not matter or is not recorded promises nothing.
 */
export function examineIdle(c: Case, reach: Audibility): Finding[] {
  return c.instrument.controls.flatMap((control) => {
    const setting = c.patch.settings[control.id];
    if (!setting || setting.kind === 'any') return [];
    const why = idleReason(c, reach, control);
    return why ? [idle(c, control, why)] : [];
  });
}

function idle(c: Case, control: Control, why: string): Finding {
  const label = controlLabel(c.instrument, control.id);
  return {
    id: `idle:${control.id}`,
    severity: 'idle',
    title: `${label} changes nothing`,
    why,
    controls: [control.id],
    mend: { text: `Mark ${label} as does not matter`, settings: { [control.id]: { kind: 'any' } } },
  };
}

/** Why a control changes nothing, or undefined when it does or nothing is known of it. */
export function idleReason(c: Case, reach: Audibility, control: Control): string | undefined {
  // What is recorded and not modelled may do much on the instrument.
  if (control.bindings.length === 0) return undefined;
  const reasons = control.bindings.map((b) =>
    idleParam(c, reach, nodeOf(c.graph, b.module), b.param),
  );
  return reasons.every((r) => r !== undefined) ? reasons[0] : undefined;
}

function idleParam(c: Case, reach: Audibility, node: GraphNode, param: string): string | undefined {
  if (!reach.nodeHeard(node.id)) return notHeard(c, reach, node);
  const fed = (port: string): boolean => !isQuiet(c.bounds.input(node.id, port));
  switch (node.kind) {
    case 'oscillator':
      return idleOscillatorParam(c, reach, node, param);
    case 'mixer':
      return fed(param.replace('gain', 'in')) ? undefined : 'Nothing comes into this channel.';
    case 'attenuator':
      return fed('in') ? undefined : nothingIn(c, node);
    case 'amplifier':
      return fed('velocity') ? undefined : 'No velocity comes in.';
    case 'keyboard':
      return param === 'strokes' && !reach.heard(node.id, 'trigger')
        ? 'Nothing that is heard is started by a stroke.'
        : undefined;
    case 'voices':
      return param === 'strokes' ? idleStrokes(reach, node) : undefined;
    case 'envelope':
      return param === 'decay' && Number(node.params.sustain) === 100
        ? `${paramLabel(c, node, 'sustain')} is full up: there is nothing to decay to.`
        : undefined;
    default:
      return idleBesideMix(c, node, param, fed);
  }
}

/** What is mixed in by nothing is not heard, however it is set. */
function idleBesideMix(
  c: Case,
  node: GraphNode,
  param: string,
  fed: (port: string) => boolean,
): string | undefined {
  if (param === 'mix' || Number(node.params.mix) !== 0) return undefined;
  const { inputs, params, byVoltage = {} } = moduleSpec(node.kind);
  const { mix } = params;
  // A source mixes its own: what is set of it is its sound.
  if (!Object.hasOwn(inputs, 'in')) return undefined;
  // Only where nothing of it goes another way than through its mix, and no voltage opens that.
  if (mix?.kind !== 'number' || mix.neutral !== 0 || mix.lo !== 0) return undefined;
  const moved = Object.entries(byVoltage).some(
    ([port, by]) => by.params.includes('mix') && fed(port),
  );
  return moved ? undefined : `${paramLabel(c, node, 'mix')} is at 0.`;
}

/** With a voice for each key every stroke starts its own, legato or not. */
function idleStrokes(reach: Audibility, node: GraphNode): string | undefined {
  if (reach.heard(node.id, 'any-trigger')) return undefined;
  const common = commonRule(node.params.rule as VoiceRule, Number(node.params.voices));
  if (common && reach.heard(node.id, 'trigger')) return undefined;
  return common
    ? 'Nothing that is heard is started by a stroke.'
    : 'Each key has a voice of its own, which every stroke starts.';
}

function idleOscillatorParam(
  c: Case,
  reach: Audibility,
  node: GraphNode,
  param: string,
): string | undefined {
  const sounds = reach.heard(node.id, 'out');
  const isMaster = reach.heard(node.id, 'sync');
  const wave = String(node.params.wave);
  if (param === 'wave' || param === 'width') {
    if (!sounds) return `Of ${node.name} only the sync is used, its sound is not mixed in.`;
    if (param === 'width' && wave !== 'pulse') return `${article(wave)} has no width; a pulse has.`;
    return undefined;
  }
  if (wave === 'noise' && !isMaster) return 'Noise has no pitch.';
  if (param === 'sync' && edgesInto(c.graph, node.id, 'sync').length === 0) {
    return 'There is no master to sync to.';
  }
  return undefined;
}

const article = (wave: string): string => (wave === 'noise' ? 'Noise' : `A ${wave}`);

function nothingIn(c: Case, node: GraphNode): string {
  const sources = edgesInto(c.graph, node.id).map((e) => nodeOf(c.graph, e.from.node).name);
  return sources.length > 0
    ? `Nothing comes from ${sources.join(', ')}.`
    : 'Nothing is connected to it.';
}

function notHeard(c: Case, reach: Audibility, node: GraphNode): string {
  for (const port of Object.keys(moduleSpec(node.kind).outputs)) {
    const stop = reach.stopped(node.id, port);
    if (stop) return told(c, stop);
  }
  return brokenWire(c, node) ?? `${capital(node.name)} leads nowhere that is heard.`;
}

/** A plug that took a module's only wire away: why a knob no longer answers. */
function brokenWire(c: Case, node: GraphNode): string | undefined {
  const plugged = new Set(c.patch.cables.filter((k) => !k.inactive).flatMap((k) => [k.from, k.to]));
  const own = `${node.id}.`;
  const wire = c.instrument.circuit.wires.find(
    (w) => w.normalOf !== undefined && plugged.has(w.normalOf) && w.from.startsWith(own),
  );
  return wire && `The plug in ${jackLabel(c.instrument, wire.normalOf)} breaks its wire.`;
}

function told(c: Case, stop: Closed): string {
  const node = nodeOf(c.graph, stop.node);
  if (!stop.gate) return `${capital(node.name)} ${stop.why}.`;
  if (stop.param === undefined) return `${capital(node.name)} ${stop.why}.`;
  const control = node.controls[stop.param];
  return control
    ? `${controlLabel(c.instrument, control)} ${stop.why}.`
    : `${capital(node.name)} ${stop.why}.`;
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
