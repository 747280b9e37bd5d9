import type { Setting } from '../reading/setting';
import type { Instrument, Value } from '../instrument/schema';
import { soundingValue } from '../reading/format';
import type { Patch } from './schema';
import { PATCH_FORMAT_VERSION } from './schema';

/** Where the panel stands when it has been brought to the instrument's start: a value for every control. */
export const startPositions = (instrument: Instrument): Record<string, Value> =>
  withRests(instrument, instrument.start.settings);

/** Where the panel stands in the instrument's init patch. */
export const initPositions = (instrument: Instrument): Record<string, Value> =>
  withRests(instrument, instrument.init.settings);

function withRests(instrument: Instrument, given: Record<string, Value>): Record<string, Value> {
  return Object.fromEntries(instrument.controls.map((c) => [c.id, given[c.id] ?? c.rest]));
}

/** Where the panel stands once a patch has been built: what was not recorded rests. */
export const patchPositions = (instrument: Instrument, patch: Patch): Record<string, Value> =>
  Object.fromEntries(
    instrument.controls.map((c) => [c.id, soundingValue(c, patch.settings[c.id])]),
  );

/** Positions as exact settings. */
export const settingsAt = (positions: Record<string, Value>): Record<string, Setting> =>
  Object.fromEntries(
    Object.entries(positions).map(([id, value]) => [id, { kind: 'set', value } as const]),
  );

/** A patch with nothing recorded yet. */
export const blankPatch = (instrument: Instrument, name: string): Patch => ({
  format: 'hurrel-patch',
  version: PATCH_FORMAT_VERSION,
  name,
  instrument: instrument.id,
  ...(instrument.revisions[0] ? { revision: instrument.revisions[0].id } : {}),
  song: '',
  role: 'other',
  tempo: 120,
  about: '',
  settings: {},
  notes: {},
  cables: [],
  outboard: [],
  matrix: [],
  variations: [],
  ends: {},
  meant: {},
  patterns: [],
  phrase: [
    { beat: 0, length: 0.9, note: 48, velocity: 100 },
    { beat: 1, length: 0.9, note: 55, velocity: 100 },
    { beat: 2, length: 1.8, note: 60, velocity: 100 },
  ],
  checkpoints: [],
});
