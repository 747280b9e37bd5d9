import document from '../../../library/instruments/oxbow-sluice.json';
import { type Control, type Instrument, instrumentSchema, type Value } from '../instrument';
import { blankPatch, initPositions, type Patch, settingsAt } from '../patch';

/** The ready-made instrument, for tests that need a real one. */
export const sluice: Instrument = instrumentSchema.parse(document);

export function controlOf(id: string): Control {
  const control = sluice.controls.find((c) => c.id === id);
  if (!control) throw new Error(`The Sluice has no control "${id}".`);
  return control;
}

/** The init patch with some controls moved. */
export const initWith = (values: Record<string, Value> = {}, more: Partial<Patch> = {}): Patch => ({
  ...blankPatch(sluice, 'test'),
  settings: settingsAt({ ...initPositions(sluice), ...values }),
  ...more,
});
