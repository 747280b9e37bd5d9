import type { Setting } from '../reading/setting';
import fc from 'fast-check';
import type { ContinuousControl } from '../instrument/schema';
import { controlOf, initWith, sluice } from '../testing/sluice';
import { checkPatch } from './check';
import { blankPatch, initPositions, patchPositions, startPositions } from './create';
import { diffPatches } from './diff';
import { mergePatches } from './merge';
import { type Patch, patchSchema } from './schema';
import { beginText, settingAs, settingWith } from './setting';
import { runs } from '../testing/runs';

const set = (value: number | string): Setting => ({ kind: 'set', value });

describe('a patch document', () => {
  it('survives a round trip', () => {
    const patch = initWith(
      { cutoff: 0.37 },
      { notes: { 'control:cutoff': 'why' }, song: 'Ropewalk' },
    );
    expect(patchSchema.parse(JSON.parse(JSON.stringify(patch)))).toEqual(patch);
  });

  it.each<[string, unknown]>([
    ['a range with its best guess outside', { kind: 'range', from: 0.2, to: 0.4, best: 0.5 }],
    ['a target without words', { kind: 'ear', near: 0.2, target: '  ' }],
    ['a value beyond the travel', { kind: 'set', value: 1.2 }],
    ['a kind that is none', { kind: 'maybe' }],
    ['a field too many', { kind: 'any', value: 1 }],
  ])('refuses %s', (_, setting) => {
    expect(
      patchSchema.safeParse({ ...blankPatch(sluice, 'x'), settings: { cutoff: setting } }).success,
    ).toBe(false);
  });

  it('is checked against its instrument', () => {
    const pointers = (patch: Partial<Patch>): string[] =>
      checkPatch({ ...blankPatch(sluice, 'x'), ...patch }, sluice).map((p) => p.pointer);
    expect(pointers({})).toEqual([]);
    expect(pointers({ settings: { ghost: set(0) } })).toEqual(['/settings/ghost']);
    expect(pointers({ settings: { cutoff: set('saw') } })).toEqual(['/settings/cutoff/value']);
    expect(pointers({ settings: { 'osc1-shape': set(0.4) } })).toEqual([
      '/settings/osc1-shape/value',
    ]);
    expect(
      pointers({ settings: { 'osc1-shape': { kind: 'range', from: 0, to: 1, best: 0.5 } } }),
    ).toEqual(['/settings/osc1-shape']);
    expect(pointers({ revision: 'board-z' })).toEqual(['/revision']);
    expect(pointers({ notes: { 'section:attic': 'x' } })).toEqual(['/notes/section:attic']);
    expect(pointers({ checkpoints: [{ after: 'attic', note: 60, hear: 'x' }] })).toEqual([
      '/checkpoints/0/after',
    ]);
    expect(pointers({ cables: [{ id: 'a', from: 'hole' }] })).toEqual(['/cables/0/from']);
  });
});

describe('positions', () => {
  it('has a value for every control at the start and at init', () => {
    for (const positions of [startPositions(sluice), initPositions(sluice)]) {
      expect(Object.keys(positions).sort()).toEqual(sluice.controls.map((c) => c.id).sort());
    }
    expect(startPositions(sluice)['cutoff']).toBe(1);
    expect(startPositions(sluice)['resonance']).toBe(0);
  });

  it('takes the best guess, the neighbourhood, and rest for what is not known', () => {
    const patch = {
      ...blankPatch(sluice, 'x'),
      settings: {
        cutoff: { kind: 'range', from: 0.3, to: 0.5, best: 0.37 },
        resonance: { kind: 'ear', near: 0.4, target: 'sings' },
        'osc2-interval': { kind: 'any' },
      },
    } satisfies Patch;
    expect(patchPositions(sluice, patch)).toMatchObject({
      cutoff: 0.37,
      resonance: 0.4,
      'osc2-interval': 0.5,
      drive: 0,
    });
  });
});

describe('differences', () => {
  it('are told in readings of the panel, in working order', () => {
    const before = initWith();
    const after: Patch = {
      ...before,
      tempo: 132,
      notes: { 'section:filter': 'dark' },
      settings: {
        ...before.settings,
        cutoff: { kind: 'range', from: 0.35, to: 0.4, best: 0.37 },
        level: set(0.5),
      },
    };
    expect(diffPatches(sluice, before, after)).toEqual([
      { pointer: '/settings/level', subject: 'Out level', before: '7', after: '5' },
      {
        pointer: '/settings/cutoff',
        subject: 'Filter cutoff',
        before: '10',
        after: '3.5–4, best 3.7',
      },
      { pointer: '/notes/section:filter', subject: 'Note on Filter', before: '', after: 'dark' },
      { pointer: '/tempo', subject: 'Tempo', before: '120 bpm', after: '132 bpm' },
    ]);
    expect(diffPatches(sluice, after, after)).toEqual([]);
    // The same reading on another scale stands elsewhere on the travel, and is no difference.
    const cutoff = sluice.controls.find((c) => c.id === 'cutoff') as ContinuousControl;
    const marks = cutoff.scale!.marks.map((m) => ({ ...m, at: m.at ** 2 }));
    const scaled = { ...cutoff, scale: { ...cutoff.scale!, marks } };
    const controls = sluice.controls.map((c) => (c.id === 'cutoff' ? scaled : c));
    const reads = (value: number): Patch => ({
      ...after,
      settings: { ...after.settings, cutoff: { kind: 'set', value } },
    });
    const was = reads(0.5);
    const rescaled = { ...sluice, controls };
    expect(diffPatches(rescaled, was, reads(0.25), sluice)).toEqual([]);
    expect(diffPatches(rescaled, was, reads(0.5), sluice)).toMatchObject([
      { pointer: '/settings/cutoff', before: '5' },
    ]);
  });
});

describe('merging', () => {
  const knobs = ['cutoff', 'resonance', 'drive', 'level', 'high-pass'];
  const settings = fc.dictionary(
    fc.constantFrom(...knobs),
    fc.integer({ min: 0, max: 3 }).map((n) => set(n / 4)),
  );
  const patches = fc
    .record({ settings, tempo: fc.integer({ min: 100, max: 102 }) })
    .map((p): Patch => ({ ...blankPatch(sluice, 'x'), ...p }));

  it('takes each side’s change where the other made none', () => {
    const base = initWith();
    const mine = { ...base, settings: { ...base.settings, cutoff: set(0.2) } };
    const theirs = { ...base, tempo: 99, settings: { ...base.settings, drive: set(0.9) } };
    const { merged, conflicts } = mergePatches(base, mine, theirs);
    expect(conflicts).toEqual([]);
    expect(merged).toEqual({
      ...base,
      tempo: 99,
      settings: { ...base.settings, cutoff: set(0.2), drive: set(0.9) },
    });
  });

  it('names what both changed, and asks', () => {
    const base = initWith();
    const mine = { ...base, settings: { ...base.settings, cutoff: set(0.2) } };
    const { cutoff: _, ...without } = base.settings;
    const theirs = { ...base, settings: without };
    expect(mergePatches(base, mine, theirs).conflicts).toEqual(['/settings/cutoff']);
    expect(mergePatches(base, mine, theirs, () => 'theirs').merged).toEqual(theirs);
  });

  it('keeps the laws', () => {
    fc.assert(
      fc.property(patches, patches, patches, (base, mine, theirs) => {
        expect(mergePatches(base, mine, base).merged).toEqual(mine);
        expect(mergePatches(base, base, theirs).merged).toEqual(theirs);
        expect(mergePatches(base, mine, mine).merged).toEqual(mine);
        const ours = mergePatches(base, mine, theirs, () => 'mine');
        const swapped = mergePatches(base, theirs, mine, () => 'theirs');
        expect(ours.merged).toEqual(swapped.merged);
        expect(new Set(ours.conflicts)).toEqual(new Set(swapped.conflicts));
      }),
      { numRuns: runs(300) },
    );
  });
});

describe('moving a control', () => {
  it('keeps by ear by ear, and a best guess inside its range', () => {
    expect(settingWith({ kind: 'ear', near: 0.2, target: 'x' }, 0.3)).toEqual({
      kind: 'ear',
      near: 0.3,
      target: 'x',
    });
    const range: Setting = { kind: 'range', from: 0.2, to: 0.4, best: 0.3 };
    expect(settingWith(range, 0.35)).toEqual({ ...range, best: 0.35 });
    expect(settingWith(range, 0.5)).toEqual(set(0.5));
    expect(settingWith({ kind: 'any' }, 0.5)).toEqual(set(0.5));
    expect(settingWith(undefined, 'saw')).toEqual(set('saw'));
  });

  it('changes kind and stays in its place', () => {
    const cutoff = controlOf('cutoff');
    expect(settingAs(cutoff, set(0.4), 'any')).toEqual({ kind: 'any' });
    const range = { kind: 'range', from: 0.35, to: 0.4, best: 0.37 } as const;
    expect(settingAs(cutoff, range, 'set')).toEqual(set(0.37));
    expect(settingAs(cutoff, set(0.4), 'none')).toBeNull();
    // What was not read is not made up.
    expect(beginText(cutoff, undefined, 'ear')).toBe('~ ');
    expect(beginText(cutoff, undefined, 'range')).toBe('');
    expect(beginText(cutoff, set(0.4), 'ear')).toBe('~4 ');
    expect(beginText(cutoff, set(0.4), 'range')).toBe('4 to ');
  });
});
