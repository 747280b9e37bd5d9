import type { Setting } from '../reading/setting';
import type { Control, Instrument, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { startPositions, initPositions, settingsAt } from '../patch/create';
import type { Patch } from '../patch/schema';
import { formatSetting, formatValue, soundingValue } from '../reading/format';
import { sameReading } from '../reading/resolution';
import { withRow } from '../patch/matrix';
import { withFirstRows } from '../sequence/rows';
import { cableText } from '../patch/cables';
import { cableChange } from './cables';
import { inWorkingOrder } from '../instrument/order';
import { entrySteps } from './entry';
import { storingSteps } from './storing';
import type { Unit } from '../unit/schema';
import type { Listening, Movement, PanelBefore, Step } from './step';
import { outboardSteps } from './outboard';
import { cableSteps, rackSteps, revisionSteps, rowSteps } from './patching';
import { lastClearingOf, visits } from './visits';
import { defaultTimes, movementSeconds, type HandTimes } from './time';

export interface RebuildPlan {
  steps: Step[];
  /** Estimate in seconds, reaches between sections included. */
  seconds: number;
  /** Controls that the patch does not record: they stay where they are. */
  unknown: string[];
  /** Cables that are left as they are, in the panel's words. */
  left: string[];
}

/** The panel at the instrument's start. */
export const panelAtStart = (instrument: Instrument): PanelBefore =>
  bare(startPositions(instrument));

/** The panel after the instrument's init patch. */
export const panelAtInit = (instrument: Instrument): PanelBefore => bare(initPositions(instrument));

const bare = (values: Record<string, Value>): PanelBefore => ({
  settings: settingsAt(values),
  cables: [],
  matrix: [],
});

/**
 * The movements that turn a panel into a patch, in working order, only what differs, with the patch's checkpoints behind
 * the sections they belong to. Output and what is taken out of the way come first, then modules and cables, then the
 * sections, then the matrix, then what sequencers hold.
 * @param instrument the face that the patch stands before, of a cabinet
 * @param unit before which one stands, for what its memory holds
 */
export function planRebuild(
  instrument: Instrument,
  stood: PanelBefore,
  recorded: Patch,
  times: HandTimes = defaultTimes,
  unit?: Unit,
): RebuildPlan {
  // Knobs that are steps of a pattern stand where the pattern has them: one truth, and one visit.
  const [before, patch] = [withFirstRows(instrument, stood), withFirstRows(instrument, recorded)];
  const steps: Step[] = [];
  let seconds = 0;
  let hand: string | undefined;
  const controls = inWorkingOrder(instrument);
  const work = (step: Exclude<Step, Listening>, section: string): void => {
    // The hand starts wherever it is: only going from one section to another is a reach.
    if (hand !== undefined && hand !== section) seconds += times.reach;
    hand = section;
    seconds += step.seconds;
    steps.push(step);
  };
  const all = visits(instrument, patch);
  const lastClearing = lastClearingOf(all);
  for (const [i, stop] of all.entries()) {
    for (const control of stop.controls) {
      const target = patch.settings[control.id];
      const was = before.settings[control.id];
      if (!target || !mustMove(control, was, target)) continue;
      work(toMovement(control, was, target, patch, times), stop.section);
    }
    if (i === lastClearing) {
      for (const step of revisionSteps(instrument, before, patch)) work(step, step.section);
      for (const step of rackSteps(instrument, before, patch)) work(step, step.section);
      for (const step of outboardSteps(instrument, before, patch)) work(step, step.section);
      for (const step of cableSteps(instrument, before, patch, times)) work(step, step.section);
    }
    if (stop.clearing) continue;
    patch.checkpoints.forEach((checkpoint, i) => {
      if (checkpoint.after === stop.section) {
        steps.push({ kind: 'listening', id: `listen-${i}`, checkpoint });
      }
    });
  }
  for (const step of rowSteps(instrument, before, patch, times)) work(step, 'matrix');
  for (const step of entrySteps(instrument, before, patch)) work(step, 'sequencer');
  for (const step of storingSteps(instrument, before, patch, unit)) work(step, 'memory');
  const unknown = controls.filter((c) => !patch.settings[c.id]).map((c) => c.id);
  const left = cableChange(before.cables, patch.cables).left.map((c) => cableText(instrument, c));
  return { steps, seconds, unknown, left };
}

/** Whether a hand must go there: not when the panel shows a reading that will do already. */
export function mustMove(control: Control, before: Setting | undefined, target: Setting): boolean {
  if (target.kind === 'any') return false;
  if (!before || before.kind === 'any') return true;
  if (target.kind === 'ear') {
    // Found by ear once already, against the same target, near the same place.
    return !(
      before.kind === 'ear' &&
      before.target === target.target &&
      sameReading(control, before.near, target.near)
    );
  }
  // What was set by ear stands somewhere near: that is good enough for a range, not for an exact reading.
  if (before.kind === 'range') {
    return !(fits(control, before.from, target) && fits(control, before.to, target));
  }
  if (before.kind === 'ear' && target.kind === 'set' && !isSwitched(control)) return true;
  return !fits(control, soundingValue(control, before), target);
}

function fits(control: Control, value: Value, target: Setting): boolean {
  if (target.kind === 'set') return sameReading(control, target.value, value);
  return (
    target.kind === 'range' &&
    typeof value === 'number' &&
    value >= target.from - 1e-9 &&
    value <= target.to + 1e-9
  );
}

function toMovement(
  control: Control,
  before: Setting | undefined,
  target: Setting,
  patch: Patch,
  times: HandTimes,
): Movement {
  const known = before && before.kind !== 'any' ? before : undefined;
  const toValue = soundingValue(control, target);
  const fromValue = known && soundingValue(control, known);
  const note = patch.notes[`control:${control.id}`];
  const way = fromValue === undefined ? undefined : wayFrom(control, fromValue, toValue);
  return {
    kind: 'movement',
    id: control.id,
    control: control.id,
    section: control.section,
    from: known ? formatSetting(control, known) : '?',
    to: formatValue(control, toValue),
    ...(fromValue === undefined ? {} : { fromValue }),
    toValue,
    ...(way ? { way } : {}),
    ...(target.kind === 'range'
      ? {
          range: [formatValue(control, target.from), formatValue(control, target.to)] as [
            string,
            string,
          ],
        }
      : {}),
    ...(target.kind === 'ear' ? { target: target.target } : {}),
    ...(note ? { note } : {}),
    ...(control.route ? { route: control.route } : {}),
    seconds: movementSeconds(control, target.kind === 'ear', times),
  };
}

const PRESSES = ['', 'once', 'twice', 'three times', 'four times', 'five times', 'six times'];

function wayFrom(control: Control, from: Value, to: Value): string | undefined {
  if (isSwitched(control)) {
    const at = control.positions.findIndex((p) => p.id === from);
    const goal = control.positions.findIndex((p) => p.id === to);
    if (at < 0 || goal < 0 || at === goal) return undefined;
    if (control.kind === 'button') {
      const presses = (goal - at + control.positions.length) % control.positions.length;
      return `press ${PRESSES[presses] ?? `${presses} times`}`;
    }
    return control.kind === 'toggle'
      ? 'switch over'
      : `${Math.abs(goal - at)} ${goal > at ? 'on' : 'back'}`;
  }
  const up = Number(to) > Number(from);
  if (to === from) return undefined;
  switch (control.kind) {
    case 'knob':
    case 'encoder':
      return up ? 'turn right' : 'turn left';
    case 'pedal':
      return up ? 'toe down' : 'heel down';
    default:
      return up ? 'push up' : 'pull down';
  }
}

/** The panel when the first `count` steps of a plan are done: what one hears there. */
export const panelAfter = (
  before: PanelBefore,
  plan: RebuildPlan,
  patch: Patch,
  count: number,
): PanelBefore => ({
  ...panelWith(before, plan, patch, plan.steps.slice(0, count)),
  // What is heard is heard through what the patch stands before.
  ...(patch.rack ? { rack: patch.rack } : {}),
  outboard: patch.outboard,
  ...(patch.outlet === undefined ? {} : { outlet: patch.outlet }),
  ...(patch.feed === undefined ? {} : { feed: patch.feed }),
  ...(patch.revision === undefined ? {} : { revision: patch.revision }),
});

/** The panel when some steps of a plan are done, in whatever order. */
export function panelWith(
  before: PanelBefore,
  plan: RebuildPlan,
  patch: Patch,
  done: readonly Step[],
): PanelBefore {
  const panel = {
    ...before,
    settings: { ...before.settings },
    cables: [...before.cables],
    matrix: [...before.matrix],
    patterns: [...(before.patterns ?? [])],
  };
  for (const step of done) {
    if (step.kind === 'movement') {
      const setting = patch.settings[step.control];
      if (setting) panel.settings[step.control] = setting;
    } else if (step.kind === 'row') {
      const row = patch.matrix.find((r) => r.row === step.row);
      panel.matrix = withRow(panel.matrix, row ?? step.row);
    } else if (step.kind === 'entry') {
      const entered = patch.patterns.find((p) => p.id === step.pattern);
      const others = (panel.patterns ?? []).filter((p) => p.id !== step.pattern);
      panel.patterns = entered ? [...others, entered] : others;
    } else if (step.kind === 'pull' || step.kind === 'move' || step.kind === 'add') {
      panel.cables = panel.cables.filter((c) => c !== step.before);
      if (step.after) panel.cables.push(step.after);
    }
  }
  const ended = new Set(done.map((s) => s.id));
  const all = (kind: Step['kind']): boolean =>
    plan.steps.every((s) => s.kind !== kind || ended.has(s.id));
  const { rack, outboard, outlet, feed, revision, stored } = patch;
  if (all('rack')) Object.assign(panel, { rack, revision });
  if (all('outboard')) Object.assign(panel, { outboard, outlet, feed });
  if (all('store')) Object.assign(panel, { stored });
  return Object.fromEntries(
    Object.entries(panel).filter(([, value]) => value !== undefined),
  ) as unknown as PanelBefore;
}
