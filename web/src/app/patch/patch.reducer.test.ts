import {
  blankPatch,
  type Instrument,
  instrumentSchema,
  type Patch,
  patchSchema,
  type Setting,
} from '@hurrel/core';
import document from '../../../../library/instruments/oxbow-sluice.json';
import sedgeFile from '../../../../library/instruments/oxbow-sedge.json';
import eightFile from '../../../../library/patches/eel-run-eight.json';
import type { Stored } from '../document/document';
import { PatchActions } from './patch.actions';
import { initialState, patchFeature, type PatchState } from './patch.reducer';

const instrument: Instrument = instrumentSchema.parse(document);
const { reducer } = patchFeature;
const set = (value: number): Setting => ({ kind: 'set', value });
const store = (patch: Patch, version = 1): Stored<Patch> => ({
  id: 'p',
  version,
  updatedAt: '',
  document: patch,
});
const run = (state: PatchState, ...actions: Parameters<typeof reducer>[1][]): PatchState =>
  actions.reduce(reducer, state);

const first = blankPatch(instrument, 'first');
const open = (): PatchState =>
  run(
    initialState,
    PatchActions.open({ id: 'p' }),
    PatchActions.opened({ stored: store(first), context: instrument }),
  );
const turn = (control: string, value: number, gesture?: string) =>
  PatchActions.setControl({ control, setting: set(value), ...(gesture ? { gesture } : {}) });

describe('undo and redo', () => {
  it('go back and forth exactly', () => {
    const states = [open()];
    const edits = [
      turn('cutoff', 0.3),
      PatchActions.note({ key: 'control:cutoff', text: 'dark' }),
      PatchActions.change({ changes: { tempo: 99 } }),
      PatchActions.setControls({ settings: { cutoff: null, drive: set(0.2) } }),
      PatchActions.mend({ mend: { text: '', settings: { level: set(0.7) } } }),
    ];
    for (const edit of edits) states.push(reducer(states.at(-1), edit));
    let state = states.at(-1)!;
    for (let i = edits.length - 1; i >= 0; i--) {
      state = reducer(state, PatchActions.undo());
      expect(state.present).toEqual(states[i]!.present);
    }
    expect(reducer(state, PatchActions.undo())).toBe(state);
    for (let i = 1; i <= edits.length; i++) {
      state = reducer(state, PatchActions.redo());
      expect(state.present).toEqual(states[i]!.present);
    }
  });

  it('take one drag as one step, and two as two', () => {
    const dragged = run(
      open(),
      turn('cutoff', 0.1, 'a'),
      turn('cutoff', 0.2, 'a'),
      turn('cutoff', 0.3, 'b'),
    );
    expect(dragged.past).toHaveLength(2);
    expect(run(dragged, PatchActions.undo()).present!.settings['cutoff']).toEqual(set(0.2));
  });

  it('count no edit that changes nothing, and forget the redone after a new one', () => {
    const state = run(open(), turn('cutoff', 0.1));
    expect(reducer(state, turn('cutoff', 0.1))).toBe(state);
    const other = run(state, PatchActions.undo(), turn('drive', 0.5));
    expect(other.future).toEqual([]);
  });
});

describe('knobs that are steps of a pattern', () => {
  const sedge = instrumentSchema.parse(sedgeFile);
  const eight = patchSchema.parse(eightFile);
  const rows = sedge.sequencers[0]!;
  const knob = rows.rows[0]!.controls[3]!;
  const opened = (): PatchState =>
    run(
      initialState,
      PatchActions.open({ id: 'p' }),
      PatchActions.opened({ stored: store(eight), context: sedge }),
    );
  const voltsOf = (state: PatchState) => state.present!.patterns[0]!.tracks[0]!.rows['up']!;

  it('say the same on the panel and in it, whichever is edited; one step back undoes both', () => {
    const before = opened();
    const knobTurned = reducer(before, turn(knob, 0.9));
    expect(voltsOf(knobTurned)[3]).not.toBe(voltsOf(before)[3]);
    const pattern = before.present!.patterns[0]!;
    const [track] = pattern.tracks;
    const up = track!.rows['up']!.map((v, i) => (i === 3 ? 0 : v));
    const written = { ...pattern, tracks: [{ ...track!, rows: { ...track!.rows, up } }] };
    const edit = PatchActions.change({ changes: { patterns: [written] } });
    const rowsWritten = reducer(knobTurned, edit);
    expect(rowsWritten.present!.settings[knob]).not.toEqual(knobTurned.present!.settings[knob]);
    const back = run(rowsWritten, PatchActions.undo(), PatchActions.undo());
    expect(back.present).toEqual(before.present);
  });
});

describe('saving', () => {
  it('waits, saves, is saved', () => {
    const edited = run(open(), turn('cutoff', 0.1));
    expect([edited.save.kind, edited.changes]).toEqual(['waiting', 1]);
    const saving = run(edited, PatchActions.saving());
    expect(saving.save.kind).toBe('saving');
    const saved = run(saving, PatchActions.saved({ stored: store(edited.present!, 2) }));
    expect([saved.save.kind, saved.changes, saved.stored!.version]).toEqual(['saved', 0, 2]);
  });

  it('still waits for what was edited meanwhile', () => {
    const edited = run(open(), turn('cutoff', 0.1), PatchActions.saving());
    const more = run(
      edited,
      turn('cutoff', 0.2),
      PatchActions.saved({ stored: store(edited.present!, 2) }),
    );
    expect(more.save.kind).toBe('waiting');
    expect(more.present!.settings['cutoff']).toEqual(set(0.2));
  });

  it('counts what waits while offline', () => {
    const state = run(
      open(),
      turn('cutoff', 0.1),
      PatchActions.saveOffline({ reached: false }),
      turn('drive', 0.2),
      turn('level', 0.2),
    );
    expect([state.save.kind, state.changes]).toEqual(['offline', 3]);
  });

  it('is saved again once everything has been undone', () => {
    expect(run(open(), turn('cutoff', 0.1), PatchActions.undo()).save.kind).toBe('saved');
  });
});

describe('a conflict', () => {
  const theirs = store({ ...first, tempo: 77 }, 5);
  const stuck = (): PatchState =>
    run(open(), turn('cutoff', 0.1), PatchActions.conflict({ theirs }));

  it('stands until it is decided', () => {
    expect(run(stuck(), turn('drive', 0.3)).save.kind).toBe('conflict');
  });

  it('keeps mine, to be saved on top of theirs', () => {
    const mine = stuck().present!;
    const state = run(stuck(), PatchActions.resolveConflict({ next: mine, theirs }));
    expect([state.present, state.stored!.version, state.save.kind]).toEqual([mine, 5, 'waiting']);
  });

  it('takes theirs, and can still undo to mine', () => {
    const state = run(stuck(), PatchActions.resolveConflict({ next: theirs.document, theirs }));
    expect([state.present, state.save.kind]).toEqual([theirs.document, 'saved']);
    expect(run(state, PatchActions.undo()).present!.settings['cutoff']).toEqual(set(0.1));
  });
});
