import curlewFile from '../../../library/instruments/staithe-curlew.json' with { type: 'json' };
import estuaryFile from '../../../library/instruments/marram-estuary.json' with { type: 'json' };
import lockgateFile from '../../../library/instruments/oxbow-lockgate.json' with { type: 'json' };
import { panelOf, type Instrument, instrumentSchema, type Value } from '../instrument';
import { blankPatch, type Cable, initPositions, type Patch, settingsAt } from '../patch';

/** Ready-made instruments with cables, a matrix and effects, for tests that need real ones. */
export const lockgate: Instrument = instrumentSchema.parse(lockgateFile);
export const cabinet: Instrument = panelOf(lockgate);
export const curlew: Instrument = instrumentSchema.parse(curlewFile);
export const estuary: Instrument = instrumentSchema.parse(estuaryFile);

/** Cables as `from>to`, separated by blanks; either end may be missing. */
export const cords = (text: string): Cable[] =>
  text
    .split(' ')
    .filter(Boolean)
    .map((pair, i) => {
      const [from, to] = pair.split('>');
      return { id: `c${i + 1}`, ...(from ? { from } : {}), ...(to ? { to } : {}) };
    });

/** The init patch of an instrument with some controls moved and cables put in. */
export const patchOn = (
  instrument: Instrument,
  values: Record<string, Value> = {},
  cables = '',
  more: Partial<Patch> = {},
): Patch => ({
  ...blankPatch(instrument, 'test'),
  settings: settingsAt({ ...initPositions(instrument), ...values }),
  cables: cords(cables),
  ...more,
});
