import { blankPatch, type Cable, instrumentSchema, type Patch, type Variation } from '@hurrel/core';
import cabinetFile from '../../../../library/instruments/oxbow-lockgate.json';
import curlewFile from '../../../../library/instruments/staithe-curlew.json';
import { PatchActions } from './patch.actions';
import { initialState, patchFeature, type PatchState, shownPatch } from './patch.reducer';

const curlew = instrumentSchema.parse(curlewFile);
const cabinet = instrumentSchema.parse(cabinetFile);
const { reducer } = patchFeature;
const run = (state: PatchState, ...actions: Parameters<typeof reducer>[1][]): PatchState =>
  actions.reduce(reducer, state);
const opened = (instrument: typeof curlew, patch: Patch): PatchState =>
  run(
    initialState,
    PatchActions.open({ id: 'p' }),
    PatchActions.opened({
      stored: { id: 'p', version: 1, updatedAt: '', document: patch },
      context: instrument,
    }),
  );
const set = (value: number) => ({ kind: 'set', value }) as const;
const cable: Cable = { id: 'c1', from: 'j-lfo', to: 'j-cutoff' };
const dark: Variation = {
  id: 'v1',
  name: 'dark',
  about: '',
  settings: {},
  pulled: [],
  plugged: [],
  rows: [],
};
const patch: Patch = {
  ...blankPatch(curlew, 'base'),
  settings: { cutoff: set(0.6) },
  cables: [cable],
  variations: [dark],
};
const shown = (state: PatchState): Patch => shownPatch(state.present, state.variation)!;

describe('a variation that is shown', () => {
  const start = run(opened(curlew, patch), PatchActions.showVariation({ variation: 'v1' }));

  it('takes what is moved; the patch itself stays', () => {
    const state = run(start, PatchActions.setControl({ control: 'cutoff', setting: set(0.2) }));
    expect(state.present!.settings).toEqual(patch.settings);
    expect(state.present!.variations[0]!.settings).toEqual({ cutoff: set(0.2) });
    expect(shown(state).settings['cutoff']).toEqual(set(0.2));
    const back = run(state, PatchActions.undo());
    expect(back.present).toEqual(patch);
    expect(back.variation).toBe('v1');
  });

  it('departs no longer where it is moved back', () => {
    const state = run(
      start,
      PatchActions.setControl({ control: 'cutoff', setting: set(0.2) }),
      PatchActions.setControl({ control: 'cutoff', setting: set(0.6) }),
    );
    expect(state.present!.variations[0]).toEqual(dark);
  });

  it('takes cables pulled and plugged', () => {
    const other: Cable = { id: 'c2', from: 'j-env', to: 'j-cutoff' };
    const state = run(start, PatchActions.panel({ changes: { cables: [other] } }));
    expect(state.present!.cables).toEqual([cable]);
    expect(state.present!.variations[0]).toMatchObject({ pulled: ['c1'], plugged: [other] });
    expect(shown(state).cables).toEqual([other]);
  });

  it('leaves names, notes and tempo to the patch', () => {
    const state = run(start, PatchActions.change({ changes: { tempo: 90 } }));
    expect(state.present!.tempo).toBe(90);
    expect(state.present!.variations).toEqual([dark]);
  });
});

describe('the patch itself', () => {
  it('takes a pulled cable out of its variations too', () => {
    const pulled = { ...patch, variations: [{ ...dark, pulled: ['c1'] }] };
    const state = run(opened(curlew, pulled), PatchActions.panel({ changes: { cables: [] } }));
    expect(state.present!.variations[0]!.pulled).toEqual([]);
  });

  it('lets go of a field that is set to nothing', () => {
    const state = run(
      opened(curlew, { ...patch, unit: 'u' }),
      PatchActions.change({ changes: { unit: undefined } }),
    );
    expect('unit' in state.present!).toBe(false);
  });
});

describe('a cabinet', () => {
  it('shows its modules where the present patch has them, through undo too', () => {
    const before = opened(cabinet, blankPatch(cabinet, 'rack'));
    expect(before.instrument!.sections.length).toBeGreaterThan(20);
    const rack = [{ id: 'noise-9', type: 'noise', row: 0, at: 0 }];
    const after = run(before, PatchActions.reshape({ patch: { ...before.present!, rack } }));
    expect(after.instrument!.sections.map((s) => s.id)).toEqual(['keys', 'line', 'noise-9']);
    expect(after.context).toBe(before.context);
    expect(run(after, PatchActions.undo()).instrument).toBe(before.instrument);
  });
});
