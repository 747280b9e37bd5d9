import { harness, temporary } from '../testing/harness';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { decodeWav, encodeWav } from '@hurrel/core';
import { openDatabase } from '../db/database';
import { SoundStore } from '../store/sounds';

type Harness = Awaited<ReturnType<typeof harness>>;

const tone = (seconds: number, hz = 300): Uint8Array =>
  encodeWav(
    [
      Float32Array.from({ length: Math.round(48000 * seconds) }, (_, i) =>
        Math.sin((2 * Math.PI * hz * i) / 48000),
      ),
    ],
    48000,
    '16',
  );
const send = async (h: Harness, bytes: Uint8Array, headers: Record<string, string> = {}) => {
  const response = await h.app.request('/api/v1/sounds', {
    method: 'POST',
    headers: { 'content-type': 'audio/wav', ...headers },
    body: new Uint8Array(bytes),
  });
  // oxlint-disable-next-line typescript/no-explicit-any
  return { status: response.status, body: (await response.json()) as any };
};
const fetched = async (h: Harness, id: string): Promise<Buffer> =>
  Buffer.from(await (await h.app.request(`/api/v1/sounds/${id}`)).arrayBuffer());

const NAME = 'Eel Run over the weir';
const demo = async (h: Harness) => {
  const { body } = await h.call('GET', '/patches?size=200');
  const { id } = body.items.find((p: { name: string }) => p.name === NAME);
  return (await h.call('GET', `/patches/${id}`)).body;
};
const rendered = async (h: Harness, source: object): Promise<Float32Array> => {
  const response = await h.app.request('/api/v1/render', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ ...source, seconds: 1, format: '32f' }),
  });
  expect(response.status).toBe(200);
  return decodeWav(new Uint8Array(await response.arrayBuffer())).channels[0]!;
};
const loudest = (sound: Float32Array): number =>
  sound.reduce((m, v) => Math.max(m, Math.abs(v)), 0);

describe('a recording that patches are fed with', () => {
  it('is kept as it was given, under the checksum of its bytes, once', async () => {
    const h = await harness();
    const wav = tone(0.5);
    const { status, body } = await send(h, wav);
    expect([status, body.seconds]).toEqual([201, 0.5]);
    expect(body.id).toBe(createHash('sha256').update(wav).digest('hex'));
    expect(await fetched(h, body.id)).toEqual(Buffer.from(wav));
    expect((await send(h, wav)).body).toEqual(body);
    expect((await h.app.request(`/api/v1/sounds/${'0'.repeat(64)}`)).status).toBe(404);
  });

  it('is refused in one sentence where it is none, breaks off, or is too long; nothing is stored', async () => {
    const h = await harness();
    const count = () => h.database.write((m) => m.query('SELECT count(*) n FROM sound'));
    const before = await count();
    const whole = tone(1);
    for (const [bytes, words] of [
      [Buffer.from('this is no recording, whatever it says'), /WAV/],
      [Buffer.alloc(0), /WAV|empty/],
      [whole.subarray(0, whole.length / 2), /ends early/],
      [tone(61), /60 s at most/],
    ] as const) {
      const { status, body } = await send(h, bytes);
      expect(status).toBe(422);
      expect(JSON.stringify(body)).toMatch(words);
    }
    expect(await count()).toEqual(before);
    const long = await send(h, new Uint8Array(10), { 'content-length': String(30 * 1024 * 1024) });
    expect(long.status).toBe(413);
  });

  it('is heard and examined where a patch is rendered, and asked for where it is missing', async () => {
    const h = await harness();
    const { id, patch } = await demo(h);
    expect(loudest(await rendered(h, { patchId: id }))).toBeGreaterThan(0.1);
    expect((await h.call('POST', '/check', { patchId: id })).body.items).toEqual([]);
    const other = (await send(h, tone(0.5, 900))).body.id;
    const tuned = { ...patch, feed: { ...patch.feed, sound: other } };
    expect(await rendered(h, { patch: tuned })).not.toEqual(await rendered(h, { patchId: id }));
    const { feed: _, ...unfed } = patch;
    expect(loudest(await rendered(h, { patch: unfed }))).toBeLessThan(1e-4);
    const missing = { ...patch, feed: { ...patch.feed, sound: 'f'.repeat(64) } };
    const refused = await h.call('POST', '/render', { patch: missing });
    expect(refused.status).toBe(422);
    expect(refused.body.detail).toMatch(/"Eel Run, one bar".*choose its WAV file again/);
  });

  it('must go into an input of the panel', async () => {
    const h = await harness();
    const { patch } = await demo(h);
    const bad = { ...patch, feed: { ...patch.feed, jack: 'j-nowhere' } };
    const { status, body } = await h.call('POST', '/render', { patch: bad });
    expect(status).toBe(422);
    expect(body.errors[0].pointer).toBe('/patch/feed/jack');
  });

  it('travels with its patch, and is cleared once no version names it', async () => {
    const here = await harness();
    const { id, patch } = await demo(here);
    const zip = await here.app.request(`/api/v1/parcel.zip?patches=${id}`);
    const bytes = new Uint8Array(await zip.arrayBuffer());
    const file = join(temporary(), 'empty.db');
    await (await openDatabase(file)).close();
    const there = await harness({}, file);
    const sent = await there.app.request('/api/v1/parcels', { method: 'POST', body: bytes });
    const { token } = (await sent.json()) as { token: string };
    expect((await there.call('POST', `/parcels/${token}`, { decisions: {} })).status).toBe(200);
    expect(await fetched(there, patch.feed.sound)).toEqual(await fetched(here, patch.feed.sound));
    expect(loudest(await rendered(there, { patchId: (await demo(there)).id }))).toBeGreaterThan(
      0.1,
    );

    const kept = new SoundStore(there.database);
    const loose = (await send(there, tone(0.1))).body.id as string;
    await kept.clear();
    expect(await kept.has(loose)).toBe(true);
    await there.database.write((m) =>
      m.query("UPDATE sound SET created_at = '2020-01-01T00:00:00.000Z'"),
    );
    await kept.clear();
    expect(await kept.has(loose)).toBe(false);
    expect(await kept.has(patch.feed.sound)).toBe(true);
  });
});
