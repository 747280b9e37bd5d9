import { createHash } from 'node:crypto';
import { harness, temporary } from '../testing/harness';
import { join } from 'node:path';
import { instrumentOf, readOutline } from '@hurrel/core';
import { unzipped, zipped } from '../testing/zips';
import { openDatabase } from '../db/database';
import { PARCEL_VERSION } from './manifest';

type Harness = Awaited<ReturnType<typeof harness>>;
const text = `Crane by Saltpan\n\nFilter:\ncutoff 0..10\nwave saw/pulse`;
const panel = (outline: string) => ({
  ...instrumentOf(readOutline(outline).outline, outline),
  id: 'saltpan-crane',
});
const tag = (version: number) => ({ 'if-match': `"${version}"` });

/** A library with nothing in it. */
async function empty(): Promise<Harness> {
  const file = join(temporary(), 'empty.db');
  await (await openDatabase(file)).close();
  return harness({}, file);
}
const send = async (h: Harness, bytes: Uint8Array) => {
  const response = await h.app.request('/api/v1/parcels', { method: 'POST', body: bytes });
  // oxlint-disable-next-line typescript/no-explicit-any
  return { status: response.status, body: (await response.json()) as any };
};
const standings = (body: { items: { key: string; standing: string }[] }) =>
  Object.fromEntries(body.items.map((i) => [i.key, i.standing]));
const take = (h: Harness, token: string, decisions: Record<string, string> = {}) =>
  h.call('POST', `/parcels/${token}`, { decisions });

/** A library with a patch on each of two descriptions of one instrument. */
async function withCrane() {
  const h = await harness();
  await h.call('POST', '/instruments', panel(text));
  const record = async (name: string) => {
    const made = await h.call('POST', '/patches', {
      from: 'nothing',
      instrument: 'saltpan-crane',
      name,
    });
    const settings = { 'filter-cutoff': { kind: 'set', value: 0.4 } };
    await h.call('PUT', `/patches/${made.body.id}`, { ...made.body.patch, settings }, tag(1));
    return made.body.id as string;
  };
  const first = await record('First');
  await h.call('PUT', '/instruments/saltpan-crane', panel(text.replace('0..10', '0..5')), tag(1));
  const second = await record('Second');
  return { h, first, second };
}

describe('a parcel', () => {
  it('carries a whole library into an empty one, every reading, every take, and is the same there', async () => {
    const { h, first, second } = await withCrane();
    const { body: bytes } = await h.call('GET', '/parcel.zip');
    const there = await empty();
    const looked = await send(there, bytes);
    expect(new Set(Object.values(standings(looked.body)))).toEqual(new Set(['new']));
    expect((await there.call('GET', '/patches')).body.total).toBe(0);
    const taken = await take(there, looked.body.token);
    expect([taken.status, taken.body.shortened]).toEqual([200, []]);
    const list = async (lib: Harness) => {
      const { items } = (await lib.call('GET', '/patches?size=200')).body;
      return Promise.all(
        items.map(async ({ id }: { id: string }) => {
          const { edition: _, ...patch } = (await lib.call('GET', `/patches/${id}`)).body.patch;
          return patch;
        }),
      );
    };
    expect(await list(there)).toEqual(await list(h));
    for (const id of [first, second]) {
      const rebuilt = async (lib: Harness) =>
        (await lib.call('POST', '/rebuild', { from: 'start', to: { patchId: id } })).body.steps;
      expect(await rebuilt(there)).toEqual(await rebuilt(h));
    }
    const sessions = async (lib: Harness) => (await lib.call('GET', '/sessions')).body.items;
    expect((await sessions(there)).length).toBe((await sessions(h)).length);
    // Sent once more it brings nothing.
    const again = await send(there, bytes);
    const kinds = standings(again.body);
    expect(
      Object.entries(kinds).filter(([key, s]) => s !== 'same' && !key.startsWith('session')),
    ).toEqual([]);
  });

  it('carries a set with the patches that it plays, which it finds again when they come in beside mine', async () => {
    const h = await harness();
    const [set] = (await h.call('GET', '/evenings')).body.items;
    const { body: bytes } = await h.call('GET', `/parcel.zip?evenings=${set.id}`);
    const names = [...(await unzipped(bytes)).keys()];
    expect(names.filter((n) => n.startsWith('sets/'))).toHaveLength(1);
    const played = new Set(
      set.evening.songs.flatMap((s: { plays: { patch: string }[] }) => s.plays.map((p) => p.patch)),
    );
    expect(names.filter((n) => n.startsWith('patches/'))).toHaveLength(played.size);

    const there = await empty();
    const looked = await send(there, bytes);
    expect(standings(looked.body)[`evening:${set.id}`]).toBe('new');
    await take(there, looked.body.token);
    const arrived = (await there.call('GET', `/evenings/${set.id}`)).body.evening;
    expect(arrived).toEqual(set.evening);
    // Mine was changed: theirs comes beside it, and plays the patches that came beside mine.
    const bass = arrived.songs[0].plays[0].patch;
    const mine = (await there.call('GET', `/patches/${bass}`)).body;
    await there.call('PUT', `/patches/${bass}`, { ...mine.patch, tempo: 99 }, tag(mine.version));
    const changed = { ...arrived, name: 'Mine' };
    await there.call('PUT', `/evenings/${set.id}`, changed, tag(1));
    const again = await send(there, bytes);
    expect(standings(again.body)[`evening:${set.id}`]).toBe('conflict');
    const both = { [`evening:${set.id}`]: 'both', [`patch:${bass}`]: 'both' };
    await take(there, again.body.token, both);
    const { items } = (await there.call('GET', '/evenings')).body;
    const copy = items.find((i: { id: string }) => i.id !== set.id).evening;
    expect(copy.name).toBe(set.evening.name);
    const plays = copy.songs[0].plays[0].patch;
    expect(plays).not.toBe(bass);
    expect((await there.call('GET', `/patches/${plays}`)).body.patch.tempo).toBe(
      (await h.call('GET', `/patches/${bass}`)).body.patch.tempo,
    );
  });

  it('carries takes, piece by piece, to the passes that name them', async () => {
    const h = await harness();
    const made = await h.call('POST', '/sessions', {
      format: 'hurrel-session',
      version: 1,
      name: 'Night',
      song: '',
      tempo: 100,
      about: '',
      parts: [{ id: 'a', name: 'in', bars: 2 }],
      passes: [],
    });
    const wav = Buffer.alloc(44 + 4800);
    wav.write('RIFF', 0);
    wav.writeUInt32LE(36 + 4800, 4);
    wav.write('WAVEfmt ', 8);
    wav.writeUInt32LE(16, 16);
    wav.writeUInt16LE(1, 20);
    wav.writeUInt16LE(1, 22);
    wav.writeUInt32LE(48000, 24);
    wav.writeUInt32LE(96000, 28);
    wav.writeUInt16LE(2, 32);
    wav.writeUInt16LE(16, 34);
    wav.write('data', 36);
    wav.writeUInt32LE(4800, 40);
    for (let i = 0; i < 2400; i++) wav.writeInt16LE((i * 37) % 9000, 44 + 2 * i);
    const stored = await h.app.request(`/api/v1/sessions/${made.body.id}/takes?name=one`, {
      method: 'POST',
      body: wav,
      headers: { 'content-type': 'audio/wav' },
    });
    const { id: takeId } = (await stored.json()) as { id: string };
    const patch = (await h.byName('Winch Room bass')).id;
    const session = {
      ...made.body.session,
      passes: [{ id: 'p', name: 'bass', patch, plays: { a: '' }, take: takeId }],
    };
    const put = await h.call('PUT', `/sessions/${made.body.id}`, session, tag(1));
    expect(put.status).toBe(200);
    const { body: bytes } = await h.call('GET', `/parcel.zip?sessions=${made.body.id}`);
    const files = await unzipped(bytes);
    expect([...files.keys()].filter((f) => f.endsWith('.wav'))).toHaveLength(1);
    const there = await empty();
    const { body } = await send(there, bytes);
    expect((await take(there, body.token)).status).toBe(200);
    const back = (await there.call('GET', `/sessions/${made.body.id}`)).body.session;
    const heard = await there.call('GET', `/sessions/${made.body.id}/takes/${back.passes[0].take}`);
    expect(Buffer.from(heard.body).equals(wav)).toBe(true);
  });

  it('leaves mine where nothing was decided, takes theirs, or keeps both', async () => {
    const { h, first } = await withCrane();
    const { body: bytes } = await h.call('GET', `/parcel.zip?patches=${first}`);
    const { body: mine } = await h.call('GET', `/patches/${first}`);
    await h.call('PUT', `/patches/${first}`, { ...mine.patch, about: 'mine', tempo: 99 }, tag(2));
    const key = `patch:${first}`;
    const count = async () => (await h.call('GET', '/patches?instrument=saltpan-crane')).body.total;
    const before = await count();
    const looked = await send(h, bytes);
    const told = looked.body.items.find((i: { key: string }) => i.key === key);
    expect([told.standing, told.differences.map((d: { subject: string }) => d.subject)]).toEqual([
      'conflict',
      ['Tempo', 'About'],
    ]);
    await take(h, looked.body.token);
    expect((await h.call('GET', `/patches/${first}`)).body.patch.about).toBe('mine');
    const both = await send(h, bytes);
    await take(h, both.body.token, { [key]: 'both' });
    expect(await count()).toBe(before + 1);
    const theirs = await send(h, bytes);
    await take(h, theirs.body.token, { [key]: 'theirs' });
    const now = (await h.call('GET', `/patches/${first}`)).body;
    expect([now.patch.about, now.version]).toEqual(['', 4]);
    // Merged: theirs where that is said, mine otherwise.
    await h.call('PUT', `/patches/${first}`, { ...now.patch, about: 'mine', tempo: 99 }, tag(4));
    const merged = await send(h, bytes);
    const decided = await h.call('POST', `/parcels/${merged.body.token}`, {
      decisions: { [key]: 'merged' },
      picks: { [key]: ['/tempo'] },
    });
    expect(decided.status).toBe(200);
    const mixed = (await h.call('GET', `/patches/${first}`)).body.patch;
    expect([mixed.about, mixed.tempo, mixed.settings]).toEqual(['mine', 120, now.patch.settings]);
    // A file is taken in once.
    expect((await take(h, theirs.body.token)).status).toBe(404);
    // Whoever asks late how far it has come hears that it is in.
    const late = await h.call('GET', `/parcels/${theirs.body.token}`);
    expect([late.status, late.body.done]).toEqual([200, late.body.total]);
  });

  it('sets what was read on another description on the one that is kept, or brings that one beside it', async () => {
    const { h, first } = await withCrane();
    const { body: bytes } = await h.call('GET', `/parcel.zip?patches=${first}`);
    const other = async (words = text.replace('0..10', '0..20')) => {
      const there = await empty();
      await there.call('POST', '/instruments', panel(words));
      return { there, looked: await send(there, bytes) };
    };
    const kept = await other();
    expect(standings(kept.looked.body)['instrument:saltpan-crane']).toBe('conflict');
    await take(kept.there, kept.looked.body.token);
    const patch = async (lib: Harness) => (await lib.call('GET', `/patches/${first}`)).body.patch;
    // 4 of 10 is 4 of 20.
    expect((await patch(kept.there)).settings['filter-cutoff'].value).toBe(0.2);
    // What has no place on the one that is kept is told by the patch's name.
    const bare = await other(text.replace('cutoff 0..10\n', ''));
    expect((await take(bare.there, bare.looked.body.token)).body).toEqual({
      stored: 1,
      shortened: ['First'],
    });
    const beside = await other();
    await take(beside.there, beside.looked.body.token, { 'instrument:saltpan-crane': 'both' });
    expect(await patch(beside.there)).toMatchObject({
      instrument: 'saltpan-crane-2',
      settings: { 'filter-cutoff': { value: 0.4 } },
    });
    const theirs = await other();
    await take(theirs.there, theirs.looked.body.token, { 'instrument:saltpan-crane': 'theirs' });
    expect(await patch(theirs.there)).toMatchObject({ instrument: 'saltpan-crane', edition: 2 });
  });

  it('merges descriptions piece by piece, and sets what was read on theirs on the mixture', async () => {
    const { h, first } = await withCrane();
    const mine = (await h.call('GET', '/instruments/saltpan-crane')).body;
    const bytes = (await h.call('GET', '/parcel.zip?patches=' + first)).body as Uint8Array;
    // Here a section is added meanwhile, and what the other has said of its filter is taken beside it.
    const more = `${mine.outline as string}\n\nOut:\nvolume 0..10`;
    const { version } = (await h.call('GET', '/instruments/saltpan-crane/stored')).body;
    const changed = { ...panel(more.replace('cutoff 0..10', 'cutoff 0..5')) };
    expect((await h.call('PUT', '/instruments/saltpan-crane', changed, tag(version))).status).toBe(
      200,
    );
    const looked = await send(h, bytes);
    const item = looked.body.items.find((i: { kind: string }) => i.kind === 'instrument');
    expect([item.standing, item.mergeable]).toEqual(['conflict', true]);
    const pointers = item.differences.map((d: { pointer: string }) => d.pointer) as string[];
    expect(pointers).toEqual(expect.arrayContaining(['/words/Filter', '/words/Out']));
    const merged = await h.call('POST', `/parcels/${looked.body.token}`, {
      decisions: { [item.key]: 'merged' },
      picks: { [item.key]: ['/words/Filter'] },
    });
    expect(merged.status).toBe(200);
    const now = (await h.call('GET', '/instruments/saltpan-crane')).body;
    expect(now.outline).toContain('cutoff 0..10');
    expect(now.controls.map((c: { name: string }) => c.name)).toContain('volume');
  });

  it('is refused in one sentence when it is damaged, made to burst, climbs, or is newer; nothing is stored', async () => {
    const { h, first } = await withCrane();
    const { body: good } = await h.call('GET', `/parcel.zip?patches=${first}`);
    const files = await unzipped(good);
    const there = await empty();
    const again = (change: (name: string, content: Buffer) => Buffer | string) =>
      zipped([...files].map(([name, content]) => [name, change(name, content)]));
    const climbing = Buffer.from(await zipped([['xx/up.json', '{}'], ...files]));
    for (let at = climbing.indexOf('xx/'); at >= 0; at = climbing.indexOf('xx/'))
      climbing.write('../', at);
    /** The zip with another text as its patch, and the manifest in step with it. */
    const resealed = (patch: string): Promise<Buffer> => {
      const manifest = JSON.parse(files.get('manifest.json')!.toString()) as {
        items: { path: string; size: number; sha256: string }[];
      };
      const bytes = Buffer.from(patch);
      const item = manifest.items.find((i) => i.path.startsWith('patches'))!;
      item.size = bytes.length;
      item.sha256 = createHash('sha256').update(bytes).digest('hex');
      return again((n, c) =>
        n === 'manifest.json' ? JSON.stringify(manifest) : n === item.path ? bytes : c,
      );
    };
    const marked = `\ufeff${files.get([...files.keys()].find((n) => n.startsWith('patches'))!)!.toString()}`;
    const bad: [string, Uint8Array, RegExp][] = [
      ['nothing', new Uint8Array(0), /neither a zip nor a document/],
      ['a picture', Buffer.from('\u0089PNG....'), /neither a zip/],
      ['cut off', good.slice(0, good.length - 200), /damaged or breaks off/],
      ['no manifest', await zipped([['a.txt', 'a']]), /no manifest/],
      [
        'a file missing',
        await zipped([...files].filter(([n]) => !n.startsWith('patches'))),
        /missing from the zip/,
      ],
      [
        'changed',
        await again((n, c) =>
          n.startsWith('patches') ? c.toString().replace('First', 'Fitst') : c,
        ),
        /not what was packed/,
      ],
      [
        'longer',
        await again((n, c) => (n.startsWith('patches') ? `${c} ` : c)),
        /not as long as it was/,
      ],
      [
        'newer',
        await again((n, c) =>
          n === 'manifest.json'
            ? c.toString().replace(/"version": \d+/, `"version": ${PARCEL_VERSION + 1}`)
            : c,
        ),
        /newer Hurrel/,
      ],
      [
        'no sense',
        await zipped([['manifest.json', '{"format":"hurrel-parcel","version":1,"items":[{}]}']]),
        /says nothing/,
      ],
      [
        'bursting',
        await zipped([
          ['manifest.json', '{}'],
          ['bomb', Buffer.alloc(60_000_000)],
        ]),
        /larger than anything/,
      ],
      ['climbing', climbing, /climb out of its folder/],
      ['half a document', Buffer.from('{"format":"hurrel-patch"'), /breaks off/],
      ['nothing at all', Buffer.from('[null]'), /something else|no JSON/],
      ['larger than any', Buffer.from(`[${'0,'.repeat(1_100_000)}0]`), /2 MB at most/],
      ['nested deep', Buffer.from('['.repeat(20_000_000)), /2 MB at most/],
      ['a patch that is no JSON', await resealed('no JSON'), /is no JSON/],
      ['another document', Buffer.from('{"format":"recipe"}'), /something else/],
      [
        'a wrong patch',
        Buffer.from('{"format":"hurrel-patch","version":1,"tempo":-1}'),
        /document\.json, \/\w+/,
      ],
    ];
    for (const [name, bytes, says] of bad) {
      const { status, body } = await send(there, bytes);
      expect([name, status, body.detail]).toEqual([name, 422, expect.stringMatching(says)]);
    }
    expect((await there.call('GET', '/instruments')).body.items).toEqual([]);
    // A mark of the byte order is no part of a document.
    for (const bytes of [
      await resealed(marked),
      Buffer.from(`\ufeff${JSON.stringify(panel(text))}`),
    ])
      expect((await send(there, bytes)).status).toBeLessThan(300);
    // A single document is as good as a zip.
    const one = await send(there, Buffer.from(JSON.stringify(panel(text))));
    expect(standings(one.body)).toEqual({ 'instrument:saltpan-crane': 'new' });
    await take(there, one.body.token);
    expect((await there.call('GET', '/instruments')).body.items).toHaveLength(1);
  });

  it('is stored as a whole or not at all', async () => {
    const { h, first, second } = await withCrane();
    const { body: bytes } = await h.call('GET', `/parcel.zip?patches=${first},${second}`);
    const there = await empty();
    const looked = await send(there, bytes);
    // Without its instrument a patch has nowhere to stand: everything is refused.
    const refused = await take(there, looked.body.token, { 'instrument:saltpan-crane': 'out' });
    expect(refused.status).toBeGreaterThanOrEqual(400);
    expect((await there.call('GET', '/patches')).body.total).toBe(0);
    // Asked for twice at once it is taken in once.
    const twice = await Promise.all([0, 1].map(() => take(there, looked.body.token)));
    expect(twice.map((t) => t.status).sort()).toEqual([200, 409]);
    expect((await there.call('GET', '/patches')).body.total).toBe(2);
  });
});
