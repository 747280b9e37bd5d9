import { harness } from '../testing/harness';
import { statSync } from 'node:fs';
import { encodeWav } from '@hurrel/core';

const session = (more: object = {}) => ({
  format: 'hurrel-session',
  version: 1,
  name: 'Night Lock, at Hallow Staithe',
  tempo: 104,
  parts: [{ id: 'a', name: 'in', bars: 4 }],
  passes: [{ id: 'p', name: 'lead', patch: 'somewhere', plays: { a: '' } }],
  ...more,
});
const wav = (): Uint8Array =>
  encodeWav(
    Float32Array.from({ length: 4800 }, (_, i) => Math.sin(i / 10)),
    48000,
    '16',
  );

describe('sessions', () => {
  it('are listed with the demo’s own of six passes, whose patches are there', async () => {
    const { call } = await harness();
    const { body } = await call('GET', '/sessions');
    expect(body.items).toHaveLength(1);
    const { passes } = body.items[0].session;
    expect(passes).toHaveLength(6);
    for (const pass of passes) {
      const patch = await call('GET', `/patches/${pass.patch}`);
      expect(patch.status).toBe(200);
      const ids = patch.body.patch.patterns.map((p: { id: string }) => p.id);
      expect(ids).toContain(pass.pattern);
    }
  });

  it('are refused with the place of the fault', async () => {
    const { call } = await harness();
    const wrong = session({ passes: [{ id: 'p', name: 'lead', patch: 'x', plays: { b: '' } }] });
    const refused = await call('POST', '/sessions', wrong);
    expect([refused.status, refused.body.errors[0].pointer]).toEqual([422, '/passes/0/plays/b']);
  });

  it('keep takes as they were given, refuse what is no WAV, and passes that name none of theirs', async () => {
    const { app, call } = await harness();
    const made = await call('POST', '/sessions', session());
    const path = `/api/v1/sessions/${made.body.id}/takes`;
    const send = (bytes: Uint8Array, type = 'audio/wav') =>
      app.request(`${path}?name=first`, {
        method: 'POST',
        headers: { 'content-type': type },
        body: bytes as Uint8Array<ArrayBuffer>,
      });
    const kept = await send(wav());
    expect(kept.status).toBe(201);
    const take = (await kept.json()) as { id: string; seconds: number };
    expect(take.seconds).toBeCloseTo(0.1, 6);
    const back = await app.request(`${path}/${take.id}`);
    expect(Buffer.from(await back.arrayBuffer()).equals(Buffer.from(wav()))).toBe(true);
    const refused = await send(wav().subarray(0, 30));
    expect(refused.status).toBe(422);
    expect((await call('GET', `/sessions/${made.body.id}/takes`)).body.items).toHaveLength(1);
    const withTake = (id: string) =>
      session({ passes: [{ id: 'p', name: 'lead', patch: 'x', plays: { a: '' }, take: id }] });
    const put = (id: string) =>
      call('PUT', `/sessions/${made.body.id}`, withTake(id), { 'if-match': '*' });
    expect((await put(take.id)).status).toBe(200);
    expect((await put('another')).body.errors[0].pointer).toBe('/passes/0/take');
  });

  it('let go of a take for good, and of its room on the disk; not while a pass plays it', async () => {
    const { app, call, database } = await harness();
    const made = await call('POST', '/sessions', session());
    const path = `/sessions/${made.body.id}`;
    const long = Buffer.concat([wav(), Buffer.alloc(3_000_000)]);
    long.writeUInt32LE(long.length - 8, 4);
    long.writeUInt32LE(long.length - 44, 40);
    const sent = await app.request(`/api/v1${path}/takes?name=long`, {
      method: 'POST',
      headers: { 'content-type': 'audio/wav' },
      body: long,
    });
    const { id, size } = (await sent.json()) as { id: string; size: number };
    expect([sent.status, size]).toEqual([201, long.length]);
    const pass = { id: 'p', name: 'lead', patch: 'x', plays: { a: '' }, take: id };
    await call('PUT', path, session({ passes: [pass] }), { 'if-match': '*' });
    const played = await call('DELETE', `${path}/takes/${id}`);
    expect([played.status, played.body.detail]).toEqual([
      409,
      'lead plays this take: take it away there first.',
    ]);
    await call('PUT', path, session(), { 'if-match': '*' });
    const onDisk = (): number =>
      ['', '-wal'].reduce((sum, end) => sum + statSync(database.file + end).size, 0);
    const before = onDisk();
    expect((await call('DELETE', `${path}/takes/${id}`)).status).toBe(200);
    expect(before - onDisk()).toBeGreaterThan(2_500_000);
    expect((await call('GET', `${path}/takes`)).body.items).toEqual([]);
    expect((await call('DELETE', `${path}/takes/${id}`)).status).toBe(404);
  });
});
