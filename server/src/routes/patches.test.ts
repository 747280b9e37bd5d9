import { harness } from '../testing/harness';
// After the harness: schemas learn to describe themselves before the first of them is made.
import { type Patch, patchSchema } from '@hurrel/core';
import { demoDescribed, demoPatches } from '../demo/library';

type Harness = Awaited<ReturnType<typeof harness>>;
let h: Harness;
beforeEach(async () => (h = await harness()));
afterEach(() => h.database.close());

describe('the demo library', () => {
  it('holds the instrument and at least two basses, leads, arpeggios and drums', async () => {
    const { body } = await h.call('GET', '/patches');
    expect(body.total).toBe(demoPatches.length + demoDescribed.length);
    for (const role of ['bass', 'lead', 'arpeggio', 'drum']) {
      expect(
        body.items.filter((p: { role: string }) => p.role === role).length,
      ).toBeGreaterThanOrEqual(2);
    }
  });

  it('has readings, ranges, targets, notes, a phrase and places to listen in every patch', async () => {
    const { body } = await h.call('GET', '/patches');
    const kinds = new Set<string>();
    for (const { id } of body.items) {
      const { patch } = (await h.call('GET', `/patches/${id}`)).body;
      for (const s of Object.values<{ kind: string }>(patch.settings)) kinds.add(s.kind);
      expect(patch.phrase.length).toBeGreaterThan(0);
      expect(Object.keys(patch.notes).length).toBeGreaterThan(0);
      expect(patch.checkpoints.length).toBeGreaterThan(0);
    }
    expect([...kinds].sort()).toEqual(['any', 'ear', 'range', 'set']);
  });
});

describe('finding patches', () => {
  const all = demoPatches.map((p) => patchSchema.parse(p));
  const having = (fits: (p: Patch) => boolean): number => all.filter(fits).length;
  const said = (p: Patch): string => `${p.name} ${p.song} ${p.about}`.toLowerCase();
  it.each([
    ['?role=bass', having((p) => p.role === 'bass')],
    ['?song=Winch%20Room', having((p) => p.song === 'Winch Room')],
    ['?instrument=oxbow-sluice', having((p) => p.instrument === 'oxbow-sluice')],
    ['?instrument=nothing', 0],
    ['?q=barge%20engine', having((p) => /barge/.test(said(p)) && /engine/.test(said(p)))],
    ['?q=ROPEWALK', having((p) => said(p).includes('ropewalk'))],
    ['?q=100%25', 0],
  ])('%s finds %p', async (query, count) =>
    expect((await h.call('GET', `/patches${query}`)).body.total).toBe(count),
  );

  it('begins with what is called as was typed, where that is asked for', async () => {
    const { body } = await h.call('GET', '/patches?q=gate&first=called&size=200');
    const named = body.items.map((p: { name: string }) => /gate/i.test(p.name));
    expect([named[0], named.at(-1)]).toEqual([true, false]);
    expect([...named].sort().reverse()).toEqual(named);
    const all = (await h.call('GET', '/patches?q=gate&size=200')).body;
    expect(all.total).toBe(body.total);
    expect((await h.call('GET', '/patches?first=size')).status).toBe(422);
  });

  it('comes in pages', async () => {
    const first = (await h.call('GET', '/patches?size=4')).body;
    const second = (await h.call('GET', '/patches?size=4&page=2')).body;
    expect(first.items).toHaveLength(4);
    expect(second.items.map((p: { id: string }) => p.id)).not.toContain(first.items[0].id);
    expect((await h.call('GET', '/patches?page=0')).status).toBe(422);
  });
});

describe('a new patch', () => {
  const common = { instrument: 'oxbow-sluice', name: 'New', song: 'Ropewalk', role: 'lead' };
  it.each([
    ['start', 47],
    ['init', 47],
    ['nothing', 0],
  ])('from %s has %p settings', async (from, settings) => {
    const made = await h.call('POST', '/patches', { ...common, from });
    expect(made.status).toBe(201);
    expect(made.headers.get('etag')).toBe('"1"');
    expect(Object.keys(made.body.patch.settings)).toHaveLength(settings);
    expect(made.body.patch).toMatchObject({ name: 'New', song: 'Ropewalk', role: 'lead' });
  });

  it('copies another', async () => {
    const bass = await h.byName('Winch Room bass');
    const made = await h.call('POST', '/patches', {
      from: 'patch',
      patchId: bass.id,
      name: 'Copy',
    });
    expect(made.body.patch).toEqual({ ...bass.patch, name: 'Copy' });
    expect(made.body.id).not.toBe(bass.id);
  });

  it('comes whole from a document, and gives it back without loss', async () => {
    const document = (await h.byName('Fog Signal horn')).patch;
    const made = await h.call('POST', '/patches', { patch: document });
    expect((await h.call('GET', `/patches/${made.body.id}`)).body.patch).toEqual(document);
  });
});

describe('a patch that is sent within a body', () => {
  it('has its faults told where they stand in the body', async () => {
    const { patch } = await h.byName('Winch Room bass');
    const pointers = async (change: object): Promise<string[]> => {
      const { status, body } = await h.call('POST', '/patches', { patch: { ...patch, ...change } });
      expect(status).toBe(422);
      return body.errors.map((e: { pointer: string }) => e.pointer);
    };
    const ghost = { kind: 'set', value: 0.5 };
    expect(await pointers({ settings: { ghost } })).toEqual(['/patch/settings/ghost']);
    expect(await pointers({ settings: { cutoff: { kind: 'set', value: 7 } } })).toEqual([
      '/patch/settings/cutoff/value',
    ]);
    expect(await pointers({ colour: 'red' })).toEqual(['/patch/colour']);
    expect(await pointers({ instrument: 'nowhere' })).toEqual(['/patch/instrument']);
    expect(await pointers({ settings: { constructor: ghost } })).toEqual([
      '/patch/settings/constructor',
    ]);
  });
});

describe('saving', () => {
  it('takes the ETag of a compressed answer too', async () => {
    const { id, patch } = await h.byName('Eel Run hat');
    const next = { ...patch, about: 'softer' };
    const saved = await h.call('PUT', `/patches/${id}`, next, { 'if-match': 'W/"1"' });
    expect([saved.status, saved.body.version]).toEqual([200, 2]);
    const late = await h.call('PUT', `/patches/${id}`, patch, { 'if-match': 'W/"1"' });
    expect(late.status).toBe(412);
  });

  it('tells what changed in readings of the panel', async () => {
    const { id, patch } = await h.byName('Winch Room bass');
    const cutoff = { kind: 'set', value: 0.42 };
    const next = { ...patch, settings: { ...patch.settings, cutoff } };
    await h.call('PUT', `/patches/${id}`, next, { 'if-match': '"1"' });
    const changes = await h.call('GET', `/patches/${id}/versions/2/changes`);
    expect(changes.body.items).toEqual([
      {
        pointer: '/settings/cutoff',
        subject: 'Filter cutoff',
        before: '3.5–4, best 3.7',
        after: '4.2',
      },
    ]);
  });
});

describe('progress of a rebuild', () => {
  it('is kept for each panel it began from', async () => {
    const { id } = await h.byName('Eel Run hat');
    expect((await h.call('GET', `/patches/${id}/progress?from=start`)).body.done).toEqual([]);
    await h.call('PUT', `/patches/${id}/progress?from=start`, { done: ['level', 'cutoff'] });
    await h.call('PUT', `/patches/${id}/progress?from=start`, { done: ['level'] });
    expect((await h.call('GET', `/patches/${id}/progress?from=start`)).body.done).toEqual([
      'level',
    ]);
    expect((await h.call('GET', `/patches/${id}/progress?from=init`)).body.done).toEqual([]);
    expect((await h.call('GET', `/patches/nobody/progress?from=init`)).status).toBe(404);
  });
});
