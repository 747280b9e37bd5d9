import { harness } from '../testing/harness';

type Harness = Awaited<ReturnType<typeof harness>>;
type Document = Record<string, unknown>;
let h: Harness;
beforeEach(async () => (h = await harness()));
afterEach(() => h.database.close());

const tag = (version: number) => ({ 'if-match': `"${version}"` });

/** Every kind of document: where it is, its key, how one is made, and two changes of it with what is told of the first. */
const SONG = {
  id: 'a',
  name: 'Eel Run',
  plays: [],
  pause: 60,
  kind: 'song',
  seconds: 0,
  wished: false,
  fixed: false,
  note: '',
};

const kinds = [
  {
    path: '/patches',
    key: 'patch',
    body: (document: Document) => ({ patch: document }),
    make: async () => ({ ...(await h.byName('Winch Room bass')).patch }) as Document,
    change: { tempo: 101 },
    other: { tempo: 90 },
    told: { pointer: '/tempo', subject: 'Tempo', after: '101 bpm' },
  },
  {
    path: '/units',
    key: 'unit',
    body: (document: Document) => document,
    make: async () => ({
      instrument: 'marram-estuary',
      name: 'spare',
      note: '',
      calibration: {},
      slots: [{ bank: 1, slot: 1, name: 'INIT', needed: true, note: '' }],
    }),
    change: { slots: [{ bank: 1, slot: 1, name: 'HORN', needed: true, note: '' }] },
    other: { name: 'late' },
    told: { pointer: '/slots/1-1', subject: 'Memory A01', after: 'HORN, needed' },
  },
  {
    path: '/sessions',
    key: 'session',
    body: (document: Document) => document,
    make: async () => ({
      format: 'hurrel-session',
      version: 1,
      name: 'Night Lock, at Hallow Staithe',
      song: '',
      tempo: 104,
      about: '',
      parts: [{ id: 'a', name: 'in', bars: 4 }],
      passes: [],
    }),
    change: { parts: [{ id: 'a', name: 'in', bars: 8 }] },
    other: { tempo: 90 },
    told: { pointer: '/parts/a', subject: 'Part in', after: 'in, 8 bars' },
  },
  {
    path: '/evenings',
    key: 'evening',
    body: (document: Document) => document,
    make: async () => ({
      format: 'hurrel-set',
      version: 1,
      name: 'Skerrow Lock',
      place: '',
      about: '',
      calls: {},
      people: [],
      panels: [],
      songs: [SONG],
    }),
    change: { songs: [{ ...SONG, pause: 90, fixed: true }] },
    other: { place: 'the lower lock' },
    told: {
      pointer: '/songs/a',
      subject: 'Song Eel Run',
      after: '1, 0 panels, 90 s before it, stays',
    },
  },
];

describe.each(kinds)('documents at $path', ({ path, key, body, make, change, other, told }) => {
  let document: Document;
  let at: string;
  const read = async (where = at) => (await h.call('GET', where)).body;
  const put = (next: Document, headers?: Record<string, string>) =>
    h.call('PUT', at, next, headers);

  beforeEach(async () => {
    document = await make();
    const made = await h.call('POST', path, body(document));
    expect([made.status, made.headers.get('etag')]).toEqual([201, '"1"']);
    at = `${path}/${made.body.id}`;
  });

  it('are given back as they were stored', async () => {
    const answer = await h.call('GET', at);
    expect([answer.body.version, answer.headers.get('etag')]).toEqual([1, '"1"']);
    expect(answer.body[key]).toEqual(document);
  });

  it('get a version on top of the one that was read, and keep the one before', async () => {
    const next = { ...document, ...change };
    const saved = await put(next, tag(1));
    expect([saved.status, saved.body.version, saved.headers.get('etag')]).toEqual([200, 2, '"2"']);
    expect((await read())[key]).toEqual(next);
    expect((await read(`${at}/versions/1`))[key]).toEqual(document);
    const changes = await read(`${at}/versions/2/changes`);
    expect(changes.since).toBe(1);
    expect(changes.items).toEqual([expect.objectContaining(told)]);
  });

  it('get none when nothing has changed', async () => {
    expect((await put(document, tag(1))).body.version).toBe(1);
  });

  it('refuse a stale write with what is newer, and store nothing of it', async () => {
    await put({ ...document, ...change }, tag(1));
    const stale = await put({ ...document, ...other }, tag(1));
    expect(stale.status).toBe(412);
    expect(stale.headers.get('content-type')).toContain('application/problem+json');
    expect(stale.body.current).toMatchObject({ version: 2, [key]: change });
    expect((await read(`${at}/versions`)).total).toBe(2);
  });

  it('let one of many writers at once through', async () => {
    const writes = Array.from({ length: 12 }, (_, i) =>
      put({ ...document, name: `one of many, ${i}` }, tag(1)),
    );
    const statuses = (await Promise.all(writes)).map((w) => w.status).sort();
    expect(statuses).toEqual([200, ...Array<number>(11).fill(412)]);
  });

  it('ask for the version that was read', async () => {
    expect((await put(document)).status).toBe(428);
    expect((await put(document, { 'if-match': 'seven' })).status).toBe(422);
    expect((await put({ ...document, ...change }, { 'if-match': '*' })).status).toBe(200);
  });

  it('go back to any version as a new one', async () => {
    await put({ ...document, ...change }, tag(1));
    const back = await h.call('POST', `${at}/versions/1/restore`, undefined, tag(2));
    expect(back.body).toMatchObject({ version: 3, [key]: document });
    const { items } = await read(`${at}/versions`);
    expect(items.map((v: { origin: string }) => v.origin)).toEqual([
      'version 1 again',
      'edited',
      'created',
    ]);
  });

  it('are removed by whoever has read them, and taken back', async () => {
    expect((await h.call('DELETE', at)).status).toBe(428);
    expect((await h.call('DELETE', at, undefined, tag(9))).status).toBe(412);
    expect((await h.call('DELETE', at, undefined, tag(1))).status).toBe(200);
    expect((await h.call('GET', at)).status).toBe(404);
    expect((await h.call('POST', `${at}/restore`)).body[key]).toEqual(document);
    expect((await h.call('GET', at)).status).toBe(200);
  });

  it('come in pages', async () => {
    for (const name of ['Aft', 'Bow', 'Cuddy']) {
      await h.call('POST', path, body({ ...document, name }));
    }
    const first = await read(`${path}?size=2`);
    const second = await read(`${path}?size=2&page=2`);
    expect(first.items).toHaveLength(2);
    expect(first.total).toBeGreaterThanOrEqual(4);
    expect(second.items.map((p: { id: string }) => p.id)).not.toContain(first.items[0].id);
    expect((await h.call('GET', `${path}?page=0`)).status).toBe(422);
  });

  it('never have a version changed or removed, not even by hand', async () => {
    const table = `${key}_version`;
    const byHand = (sql: string) => h.database.write((manager) => manager.query(sql));
    await expect(byHand(`UPDATE ${table} SET document = '{}'`)).rejects.toThrow(/never changed/);
    await expect(byHand(`DELETE FROM ${table}`)).rejects.toThrow(/never removed/);
  });

  it('gives a version a name that stands beside it, and takes it away', async () => {
    await h.call('PUT', at, { ...document, ...change }, tag(1));
    const name = (text: string, number = 1) =>
      h.call('PUT', `${at}/versions/${number}/name`, { name: text });
    const names = async () =>
      (await read(`${at}/versions`)).items.map((v: { name: string }) => v.name);
    expect((await name('as played at Skerrow Lock')).status).toBe(200);
    expect(await names()).toEqual(['', 'as played at Skerrow Lock']);
    await name('as played, slower');
    expect(await names()).toEqual(['', 'as played, slower']);
    expect((await name('', 1)).body).toEqual({ name: '' });
    expect(await names()).toEqual(['', '']);
    expect((await name('x', 3)).status).toBe(404);
    expect((await name('x'.repeat(81))).body.errors[0].pointer).toBe('/name');
  });

  it('tells what was removed, until it is taken back', async () => {
    const gone = async () => {
      const { body } = await h.call('GET', '/removed');
      return (body.items as { kind: string; id: string }[]).filter((i) => i.kind === key);
    };
    const { id } = await read();
    await h.call('DELETE', at, undefined, tag(1));
    expect(await gone()).toEqual([expect.objectContaining({ id, removedAt: expect.any(String) })]);
    await h.call('POST', `${at}/restore`);
    expect(await gone()).toEqual([]);
  });
});
