import { checkPatch } from './check';
import { copySections, twinsOf } from './copy';
import { diffPatches, variationTable } from './diff';
import { cannotJoin, cableText, isClear, jackLabel, jacksNamed, newCable } from './cables';
import { depthText, freeRow, matrixRowText, parseDepth, withRow } from './matrix';
import { mergePatches } from './merge';
import { addModule, exchangeModule, moveModule, takeModule } from './rearrange';
import type { Patch, Variation } from './schema';
import { applyVariation, morph, variationFrom } from './variation';
import { gapsFor, openingsFor, panelOf } from '../instrument';
import { cabinet, curlew, estuary, lockgate, patchOn } from '../testing/panels';
import { initWith, sluice } from '../testing/sluice';

const set = (value: number | string) => ({ kind: 'set', value }) as const;

describe('cables', () => {
  it('are found by what one types of the names of their jacks', () => {
    expect(jacksNamed(cabinet, 'low-pass 2 in').map((j) => j.id)[0]).toBe('ladder-2-in');
    expect(jacksNamed(cabinet, 'keyb pi')[0]!.id).toBe('kb-pitch');
    expect(jacksNamed(cabinet, 'nothing like it')).toEqual([]);
  });

  it('are found by a whole name before all that only hold its words', () => {
    for (const jack of cabinet.jacks) {
      const name = jackLabel(cabinet, jack.id);
      const found = jacksNamed(cabinet, name);
      expect([name, found[0]!.id]).toEqual([name, jack.id]);
      expect(isClear(cabinet, name, found)).toBe(true);
    }
    // Two mixers have an input 2.
    const either = jacksNamed(cabinet, 'mixer 2');
    expect(either.length).toBeGreaterThan(1);
    expect(isClear(cabinet, 'mixer 2', either)).toBe(false);
  });

  it.each([
    ['the cabinet', cabinet],
    ['the Curlew', curlew],
    ['the Sluice', sluice],
    ['the Estuary', estuary],
  ])('are found by section and name, as they stand on the panel of %s', (_, panel) => {
    const seen = panel.jacks.map((jack) => {
      const section = panel.sections.find((s) => s.id === jack.section)!.name;
      return { jack, words: `${section} ${jack.name}` };
    });
    for (const { jack, words } of seen) {
      const found = jacksNamed(panel, words.toUpperCase());
      const alike = seen.filter((one) => one.words === words);
      expect([words, alike.map((one) => one.jack.id)]).toContainEqual(
        expect.arrayContaining([found[0]!.id]),
      );
      expect([words, isClear(panel, words, found)]).toEqual([words, alike.length === 1]);
      if (alike.length === 1) expect(found[0]!.id).toBe(jack.id);
    }
  });

  it('join one that gives and one that takes, whichever is named first', () => {
    expect(cannotJoin(curlew, 'j-lfo', 'j-env')).toMatch(/both give a signal/);
    expect(cannotJoin(curlew, 'j-amp', 'j-amp')).toMatch(/same jack/);
    expect(cannotJoin(curlew, 'j-cutoff', 'j-lfo')).toBeUndefined();
    const cable = newCable(curlew, [{ id: 'c1' }], 'j-cutoff', 'j-lfo');
    expect(cable).toEqual({ id: 'c2', from: 'j-lfo', to: 'j-cutoff' });
    expect(cableText(curlew, cable)).toBe('lfo → cutoff');
    expect(newCable(curlew, [], 'j-amp')).toEqual({ id: 'c1', to: 'j-amp' });
  });

  it('are checked: jacks, directions, ends', () => {
    const wrong = (from?: string, to?: string): string[] =>
      checkPatch(
        {
          ...patchOn(curlew),
          cables: [{ id: 'a', ...(from ? { from } : {}), ...(to ? { to } : {}) }],
        },
        curlew,
      ).map((p) => `${p.pointer} ${p.message}`);
    expect(wrong('j-lfo', 'j-cutoff')).toEqual([]);
    expect(wrong('j-cutoff', 'j-lfo')).toHaveLength(2);
    expect(wrong('none')[0]).toBe('/cables/0/from There is no jack "none".');
    expect(wrong()[0]).toMatch(/at least one jack/);
  });

  it('are told apart one by one', () => {
    const [a, b] = [patchOn(curlew, {}, 'j-lfo>j-cutoff'), patchOn(curlew, {}, 'j-env>j-cutoff')];
    expect(diffPatches(curlew, a, b)).toEqual([
      { pointer: '/cables/c1', subject: 'Cable', before: 'lfo → cutoff', after: 'env → cutoff' },
    ]);
  });

  it('merge one by one: what only one side did is kept', () => {
    const base = patchOn(curlew, {}, 'j-lfo>j-cutoff');
    const mine = patchOn(curlew, {}, 'j-lfo>j-cutoff j-env>j-amp');
    const theirs: Patch = { ...base, cables: [{ ...base.cables[0]!, colour: 'red' }] };
    const { merged, conflicts } = mergePatches(base, mine, theirs);
    expect(conflicts).toEqual([]);
    expect(merged.cables.map((c) => [c.from, c.colour])).toEqual([
      ['j-lfo', 'red'],
      ['j-env', undefined],
    ]);
  });
});

describe('matrix rows', () => {
  const matrix = estuary.matrix!;
  const row = { row: 0, source: 'lfo', destination: 'cutoff1', depth: 0.5 };

  it('are read and written in the panel’s numbers', () => {
    expect(depthText(matrix, 0.5)).toBe('+32');
    expect(depthText(matrix, -1)).toBe('-64');
    expect(depthText(matrix, 0)).toBe('0');
    expect(parseDepth(matrix, '-32')).toBe(-0.5);
    expect(parseDepth(matrix, '65')).toBeUndefined();
    expect(parseDepth(matrix, 'much')).toBeUndefined();
    expect(matrixRowText(matrix, row)).toBe('LFO to cutoff 1 +32');
  });

  it('fill the first free row, and give it back', () => {
    expect(freeRow(matrix, [row])).toBe(1);
    expect(withRow([row], { ...row, depth: -0.5 })).toEqual([{ ...row, depth: -0.5 }]);
    expect(withRow([row], 0)).toEqual([]);
  });

  it('are checked', () => {
    const faults = (r: Partial<typeof row>): string[] =>
      checkPatch(patchOn(estuary, {}, '', { matrix: [{ ...row, ...r }] }), estuary).map(
        (p) => p.pointer,
      );
    expect(faults({})).toEqual([]);
    expect(faults({ row: 12, source: 'x', destination: 'y' })).toEqual([
      '/matrix/0/row',
      '/matrix/0/source',
      '/matrix/0/destination',
    ]);
    expect(checkPatch(patchOn(curlew, {}, '', { matrix: [row] }), curlew)[0]!.message).toMatch(
      /has no matrix/,
    );
  });
});

const thin: Variation = {
  id: 'thin',
  name: 'thin',
  about: '',
  settings: { 'high-pass': set(0.6), 'osc1-shape': set('pulse') },
  pulled: [],
  plugged: [],
  rows: [],
};

describe('variations', () => {
  const patch: Patch = { ...initWith({ cutoff: 0.2 }), variations: [thin] };

  it('are what departs, and nothing else', () => {
    const state = applyVariation(patch, thin);
    expect(state.settings['high-pass']).toEqual(set(0.6));
    expect(variationFrom(patch, state, thin)).toEqual(thin);
    const base = patchOn(curlew, {}, 'j-lfo>j-cutoff');
    const pulled = variationFrom(base, { ...base, cables: [] }, thin);
    expect(pulled).toMatchObject({ settings: {}, pulled: ['c1'], plugged: [] });
    expect(applyVariation(base, pulled).cables).toEqual([]);
  });

  it('can empty a matrix row', () => {
    const row = { row: 2, source: 'lfo', destination: 'cutoff1', depth: 0.5 };
    const base = patchOn(estuary, {}, '', { matrix: [row] });
    const without = variationFrom(base, { ...base, matrix: [] }, thin);
    expect(without.rows).toEqual([{ ...row, depth: 0 }]);
    expect(applyVariation(base, without).matrix).toEqual([]);
  });

  it('stand beside each other in a table, in working order', () => {
    const table = variationTable(sluice, patch);
    expect(table.map((r) => [r.subject, r.cells])).toEqual([
      ['Oscillator 1 shape', ['pulse']],
      ['Filter high-pass', [expect.any(String)]],
    ]);
  });

  it('pass into one another: ends exact, switches in the middle, the rest on the way', () => {
    const [a, b] = [
      patch,
      applyVariation(patch, { ...thin, settings: { cutoff: set(0.8), 'osc1-shape': set('sine') } }),
    ];
    const at = (share: number) => morph(sluice, a, b, share).settings;
    expect(morph(sluice, a, b, 0).settings).toEqual(a.settings);
    expect(morph(sluice, a, b, 1).settings).toEqual(b.settings);
    expect(at(0.5)['cutoff']).toEqual(set(0.5));
    expect([at(0.49)['osc1-shape'], at(0.51)['osc1-shape']]).toEqual([set('saw'), set('sine')]);
    const cutoffs = [0, 0.2, 0.4, 0.6, 0.8, 1].map((s) =>
      Number((at(s)['cutoff'] as { value: number }).value),
    );
    cutoffs.slice(1).forEach((c, i) => expect(c).toBeGreaterThan(cutoffs[i]!));
  });
});

describe('a section copied to its twin', () => {
  it('knows its twins', () => {
    expect(twinsOf(cabinet, 'bank-1').map((s) => s.id)).toEqual(['bank-2']);
    expect(twinsOf(cabinet, 'noise-1')).toEqual([]);
  });

  it('takes settings along, and cables between what is copied', () => {
    const patch = patchOn(
      cabinet,
      {},
      'env-1-out>vca-1-cv vca-1-out>line-in env-2-out>ladder-1-cv',
    );
    patch.settings['env-1-attack'] = set(0.3);
    patch.settings['vca-1-curve'] = set('exp');
    delete patch.settings['env-1-decay'];
    patch.settings['env-2-decay'] = set(0.9);
    const after = copySections(cabinet, patch, [
      { from: 'env-1', to: 'env-2' },
      { from: 'vca-1', to: 'vca-2' },
    ]);
    expect(after.settings['env-2-attack']).toEqual(set(0.3));
    expect(after.settings['vca-2-curve']).toEqual(set('exp'));
    expect(after.settings['env-2-decay']).toBeUndefined();
    expect(after.cables.map((c) => `${c.from}>${c.to}`)).toEqual([
      'env-1-out>vca-1-cv',
      'vca-1-out>line-in',
      'env-2-out>vca-2-cv',
    ]);
    expect(checkPatch(after, lockgate)).toEqual([]);
  });
});

describe('a cabinet rearranged in a patch', () => {
  const patch = patchOn(cabinet, {}, 'bank-1-a>ladder-1-in env-1-out>vca-1-cv');
  patch.notes = { 'section:ladder-1': 'here', 'control:level': 'there' };
  patch.checkpoints = [{ after: 'ladder-1', note: 48, hear: 'something' }];

  it('moves a module without touching anything recorded of it', () => {
    const { placed } = lockgate.rack!;
    // Each that has another place, with others giving way or not.
    const moves = placed.flatMap((one) => {
      const others = placed.filter((p) => p !== one);
      const places = openingsFor(lockgate.rack!, others, one.type);
      return places.flatMap((to) => (to.row === one.row && to.at === one.at ? [] : [{ one, to }]));
    });
    expect(moves.length).toBeGreaterThan(0);
    for (const { one, to } of moves) {
      const moved = moveModule(lockgate, patch, one.id, to);
      expect(moved.rack!.find((p) => p.id === one.id)).toEqual({ ...one, row: to.row, at: to.at });
      for (const given of to.aside) expect(moved.rack).toContainEqual(given);
      expect({ ...moved, rack: undefined }).toEqual({ ...patch, rack: undefined });
      expect(checkPatch(moved, lockgate)).toEqual([]);
    }
    // The cabinet's own arrangement, and other patches with it, stay as they are.
    expect(panelOf(lockgate)).toBe(cabinet);
  });

  it('takes one out with all that was recorded of it', () => {
    const after = takeModule(lockgate, patch, 'ladder-1');
    expect(checkPatch(after, lockgate)).toEqual([]);
    expect(after.cables.map((c) => c.id)).toEqual(['c2']);
    expect(after.notes).toEqual({ 'control:level': 'there' });
    expect(after.checkpoints).toEqual([]);
    expect(Object.keys(after.settings).some((k) => k.startsWith('ladder-1-'))).toBe(false);
  });

  it('exchanges one, and keeps what both have', () => {
    const after = exchangeModule(
      lockgate,
      { ...patch, settings: { ...patch.settings, 'ladder-1-cutoff': set(0.4) } },
      'ladder-1',
      'high',
    );
    expect(checkPatch(after, lockgate)).toEqual([]);
    expect(after.settings['high-2-cutoff']).toEqual(set(0.4));
    expect(after.settings['ladder-1-resonance']).toBeUndefined();
    expect(after.cables[0]).toEqual({ id: 'c1', from: 'bank-1-a', to: 'high-2-in' });
  });

  it('puts one more in where there is room, and nowhere else', () => {
    for (const gap of gapsFor(lockgate.rack!, lockgate.rack!.placed, 'invert')) {
      const after = addModule(lockgate, patch, 'invert', gap);
      expect(checkPatch(after, lockgate)).toEqual([]);
      expect(after.rack!.at(-1)!.id).toBe('invert-2');
    }
    expect(gapsFor(lockgate.rack!, lockgate.rack!.placed, 'bank')).toEqual([]);
  });
});
