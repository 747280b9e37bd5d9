import { TestBed } from '@angular/core/testing';
import { Drafts } from './drafts';
import { Tab } from './tab';

const parse = (source: unknown): number => {
  if (typeof source !== 'number') throw new Error('no number');
  return source;
};

/** Tabs of one browser: each with a name, and those that live. */
const living = new Set<string>();
function tab(id: string): Drafts {
  living.add(id);
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [{ provide: Tab, useValue: { id, living: () => Promise.resolve(living) } }],
  });
  return TestBed.inject(Drafts);
}

beforeEach(() => {
  localStorage.clear();
  living.clear();
});

describe('drafts', () => {
  it('are kept for each document, and dropped', async () => {
    const drafts = tab('one');
    drafts.keep('unit', 'a', { version: 3, document: 7 });
    expect(await drafts.find('unit', 'a', parse)).toEqual({ version: 3, document: 7 });
    expect(await drafts.find('unit', 'b', parse)).toBeUndefined();
    expect(await drafts.find('session', 'a', parse)).toBeUndefined();
    drafts.drop('unit', 'a', 8);
    expect(await drafts.find('unit', 'a', parse)).toBeDefined();
    drafts.drop('unit', 'a', 7);
    expect(await drafts.find('unit', 'a', parse)).toBeUndefined();
  });

  it('of two tabs on one document leave each other alone', async () => {
    const one = tab('one');
    one.keep('unit', 'a', { version: 3, document: 1 });
    const two = tab('two');
    expect(await two.find('unit', 'a', parse)).toBeUndefined();
    two.keep('unit', 'a', { version: 4, document: 2 });
    two.drop('unit', 'a');
    expect(await one.find('unit', 'a', parse)).toEqual({ version: 3, document: 1 });
  });

  it('that a closed tab left are taken up by the next, once', async () => {
    tab('one').keep('unit', 'a', { version: 3, document: 1 });
    living.delete('one');
    const two = tab('two');
    expect(await two.find('unit', 'a', parse)).toEqual({ version: 3, document: 1 });
    living.delete('two');
    expect(Object.keys(localStorage)).toEqual(['hurrel.draft.unit.a.two']);
    expect(await tab('three').find('unit', 'a', parse)).toEqual({ version: 3, document: 1 });
  });

  it('that cannot be read stay where they are, and hinder nobody', async () => {
    const drafts = tab('one');
    localStorage.setItem('hurrel.draft.unit.a.gone', '{"version":1,"document":"text"}');
    localStorage.setItem('hurrel.draft.unit.a.lost', 'no JSON');
    expect(await drafts.find('unit', 'a', parse)).toBeUndefined();
    expect(localStorage.length).toBe(2);
  });

  it('say when the device’s store does not take them', () => {
    const drafts = tab('one');
    const setItem = Object.getOwnPropertyDescriptor(Storage.prototype, 'setItem')!;
    Storage.prototype.setItem = () => {
      throw new DOMException('full', 'QuotaExceededError');
    };
    expect(drafts.keep('unit', 'a', { version: 1, document: 1 })).toBe(false);
    Object.defineProperty(Storage.prototype, 'setItem', setItem);
  });
});
