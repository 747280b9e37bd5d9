import {
  type Choose,
  type Difference,
  entryDifferences,
  fieldDifferences,
  type Keyed,
  type Merge,
  mergeDocuments,
  type ToldField,
} from '../document';
import type { Instrument } from '../instrument/schema';
import { slotName } from './memory';
import type { CalibrationPoint, Slot, Unit } from './schema';

const FIELDS: ToldField<Unit>[] = [
  ['name', 'Name', (u) => u.name],
  ['note', 'Note', (u) => u.note],
];

const keyOf = (slot: Pick<Slot, 'bank' | 'slot'>): string => `${slot.bank}-${slot.slot}`;
const bySlot = (slots: readonly Slot[]): Record<string, Slot> =>
  Object.fromEntries(slots.map((slot) => [keyOf(slot), slot]));

/** Differences from one state of a unit to another: its fields, calibration control by control, memory place by place. */
export function unitDifferences(instrument: Instrument, before: Unit, after: Unit): Difference[] {
  const names = new Map(
    instrument.controls.map((c) => [
      c.id,
      `${instrument.sections.find((s) => s.id === c.section)?.name ?? ''} ${c.name}`.trim(),
    ]),
  );
  return [
    ...fieldDifferences(FIELDS, before, after),
    ...entryDifferences(
      'calibration',
      before.calibration,
      after.calibration,
      (id) => `Calibration of ${names.get(id) ?? id}`,
      sayPoints,
    ),
    ...entryDifferences(
      'slots',
      bySlot(before.slots),
      bySlot(after.slots),
      (key) => `Memory ${nameOfSlot(instrument, key)}`,
      saySlot,
    ),
  ];
}

function nameOfSlot(instrument: Instrument, key: string): string {
  const [bank = 1, slot = 1] = key.split('-').map(Number);
  return instrument.memory ? slotName(instrument.memory, bank, slot) : key;
}

const sayPoints = (points: CalibrationPoint[] | undefined): string =>
  points ? points.map((p) => `${Math.round(100 * p.at)} %: ${p.value}`).join(', ') : 'none';

const saySlot = (slot: Slot | undefined): string =>
  slot
    ? [slot.name || 'without a name', slot.needed && 'needed', slot.note].filter(Boolean).join(', ')
    : 'free';

const KEYED: Keyed<Unit> = { calibration: null, slots: keyOf };

/** Merges two changes of one unit, control by control and place by place; places stay in their order. */
export function mergeUnits(
  base: Unit | null,
  mine: Unit,
  theirs: Unit,
  choose?: Choose,
): Merge<Unit> {
  const { merged, conflicts } = mergeDocuments(KEYED, base, mine, theirs, choose);
  const slots = [...merged.slots].sort((a, b) => a.bank - b.bank || a.slot - b.slot);
  return { merged: { ...merged, slots }, conflicts };
}
