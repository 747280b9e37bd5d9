import fc from 'fast-check';
import document from '../../../library/instruments/oxbow-sluice.json' with { type: 'json' };
import {
  type Control,
  type Instrument,
  instrumentSchema,
  isSwitched,
  type Value,
} from '../instrument';
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

/** Any state of the panel. */
export const anyPanel: fc.Arbitrary<Record<string, Value>> = fc.record(
  Object.fromEntries(
    sluice.controls.map((c) => [
      c.id,
      isSwitched(c)
        ? fc.constantFrom<Value>(...c.positions.map((p) => p.id))
        : fc.oneof(
            fc.constantFrom<Value>(0, 0.5, 1),
            fc.integer({ min: 0, max: 100 }).map((n): Value => n / 100),
          ),
    ]),
  ),
);
