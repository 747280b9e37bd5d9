import { jest } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore, Store } from '@ngrx/store';
import { blankPatch, instrumentSchema, type Patch } from '@hurrel/core';
import document from '../../../../library/instruments/oxbow-sluice.json';
import { API, type StoredPatch } from '../api/client';
import { findDraft, keepDraft } from './draft';
import { PatchActions } from './patch.actions';
import * as effects from './patch.effects';
import { patchFeature, type PatchState } from './patch.reducer';

const instrument = instrumentSchema.parse(document);
const answerWith = (status: number, body: unknown) =>
  Promise.resolve({ ok: status < 400, status, json: () => Promise.resolve(body) });

/** A server of one patch, as much of it as the effects speak to. */
class FakeServer {
  stored: StoredPatch = {
    id: 'p',
    version: 1,
    createdAt: '',
    updatedAt: '',
    patch: blankPatch(instrument, 'first'),
  };
  away = false;
  refuses = false;
  writes = 0;

  readonly client = {
    patches: {
      ':id': {
        $get: () => (this.away ? Promise.reject(new Error('away')) : answerWith(200, this.stored)),
        $put: ({ header, json }: { header: Record<string, string>; json: Patch }) =>
          this.put(header['if-match']!, json),
      },
    },
    instruments: { ':id': { $get: () => answerWith(200, instrument) } },
  };

  private put(ifMatch: string, patch: Patch) {
    if (this.away) return Promise.reject(new Error('away'));
    this.writes++;
    if (this.refuses) return answerWith(422, { detail: '/tempo: too fast' });
    if (ifMatch !== `"${this.stored.version}"`) {
      return answerWith(412, { detail: 'changed', current: this.stored });
    }
    this.stored = { ...this.stored, version: this.stored.version + 1, patch };
    return answerWith(200, this.stored);
  }
}

let server: FakeServer;
let store: Store;
const state = (): PatchState => store.selectSignal(patchFeature.selectPatchState)();
const turn = (value: number) =>
  store.dispatch(PatchActions.setControl({ control: 'cutoff', setting: { kind: 'set', value } }));

/** Lets timers and promises run until something holds. */
async function until(holds: () => boolean): Promise<void> {
  for (let i = 0; i < 400 && !holds(); i++) await jest.advanceTimersByTimeAsync(50);
  expect(holds()).toBe(true);
}

beforeEach(() => {
  jest.useFakeTimers();
  localStorage.clear();
  server = new FakeServer();
  TestBed.configureTestingModule({
    providers: [
      provideStore(),
      provideState(patchFeature),
      provideEffects(effects),
      { provide: API, useValue: server.client },
    ],
  });
  store = TestBed.inject(Store);
});
afterEach(() => jest.useRealTimers());

const open = async (): Promise<void> => {
  store.dispatch(PatchActions.open({ id: 'p' }));
  await until(() => state().present !== null);
};

describe('opening', () => {
  it('reads patch and instrument', async () => {
    await open();
    expect(state()).toMatchObject({ present: { name: 'first' }, save: { kind: 'saved' } });
    expect(state().instrument!.id).toBe(instrument.id);
  });

  it('says why it cannot', async () => {
    server.away = true;
    store.dispatch(PatchActions.open({ id: 'p' }));
    await until(() => state().error !== null);
    expect(state().error).toBe('The server does not answer.');
  });

  it('takes up what had not been saved, and saves it', async () => {
    keepDraft('p', { version: 1, patch: { ...server.stored.patch, tempo: 77 } });
    await open();
    expect(state().present!.tempo).toBe(77);
    await until(() => server.stored.patch.tempo === 77 && state().save.kind === 'saved');
    expect(findDraft('p')).toBeUndefined();
  });

  it('asks when somebody else went on meanwhile', async () => {
    keepDraft('p', { version: 1, patch: { ...server.stored.patch, tempo: 77 } });
    server.stored = { ...server.stored, version: 4, patch: { ...server.stored.patch, tempo: 90 } };
    await open();
    await until(() => state().save.kind === 'conflict');
    expect(server.writes).toBe(0);
    expect(state().present!.tempo).toBe(77);
  });
});

describe('saving', () => {
  it('gathers quick edits into one version', async () => {
    await open();
    for (const value of [0.1, 0.2, 0.3]) turn(value);
    expect(findDraft('p')!.patch.settings['cutoff']).toEqual({ kind: 'set', value: 0.3 });
    await until(() => state().save.kind === 'saved');
    expect([server.writes, server.stored.version]).toEqual([1, 2]);
    expect(findDraft('p')).toBeUndefined();
  });

  it('goes on with what was edited while it saved', async () => {
    await open();
    turn(0.1);
    await jest.advanceTimersByTimeAsync(360);
    turn(0.9);
    await until(() => state().save.kind === 'saved');
    expect(server.stored.patch.settings['cutoff']).toEqual({ kind: 'set', value: 0.9 });
  });

  it('waits while the server is away, and tries again', async () => {
    await open();
    server.away = true;
    turn(0.4);
    await until(() => state().save.kind === 'offline');
    server.away = false;
    await until(() => state().save.kind === 'saved');
    expect(server.stored.patch.settings['cutoff']).toEqual({ kind: 'set', value: 0.4 });
  });

  it('says what the server refused, and keeps it', async () => {
    await open();
    server.refuses = true;
    turn(0.4);
    await until(() => state().save.kind === 'refused');
    expect(state().save).toEqual({ kind: 'refused', message: '/tempo: too fast' });
    expect(findDraft('p')).toBeDefined();
  });

  it('never writes over what is newer; the decision is saved on top of it', async () => {
    await open();
    server.stored = { ...server.stored, version: 7, patch: { ...server.stored.patch, tempo: 90 } };
    turn(0.4);
    await until(() => state().save.kind === 'conflict');
    expect(server.stored.version).toBe(7);
    const { save, present } = state();
    if (save.kind !== 'conflict') throw new Error('no conflict');
    store.dispatch(PatchActions.resolveConflict({ patch: present!, theirs: save.theirs }));
    await until(() => state().save.kind === 'saved');
    expect(server.stored.version).toBe(8);
  });
});
