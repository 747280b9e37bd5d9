import fc from 'fast-check';
import type { ContinuousControl } from '../instrument';
import { taperPosition, taperValue } from '../reading';
import { controlOf, initWith, sluice } from '../testing/sluice';
import { estuary } from '../testing/panels';
import {
  calibratedTaper,
  calibrationFault,
  translate,
  translatedSettings,
  unitFace,
} from './calibrate';
import { checkUnit } from './check';
import { freeSlots, overwriteWarning, slotName, storedName } from './memory';
import { type CalibrationPoint, type Unit, unitSchema } from './schema';

const cutoff = controlOf('cutoff') as ContinuousControl;
const nominal = cutoff.bindings[0]!.taper;
const point = (at: number, value: number): CalibrationPoint => ({ at, value, against: 'tuner' });
const unitOf = (calibration: Unit['calibration']): Unit =>
  unitSchema.parse({ instrument: 'oxbow-sluice', name: 'ours', calibration });

describe('a calibrated control', () => {
  it('gives what was measured where it was measured', () => {
    const points = [
      point(0.2, taperValue(nominal, 0.2) * 1.05),
      point(0.8, taperValue(nominal, 0.8) * 0.9),
    ];
    const taper = calibratedTaper(cutoff, points);
    for (const p of points) expect(taperValue(taper, p.at)).toBeCloseTo(p.value, 6);
    // Beyond the last point it stays off by as much as there.
    expect(taperValue(taper, 0) / taperValue(nominal, 0)).toBeCloseTo(1.05, 6);
    expect(taperValue(taper, 1) / taperValue(nominal, 1)).toBeCloseTo(0.9, 6);
  });

  it('says when its points contradict each other', () => {
    expect(calibrationFault(cutoff, [point(0.2, 5000), point(0.8, 100)])).toMatch(/contradict/);
    expect(calibrationFault(cutoff, [point(0.2, 100), point(0.2, 110)])).toMatch(/twice/);
    expect(calibrationFault(cutoff, [point(0.2, 0)])).toMatch(/above 0/);
    expect(calibrationFault(controlOf('osc1-shape'), [point(0.2, 1)])).toMatch(/measured/);
    expect(calibrationFault(cutoff, [point(0.5, taperValue(nominal, 0.5) * 1.02)])).toBeUndefined();
  });

  it('can be turned to any value of its travel, and back', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.9, max: 1.1, noNaN: true }),
        fc.double({ min: 0.9, max: 1.1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (a, b, at) => {
          const taper = calibratedTaper(cutoff, [
            point(0.25, taperValue(nominal, 0.25) * a),
            point(0.75, taperValue(nominal, 0.75) * b),
          ]);
          expect(taperPosition(taper, taperValue(taper, at))).toBeCloseTo(at, 5);
        },
      ),
    );
  });
});

describe('from one unit to another', () => {
  const ours = unitOf({ cutoff: [point(0.5, taperValue(nominal, 0.5) * 1.06)] });
  const theirs = unitOf({ cutoff: [point(0.5, taperValue(nominal, 0.5) * 0.97)] });
  const patch = initWith({ cutoff: 0.5 });

  it('the same hertz are read elsewhere', () => {
    const [told] = translate(sluice, patch, ours, theirs);
    const there = taperValue(
      (unitFace(sluice, theirs).controls.find((c) => c.id === 'cutoff') as ContinuousControl)
        .bindings[0]!.taper,
      told!.value,
    );
    // As near as the panel resolves: a quarter of its smallest division.
    expect(Math.abs(1200 * Math.log2(there / (taperValue(nominal, 0.5) * 1.06)))).toBeLessThan(60);
    expect(told!.value).toBeGreaterThan(0.5);
    expect(told!.error).toBe('');
  });

  it('what the other cannot reach is said', () => {
    const high = initWith({ cutoff: 1 });
    const [told] = translate(sluice, high, ours, theirs);
    expect(told!.value).toBe(1);
    expect(told!.error).toMatch(/instead of/);
  });

  it('leaves everything else alone, and is its own undoing', () => {
    const there = translatedSettings(sluice, patch, ours, theirs);
    expect({ ...there, cutoff: null }).toEqual({ ...patch.settings, cutoff: null });
    const back = translatedSettings(sluice, { settings: there }, theirs, ours);
    const value = back['cutoff'];
    expect(value?.kind === 'set' && Math.abs(Number(value.value) - 0.5)).toBeLessThan(0.011);
    expect(translate(sluice, patch, unitOf({}), unitOf({}))).toEqual([]);
  });

  it('takes ranges and targets along', () => {
    const ranged = {
      settings: {
        cutoff: { kind: 'range', from: 0.4, to: 0.6, best: 0.5 } as const,
      },
    };
    const moved = translatedSettings(sluice, ranged, ours, theirs)['cutoff'];
    expect(moved).toMatchObject({ kind: 'range' });
    if (moved?.kind !== 'range') throw new Error('no range');
    expect(moved.from).toBeGreaterThan(0.4);
    expect(moved.from).toBeLessThanOrEqual(moved.best);
    expect(moved.best).toBeLessThanOrEqual(moved.to);
  });
});

describe('memory', () => {
  const { memory } = estuary;
  const unit = unitSchema.parse({
    instrument: estuary.id,
    name: 'ours',
    slots: [
      { bank: 1, slot: 1, name: 'INIT', needed: true },
      { bank: 1, slot: 3, name: 'HAZE' },
    ],
  });

  it('names places by bank and number', () => {
    expect(slotName(memory, 1, 1)).toBe('A01');
    expect(slotName(memory, 4, 16)).toBe('D16');
  });

  it('knows free places, and warns before what is there is lost', () => {
    expect(freeSlots(memory, unit)).toHaveLength(4 * 16 - 2);
    expect(freeSlots(memory, unit)[0]).toEqual({ bank: 1, slot: 2 });
    expect(overwriteWarning(memory, unit, 1, 1)).toMatch(/A01 holds "INIT", and it is needed/);
    expect(overwriteWarning(memory, unit, 1, 3)).toMatch(/would be overwritten/);
    expect(overwriteWarning(memory, unit, 1, 2)).toBe('');
  });

  it('cuts a name to what the instrument holds, and counts the way of the encoder', () => {
    const small = {
      kind: 'slots',
      banks: 1,
      slots: 8,
      nameLength: 3,
      characters: ' ABCDE',
    } as const;
    // A is one detent from the blank, E one the other way round, C two on from E ... the shorter way.
    expect(storedName(small, 'aec')).toEqual({
      text: 'AEC',
      detents: 1 + 2 + 2,
      seconds: 2.3,
      lost: '',
    });
    expect(storedName(small, 'ABCDE').lost).toBe('Cut to 3 characters.');
    expect(storedName(small, 'A?B')).toMatchObject({ text: 'AB', lost: 'It has no "?".' });
    expect(storedName({ kind: 'none' }, 'A').lost).toBe('Places have numbers only.');
  });

  it('is checked against the instrument', () => {
    expect(checkUnit(unit, estuary)).toEqual([]);
    const wrong = {
      ...unit,
      slots: [{ ...unit.slots[0]!, bank: 9 }, unit.slots[1]!, unit.slots[1]!],
    };
    expect(checkUnit(wrong, estuary).map((p) => p.pointer)).toEqual(['/slots/0', '/slots/2']);
  });
});
