import type { Movement, Step } from './step';
import type { Setting } from '../reading/setting';
import fc from 'fast-check';
import type { Control } from '../instrument';
import { blankPatch, type Patch, settingsAt } from '../patch';
import { anyPanel, controlOf, initWith, sluice } from '../testing/sluice';
import { inWorkingOrder, sectionsInOrder } from '../instrument/order';
import { mustMove, panelAfter, panelAtInit, panelAtStart, planRebuild } from './plan';
import { movementSeconds } from './time';

const set = (value: number | string): Setting => ({ kind: 'set', value });
const patchWith = (settings: Record<string, Setting>, more: Partial<Patch> = {}): Patch => ({
  ...blankPatch(sluice, 'target'),
  settings,
  ...more,
});
const moves = (steps: Step[]): Movement[] =>
  steps.filter((s): s is Movement => s.kind === 'movement');

describe('working order', () => {
  it('goes output, oscillators, mixer, amplifier, filter, its envelope, modulation, keys, hands', () => {
    expect(sectionsInOrder(sluice).map((s) => s.id)).toEqual([
      'out',
      'osc1',
      'osc2',
      'mix',
      'env1',
      'filter',
      'env2',
      'lfo1',
      'lfo2',
      'keys',
      'hands',
    ]);
    expect(new Set(inWorkingOrder(sluice).map((c) => c.id)).size).toBe(sluice.controls.length);
  });
});

describe('a rebuild worked out by hand', () => {
  const start = panelAtStart(sluice);
  const before = {
    ...start,
    settings: {
      ...start.settings,
      cutoff: set(0.62),
      'lfo1-pitch': set(0.5),
      'osc1-shape': set('saw'),
      note: set('last'),
    },
  };
  const patch = patchWith(
    {
      level: set(0.7),
      'osc1-shape': set('sine'),
      'osc2-fine': { kind: 'ear', near: 0.75, target: 'until the beat stops' },
      'mix-osc1': set(0.9),
      cutoff: { kind: 'range', from: 0.35, to: 0.4, best: 0.37 },
      'lfo1-pitch': set(0),
      'lfo1-rate': { kind: 'any' },
      note: set('high'),
    },
    {
      notes: { 'control:cutoff': 'the floor must stay' },
      checkpoints: [{ after: 'mix', note: 60, hear: 'a sine' }],
    },
  );
  const plan = planRebuild(sluice, before, patch);

  it('moves only what differs, modulation off first, in working order, with the stop to listen', () => {
    expect(plan.steps.map((s) => s.id)).toEqual([
      'lfo1-pitch',
      'osc1-shape',
      'osc2-fine',
      'mix-osc1',
      'listen-0',
      'cutoff',
      'note',
    ]);
  });

  it('tells readings, ways, ranges, targets and notes', () => {
    const [vibrato, shape, fine, , cutoff, note] = moves(plan.steps);
    expect(vibrato).toMatchObject({ from: '5', to: '0', way: 'turn left' });
    expect(shape).toMatchObject({ from: 'saw', to: 'sine', way: '3 on' });
    expect(fine).toMatchObject({
      from: '12:00',
      to: '2:30',
      target: 'until the beat stops',
      way: 'turn right',
    });
    expect(cutoff).toMatchObject({
      from: '6.2',
      to: '3.7',
      range: ['3.5', '4'],
      note: 'the floor must stay',
      way: 'turn left',
    });
    expect(note).toMatchObject({ from: 'last', to: 'high', way: 'press three times' });
  });

  it('takes 3 + 1 + 8 + 3 + 3 + 1 s and five reaches of half a second', () => {
    expect(plan.seconds).toBeCloseTo(3 + 1 + 8 + 3 + 3 + 1 + 5 * 0.5, 9);
  });

  it('names what it does not know', () => {
    expect(plan.unknown).toHaveLength(sluice.controls.length - 8);
    expect(plan.unknown).toContain('drive');
  });
});

describe('whether a hand must go there', () => {
  const cutoff = controlOf('cutoff');
  const ear: Setting = { kind: 'ear', near: 0.5, target: 'sings' };
  it.each<[string, Control, Setting | undefined, Setting, boolean]>([
    ['the same reading', cutoff, set(0.35), set(0.36), false],
    ['another reading', cutoff, set(0.35), set(0.4), true],
    [
      'inside the range wanted',
      cutoff,
      set(0.36),
      { kind: 'range', from: 0.35, to: 0.4, best: 0.37 },
      false,
    ],
    [
      'outside the range wanted',
      cutoff,
      set(0.41),
      { kind: 'range', from: 0.35, to: 0.4, best: 0.37 },
      true,
    ],
    [
      'a range that may be anywhere',
      cutoff,
      { kind: 'range', from: 0.2, to: 0.6, best: 0.36 },
      set(0.36),
      true,
    ],
    [
      'a narrow range around it',
      cutoff,
      { kind: 'range', from: 0.35, to: 0.37, best: 0.36 },
      set(0.36),
      false,
    ],
    ['not known before', cutoff, undefined, set(0.36), true],
    ['did not matter before', cutoff, { kind: 'any' }, set(0.36), true],
    ['does not matter now', cutoff, set(0.1), { kind: 'any' }, false],
    ['by ear', cutoff, set(0.5), ear, true],
    ['by ear already, same target', cutoff, ear, ear, false],
    ['by ear, exact now', cutoff, ear, set(0.5), true],
    ['the same position', controlOf('note'), set('low'), set('low'), false],
  ])('%s', (_, control, before, target, wanted) =>
    expect(mustMove(control, before, target)).toBe(wanted),
  );
});

describe('times of hands', () => {
  it('has the default times', () => {
    expect(movementSeconds(controlOf('cutoff'), false)).toBe(3);
    expect(movementSeconds(controlOf('cutoff'), true)).toBe(8);
    expect(movementSeconds(controlOf('osc1-shape'), false)).toBe(1);
    expect(movementSeconds({ ...controlOf('cutoff'), route: ['SHIFT', 'OSC 2'] }, false)).toBe(7);
  });
});

describe('any two panels', () => {
  it('need nothing from one to itself', () => {
    fc.assert(
      fc.property(anyPanel, (values) => {
        const patch = patchWith(settingsAt(values));
        expect(planRebuild(sluice, patch, patch)).toMatchObject({
          steps: [],
          seconds: 0,
          unknown: [],
        });
      }),
    );
  });

  it('are turned into one another by their movements', () => {
    fc.assert(
      fc.property(anyPanel, anyPanel, (from, to) => {
        const patch = patchWith(settingsAt(to));
        const before = patchWith(settingsAt(from));
        const plan = planRebuild(sluice, before, patch);
        const after = panelAfter(before, plan, patch, plan.steps.length).settings;
        for (const control of sluice.controls) {
          expect([
            control.id,
            mustMove(control, after[control.id], patch.settings[control.id]!),
          ]).toEqual([control.id, false]);
        }
        expect(new Set(plan.steps.map((s) => s.id)).size).toBe(plan.steps.length);
        const spent = moves(plan.steps).reduce((sum, m) => sum + m.seconds, 0);
        const reaches = moves(plan.steps).filter(
          (m, i, all) => i > 0 && all[i - 1]!.section !== m.section,
        ).length;
        expect(plan.seconds).toBeCloseTo(spent + 0.5 * reaches, 9);
      }),
    );
  });

  it('stands at the start and at init where the instrument says', () => {
    expect(panelAtStart(sluice).settings['level']).toEqual(set(0.7));
    expect(panelAtInit(sluice).settings['mix-osc1']).toEqual(set(0.8));
    expect(planRebuild(sluice, panelAtInit(sluice), initWith()).steps).toEqual([]);
  });
});
