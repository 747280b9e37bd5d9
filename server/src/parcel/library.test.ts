import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import Sqlite from 'better-sqlite3';
import { harness } from '../testing/harness';

type Harness = Awaited<ReturnType<typeof harness>>;
const send = async (h: Harness, bytes: Uint8Array<ArrayBuffer>) => {
  const response = await h.app.request('/api/v1/parcels', { method: 'POST', body: bytes });
  // oxlint-disable-next-line typescript/no-explicit-any
  return { status: response.status, body: (await response.json()) as any };
};
const backupOf = async (h: Harness) =>
  new Uint8Array(await (await h.app.request('/api/v1/backup')).arrayBuffer());
const names = async (h: Harness): Promise<string[]> =>
  // oxlint-disable-next-line typescript/no-explicit-any
  (await h.call('GET', '/patches?size=200')).body.items.map((p: any) => p.name);
const record = async (h: Harness, name: string) => {
  const from = { from: 'start', instrument: 'oxbow-sluice', role: 'bass', song: '' };
  expect((await h.call('POST', '/patches', { ...from, name })).status).toBe(201);
};
const firstPatch = async (h: Harness) => {
  const [{ id }] = (await h.call('GET', '/patches')).body.items;
  return (await h.call('GET', `/patches/${id}`)).body.patch;
};
const left = (h: Harness) => readdirSync(join(dirname(h.database.file), 'parcels'));

describe('a backup that is sent', () => {
  it('is looked at like any other file, and its documents come in one by one', async () => {
    const [there, here] = [await harness(), await harness()];
    await record(there, 'Only in the backup');
    const { status, body } = await send(here, await backupOf(there));
    expect([status, body.library]).toEqual([200, true]);
    const fresh = body.items.filter((i: { standing: string }) => i.standing === 'new');
    expect(fresh.map((i: { name: string }) => i.name)).toEqual(['Only in the backup']);
    expect((await here.call('POST', `/parcels/${body.token}`, { decisions: {} })).status).toBe(200);
    expect(await names(here)).toContain('Only in the backup');
    expect(left(here)).toEqual([]);
  });

  it('takes the place of what is here, of which a copy is made; who is let in stays', async () => {
    const [there, here] = [await harness(), await harness()];
    await record(there, 'Only in the backup');
    await record(here, 'Only here');
    const { token } = await here.services.devices.admit('the one on the stand');
    const { body } = await send(here, await backupOf(there));
    const put = await here.call('POST', `/parcels/${body.token}/library`);
    expect(put.status).toBe(200);
    const now = await names(here);
    expect(now).toContain('Only in the backup');
    expect(now).not.toContain('Only here');
    expect((await here.services.devices.list()).map((d) => d.name)).toEqual([
      'the one on the stand',
    ]);
    expect(await here.services.devices.knows(token)).toBeDefined();
    const copy = new Sqlite(put.body.copy, { readonly: true });
    const kept = copy.prepare('SELECT name FROM patch').pluck().all();
    copy.close();
    expect(kept).toContain('Only here');
    expect((await here.call('GET', '/health')).body.replacedAt).toMatch(/^20/);
    // It can be written to from then on, and is on the disk.
    await record(here, 'Afterwards');
    const other = new Sqlite(here.database.file, { readonly: true });
    expect(other.prepare('SELECT name FROM patch').pluck().all()).toContain('Afterwards');
    other.close();
    expect(left(here)).toEqual([]);
  });

  it('that is damaged, or of something else, is refused, and nothing changes', async () => {
    const here = await harness();
    const before = await names(here);
    const whole = await backupOf(here);
    const cut = await send(here, whole.slice(0, 20_000));
    expect(cut.status).toBe(422);
    expect(cut.body.detail).toMatch(/^This library is damaged/);
    const strange = join(dirname(here.database.file), 'strange.db');
    const db = new Sqlite(strange);
    db.exec('CREATE TABLE other (x)');
    db.close();
    const other = await send(here, new Uint8Array(readFileSync(strange)));
    expect(other.body.detail).toBe(
      'This library is a database of something else. Choose another backup.',
    );
    expect(await names(here)).toEqual(before);
    expect(left(here)).toEqual([]);
  });

  it('is left alone when a single document came', async () => {
    const here = await harness();
    const patch = await firstPatch(here);
    const { body } = await send(here, new TextEncoder().encode(JSON.stringify(patch)));
    expect(body.library).toBe(false);
    expect((await here.call('POST', `/parcels/${body.token}/library`)).status).toBe(409);
  });
});
