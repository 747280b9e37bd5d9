import { harness } from '../testing/harness';
// After the harness: schemas learn to describe themselves before the first of them is made.
import { type Patch, patchSchema } from '@hurrel/core';
import { demoPatches } from '../demo/library';

type Harness = Awaited<ReturnType<typeof harness>>;
let h: Harness;
beforeEach(async () => (h = await harness()));
afterEach(() => h.database.close());

const tag = (version: number) => ({ 'if-match': `"${version}"` });

describe('the demo library', () => {
  it('holds the instrument and at least two basses, leads, arpeggios and drums', async () => {
    const { body } = await h.call('GET', '/patches');
    expect(body.total).toBe(demoPatches.length);
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

describe('saving', () => {
  it('writes a version on top of the one that was read', async () => {
    const { id, patch } = await h.byName('Winch Room bass');
    const next = {
      ...patch,
      settings: { ...patch.settings, cutoff: { kind: 'set', value: 0.42 } },
    };
    const saved = await h.call('PUT', `/patches/${id}`, next, tag(1));
    expect([saved.status, saved.body.version, saved.headers.get('etag')]).toEqual([200, 2, '"2"']);
    expect((await h.call('GET', `/patches/${id}`)).body.patch).toEqual(next);
    expect((await h.call('GET', `/patches/${id}/versions/1`)).body.patch).toEqual(patch);
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

  it('writes none when nothing has changed', async () => {
    const { id, patch } = await h.byName('Winch Room bass');
    expect((await h.call('PUT', `/patches/${id}`, patch, tag(1))).body.version).toBe(1);
  });

  it('refuses a stale write with what is newer, and stores nothing of it', async () => {
    const { id, patch } = await h.byName('Winch Room bass');
    await h.call('PUT', `/patches/${id}`, { ...patch, tempo: 100 }, tag(1));
    const stale = await h.call('PUT', `/patches/${id}`, { ...patch, tempo: 90 }, tag(1));
    expect(stale.status).toBe(412);
    expect(stale.headers.get('content-type')).toContain('application/problem+json');
    expect(stale.body.current).toMatchObject({ version: 2, patch: { tempo: 100 } });
    expect((await h.call('GET', `/patches/${id}/versions`)).body.total).toBe(2);
  });

  it('lets one of many writers at once through', async () => {
    const { id, patch } = await h.byName('Winch Room bass');
    const writes = Array.from({ length: 12 }, (_, i) =>
      h.call('PUT', `/patches/${id}`, { ...patch, tempo: 60 + i }, tag(1)),
    );
    const statuses = (await Promise.all(writes)).map((w) => w.status).sort();
    expect(statuses).toEqual([200, ...Array<number>(11).fill(412)]);
  });

  it('asks for the version that was read', async () => {
    const { id, patch } = await h.byName('Winch Room bass');
    expect((await h.call('PUT', `/patches/${id}`, patch)).status).toBe(428);
    expect((await h.call('PUT', `/patches/${id}`, patch, { 'if-match': 'seven' })).status).toBe(
      422,
    );
    expect(
      (await h.call('PUT', `/patches/${id}`, { ...patch, tempo: 99 }, { 'if-match': '*' })).status,
    ).toBe(200);
  });

  it('goes back to any version as a new one', async () => {
    const { id, patch } = await h.byName('Winch Room bass');
    await h.call('PUT', `/patches/${id}`, { ...patch, tempo: 100 }, tag(1));
    const back = await h.call('POST', `/patches/${id}/versions/1/restore`, undefined, tag(2));
    expect(back.body).toMatchObject({ version: 3, patch });
    const { items } = (await h.call('GET', `/patches/${id}/versions`)).body;
    expect(items.map((v: { origin: string }) => v.origin)).toEqual([
      'version 1 again',
      'edited',
      'demo library',
    ]);
  });

  it('never changes or removes a version, not even by hand', async () => {
    await expect(
      h.database.source.query(`UPDATE patch_version SET document = '{}'`),
    ).rejects.toThrow(/never changed/);
    await expect(h.database.source.query(`DELETE FROM patch_version`)).rejects.toThrow(
      /never removed/,
    );
  });
});

describe('deleting', () => {
  it('takes a patch out of the library, and back', async () => {
    const { id, patch } = await h.byName('Eel Run hat');
    expect((await h.call('DELETE', `/patches/${id}`)).status).toBe(428);
    expect((await h.call('DELETE', `/patches/${id}`, undefined, tag(9))).status).toBe(412);
    expect((await h.call('DELETE', `/patches/${id}`, undefined, tag(1))).status).toBe(200);
    expect((await h.call('GET', `/patches/${id}`)).status).toBe(404);
    expect((await h.call('POST', `/patches/${id}/restore`)).body.patch).toEqual(patch);
    expect((await h.call('GET', `/patches/${id}`)).status).toBe(200);
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
