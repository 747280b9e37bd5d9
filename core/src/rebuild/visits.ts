import { inWorkingOrder, sectionsInOrder } from '../instrument/order';
import type { Control, Instrument } from '../instrument/schema';
import type { Patch } from '../patch/schema';
import { sameReading } from '../reading/resolution';
import type { Step } from './step';

/** A visit of the hand to a section. */
export interface Visit {
  section: string;
  /** Only what the last sound left on and this one does not want is taken out of the way. */
  clearing: boolean;
  controls: Control[];
}

/** Output first, then amounts that go back to rest, section by section, then every section in working order. */
export function visits(instrument: Instrument, patch: Pick<Patch, 'settings'>): Visit[] {
  const clears = (c: Control): boolean => {
    const target = patch.settings[c.id];
    return c.amount === true && target?.kind === 'set' && sameReading(c, c.rest, target.value);
  };
  const controls = inWorkingOrder(instrument);
  const sections = sectionsInOrder(instrument);
  const visit = (id: string, clearing: boolean): Visit => ({
    section: id,
    clearing,
    controls: controls.filter((c) => c.section === id && clears(c) === clearing),
  });
  const outputs = sections.filter((s) => s.stage === 'output');
  const others = sections.filter((s) => s.stage !== 'output');
  return [
    ...outputs.map((s) => visit(s.id, false)),
    ...sections.map((s) => visit(s.id, true)),
    ...others.map((s) => visit(s.id, false)),
  ];
}

/** Number of the visit behind which modules, what stands behind, and cables are changed. */
export const lastClearingOf = (all: readonly Visit[]): number =>
  all.findLastIndex((v) => v.clearing);

/** Number of the visit in which a step is made; beyond the last for what comes behind all of them: rows, presses, memory. */
export function visitOf(all: readonly Visit[], step: Exclude<Step, { kind: 'listening' }>): number {
  switch (step.kind) {
    case 'movement':
      return all.findIndex((v) => v.controls.some((c) => c.id === step.control));
    case 'row':
    case 'entry':
    case 'store':
    case 'load':
      return all.length;
    default:
      return lastClearingOf(all);
  }
}
