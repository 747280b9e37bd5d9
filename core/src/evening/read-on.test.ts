import { curlew, patchOn } from '../testing/panels';
import type { Patch } from '../patch/schema';
import { unitFace } from '../unit/calibrate';
import { soundingValue } from '../reading/format';
import { taperValue } from '../reading/taper';
import type { ContinuousControl } from '../instrument/schema';
import { type Known, waysOf } from './known';
import { planEvening } from './plan';
import { type Calibrations, readOn, unitsNamed } from './read-on';
import { eveningSchema } from './schema';
import { panelsAlike, shownOf } from './shown-of';
import { workOf } from './ways';

const cutoff = curlew.controls.find((c) => c.id === 'cutoff') as ContinuousControl;
const { taper } = cutoff.bindings[0]!;
const nominal = (at: number): number => taperValue(taper, at);
/** Reads true in the middle of one unit; the other opens a quarter more. */
const units: Calibrations = {
  left: { calibration: { cutoff: [{ at: 0.5, value: nominal(0.5), against: 'tuner' }] } },
  right: { calibration: { cutoff: [{ at: 0.5, value: 1.25 * nominal(0.5), against: 'tuner' }] } },
};
const low: Patch = { ...patchOn(curlew, { cutoff: 0.5 }), unit: 'left' };
const high: Patch = { ...patchOn(curlew, { cutoff: 0.7 }), unit: 'left' };
const on = (unit: string | undefined, patch = low): Patch =>
  readOn(units, unit, { patch, instrument: curlew }).patch;
const placeOf = ({ settings }: Patch): number =>
  soundingValue(cutoff, settings['cutoff']!) as number;
const hertz = (unit: string, patch: Patch): number => {
  const face = unitFace(curlew, units[unit]!);
  const control = face.controls.find((c) => c.id === 'cutoff') as ContinuousControl;
  return taperValue(control.bindings[0]!.taper, placeOf(patch));
};

describe('a patch on another unit', () => {
  it('reads where the other gives the same value, as near as its dial is read', () => {
    const there = on('right');
    expect(placeOf(there)).toBeLessThan(0.5);
    expect(hertz('right', there) / hertz('left', low)).toBeCloseTo(1, 1);
    expect(hertz('right', low) / hertz('left', low)).toBeCloseTo(1.25, 6);
    const others = Object.keys(low.settings).filter((id) => id !== 'cutoff');
    for (const id of others) expect(there.settings[id]).toEqual(low.settings[id]);
  });

  it.each([
    ['its own', 'left', low],
    ['one that nobody has named', undefined, low],
  ])('reads as it is recorded on %s', (_, unit, patch) => {
    expect(on(unit, patch)).toBe(patch);
  });

  it('reads as it is recorded where nothing was measured of either', () => {
    const recorded = { patch: { ...low, unit: 'gone' }, instrument: curlew };
    expect(readOn({}, 'right', recorded)).toBe(recorded);
  });

  it('needs to be known of the units of panels and patches, where any panel is one', () => {
    const library = [low, high, patchOn(curlew)].map((patch) => ({ patch, instrument: curlew }));
    expect(unitsNamed([{ unit: 'right' }, {}], library)).toEqual(['right', 'left']);
    expect(unitsNamed([{}], library)).toEqual([]);
  });
});

const evening = (panels: { id: string; unit?: string }[], songs: readonly object[]) =>
  eveningSchema.parse({
    ...{ format: 'hurrel-set', version: 1, name: 'Two Curlews' },
    people: [{ id: 'low', name: 'low keys' }],
    panels: panels.map((p) => ({ ...p, name: p.id, instrument: 'staithe-curlew' })),
    songs,
  });

describe('an evening on two units of one instrument', () => {
  const library = {
    low: { patch: low, instrument: curlew },
    high: { patch: high, instrument: curlew },
  };
  const known: Known = { library, before: {}, times: {}, units };
  const songs = ['low', 'high'].map((patch, i) => ({
    ...{ id: `s${i}`, name: patch, pause: 60 },
    plays: ['a', 'b'].map((panel) => ({ panel, patch })),
  }));
  const set = evening(
    [
      { id: 'a', unit: 'left' },
      { id: 'b', unit: 'right' },
    ],
    songs,
  );

  it('is planned in the readings of each', () => {
    const steps = planEvening(set, waysOf(set, known)).breaks.flatMap((b) =>
      b.portions.flatMap((p) => p.steps.map((step) => ({ panel: p.panel, song: p.song, step }))),
    );
    const read = (panel: string, song: string) =>
      steps.flatMap(({ step, ...of }) =>
        of.panel === panel && of.song === song && step.id === 'cutoff' && step.kind === 'movement'
          ? [step.toValue as number]
          : [],
      );
    for (const [song, patch] of [
      ['s0', low],
      ['s1', high],
    ] as const) {
      expect(read('a', song)).toEqual([placeOf(patch)]);
      expect(read('b', song)).toEqual([placeOf(on('right', patch))]);
      expect(read('b', song)[0]).toBeLessThan(read('a', song)[0]!);
    }
  });

  it('moves between two patches what differs on that unit, from where it stands there', () => {
    const ways = waysOf(set, known);
    const from = (panel: string) =>
      workOf(ways.plan(panel, { patch: 'low' }, { patch: 'high' })!).flatMap((s) =>
        s.kind === 'movement' ? [s.fromValue] : [],
      );
    expect(from('a')).toEqual([0.5]);
    expect(from('b')).toEqual([placeOf(on('right'))]);
  });
});

describe('where what is known of a panel of a set is kept', () => {
  const panels = [{ id: 'a' }, { id: 'b' }, { id: 'c', unit: 'left' }];
  it('is its unit, or its instrument where no other panel of the set is that too', () => {
    const set = evening(panels, []);
    expect(shownOf(set, 'c')).toBe('unit-left');
    expect([shownOf(set, 'a'), shownOf(set, 'b'), shownOf(set, 'gone')]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
    expect(panelsAlike(set).map((all) => all.map((p) => p.id))).toEqual([['a', 'b']]);
    const apart = evening(panels.slice(1), []);
    expect(shownOf(apart, 'b')).toBe('instrument-staithe-curlew');
    expect(panelsAlike(apart)).toEqual([]);
  });
});
