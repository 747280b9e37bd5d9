import { panelOf } from '../instrument/panel-of';
import type { Problem } from '../document/problem';
import type { Instrument } from '../instrument/schema';
import { calibrationFault } from './calibrate';
import { slotFault } from './memory';
import type { Unit } from './schema';

/** Checks a unit against its instrument: its controls, the order of its points, its places. */
export function checkUnit(unit: Unit, instrument: Instrument): Problem[] {
  const problems: Problem[] = [];
  const face = panelOf(instrument);
  if (unit.instrument !== instrument.id) {
    problems.push({ pointer: '/instrument', message: `It is a ${instrument.id}.` });
  }
  for (const [id, points] of Object.entries(unit.calibration)) {
    const control = face.controls.find((c) => c.id === id);
    const message = calibrationFault(control, points);
    if (message) problems.push({ pointer: `/calibration/${id}`, message });
  }
  const seen = new Set<string>();
  unit.slots.forEach((slot, i) => {
    const key = `${slot.bank}.${slot.slot}`;
    const message = seen.has(key) ? 'That place is there twice.' : slotFault(instrument, slot);
    if (message) problems.push({ pointer: `/slots/${i}`, message });
    seen.add(key);
  });
  return problems;
}
