import { jest } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import { API } from '../api/client';
import { PatchSearch } from './patch-search';

interface Query {
  q: string;
  page: string;
  size: string;
  instrument?: string;
}

/** A library of 450 patches, as much of the server as the search asks. */
const names = Array.from({ length: 450 }, (_, i) => `patch ${i}`);
let asked: Query[];
/** Answers wait here while it is slow. */
let held: (() => void)[] | null;
const client = {
  patches: {
    async $get({ query }: { query: Query }) {
      asked.push(query);
      if (held) await new Promise<void>((done) => held?.push(done));
      const all = names.filter((n) => n.includes(query.q));
      const from = 200 * (Number(query.page) - 1);
      const items = all.slice(from, from + 200).map((name) => ({ id: name, name }));
      return { ok: true, status: 200, json: async () => ({ items, total: all.length }) };
    },
    ':id': {
      $get: async ({ param }: { param: { id: string } }) =>
        param.id === 'gone'
          ? { ok: false, status: 404, json: async () => ({}) }
          : { ok: true, status: 200, json: async () => ({ patch: { name: 'Found' } }) },
    },
  },
};

let search: PatchSearch;
const settle = () => jest.advanceTimersByTimeAsync(1000);

beforeEach(() => {
  jest.useFakeTimers();
  [asked, held] = [[], null];
  TestBed.configureTestingModule({
    providers: [PatchSearch, { provide: API, useValue: client }],
  });
  search = TestBed.inject(PatchSearch);
});
afterEach(() => jest.useRealTimers());

it('reads on page after page to the end, and then no more', async () => {
  search.begin('oxbow-sluice');
  await settle();
  expect(search.items()).toHaveLength(200);
  for (let i = 0; i < 4; i++) await search.readOn();
  expect(search.items().map((p) => p.name)).toEqual(names);
  expect(asked.map((q) => q.page)).toEqual(['1', '2', '3']);
  expect(asked[0]).toMatchObject({ instrument: 'oxbow-sluice', size: '200' });
});

it('asks once the hand rests, and only for the last words', async () => {
  search.begin(undefined);
  await settle();
  for (const words of ['p', 'patch 4', 'patch 44']) search.find(words);
  await settle();
  expect(asked.map((q) => q.q)).toEqual(['', 'patch 44']);
  expect(search.items()).toHaveLength(11);
});

it('leaves an answer alone that came too late', async () => {
  held = [];
  search.begin(undefined);
  search.find('patch 44');
  await settle();
  const [first, second] = held;
  held = null;
  second?.();
  await settle();
  first?.();
  await settle();
  expect(search.items()).toHaveLength(11);
});

it('says why there is nothing', async () => {
  expect(search.saying()).toBe('Reading the library');
  search.begin(undefined);
  search.find('no such words');
  await settle();
  expect(search.saying()).toBe('No patch has all of these words.');
});

it('finds out what a patch is called, and says when it is gone', async () => {
  await search.readName('far');
  await search.readName('gone');
  expect([search.nameOf('far'), search.nameOf('gone'), search.nameOf('')]).toEqual([
    'Found',
    'a patch that is gone',
    '',
  ]);
});
