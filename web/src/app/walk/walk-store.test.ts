import { TestBed } from '@angular/core/testing';
import type { Marks } from '@hurrel/core';
import { Tab } from '../document/tab';
import type { Walk } from './walk.api';
import { WalkStore } from './walk-store';

const walk = (id: string, createdAt = '2026-12-12T20:00:00.000Z', evening = 'e'): Walk => ({
  id,
  evening,
  kind: 'stage',
  before: {},
  createdAt,
  endedAt: null,
});
const said = (key: string, clock = 1, value = 'done'): Marks => ({
  [key]: { value, clock, device: 'tab', at: '2026-12-12T21:00:00.000Z' },
});

let store: WalkStore;
beforeEach(() => {
  localStorage.clear();
  TestBed.configureTestingModule({ providers: [{ provide: Tab, useValue: { id: 'tab' } }] });
  store = TestBed.inject(WalkStore);
});

describe('walks on this device', () => {
  it('are found as they were kept', () => {
    const kept = { walk: walk('w'), marks: said('work/a/p/x'), waiting: said('work/a/p/x') };
    store.keep(kept);
    expect(store.find('w')).toEqual(kept);
    expect(store.find('none')).toBeUndefined();
  });

  it('of two tabs come together: neither takes the other’s ticks away', () => {
    store.keep({ walk: walk('w'), marks: said('work/a/p/x'), waiting: {} });
    store.keep({ walk: walk('w'), marks: said('work/a/p/y'), waiting: {} });
    expect(Object.keys(store.find('w')!.marks)).toEqual(['work/a/p/x', 'work/a/p/y']);
  });

  it('are read again where another tab wrote since', () => {
    store.keep({ walk: walk('w'), marks: said('work/a/p/x'), waiting: {} });
    const theirs = { walk: walk('w'), marks: said('work/a/p/x', 2, 'open'), waiting: {} };
    localStorage.setItem('hurrel.walk.w', JSON.stringify(theirs));
    expect(store.find('w')).toEqual(theirs);
    store.keep({ walk: walk('w'), marks: said('work/a/p/y'), waiting: {} });
    expect(store.find('w')!.marks).toEqual({ ...theirs.marks, ...said('work/a/p/y') });
    localStorage.removeItem('hurrel.walk.w');
    expect(store.find('w')).toBeUndefined();
  });

  it('of a set are told, the latest first', () => {
    store.keep({ walk: walk('old'), marks: {}, waiting: {} });
    store.keep({ walk: walk('new', '2026-12-13T20:00:00.000Z'), marks: {}, waiting: {} });
    store.keep({ walk: walk('other', '2026-12-14T20:00:00.000Z', 'f'), marks: {}, waiting: {} });
    expect(store.of('e').map((w) => w.id)).toEqual(['new', 'old']);
  });

  it('that cannot be read, or not be kept, are no fault of the page', () => {
    localStorage.setItem('hurrel.walk.w', '{"walk":');
    expect(store.find('w')).toBeUndefined();
    expect(store.of('e')).toEqual([]);
    const setItem = Object.getOwnPropertyDescriptor(Storage.prototype, 'setItem')!;
    Object.defineProperty(Storage.prototype, 'setItem', {
      configurable: true,
      value: () => {
        throw new Error('full');
      },
    });
    store.keep({ walk: walk('w'), marks: said('work/a/p/x'), waiting: {} });
    expect(store.refused()).toBe(true);
    Object.defineProperty(Storage.prototype, 'setItem', setItem);
    store.keep({ walk: walk('w'), marks: said('work/a/p/x'), waiting: {} });
    expect(store.refused()).toBe(false);
  });
});
