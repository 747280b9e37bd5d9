import { AsyncLocalStorage } from 'node:async_hooks';
import { join } from 'node:path';
import { jest } from '@jest/globals';
import Sqlite from 'better-sqlite3';
import type { EntityManager } from 'typeorm';
import { harness, temporary } from '../testing/harness';
import { DailyBackups } from './backups';
import { damagesIn } from './verify';

type Harness = Awaited<ReturnType<typeof harness>>;
let h: Harness;
let file: string;
beforeEach(async () => {
  file = join(temporary(), 'test.db');
  h = await harness({}, file);
});
afterEach(() => h.database.close());

/** Version of a patch as another program reads it from the file. */
function versionOnDisk(id: string): number {
  const other = new Sqlite(file, { readonly: true });
  try {
    return other.prepare('SELECT head FROM patch WHERE id = ?').pluck().get(id) as number;
  } finally {
    other.close();
  }
}

const tell = (sql: string) => h.database.write((manager) => manager.query(sql));
const pages = async (count: number): Promise<void> => {
  await tell(`PRAGMA max_page_count = ${count}`);
};
const bass = async () => h.byName('Winch Room bass');
const save = (patch: { id: string; version: number; patch: object }, about: string) =>
  h.call(
    'PUT',
    `/patches/${patch.id}`,
    { ...patch.patch, about },
    {
      'if-match': `"${patch.version}"`,
    },
  );
/** More than is left of the pages that are there. */
const LARGE = 'w'.repeat(1900);

/** Fills what is left, until a save is refused; gives how many were stored meanwhile. */
async function fillUp(): Promise<number> {
  for (let stored = 0; ; stored++) {
    const answer = await save(await bass(), `${LARGE}${stored}`);
    if (answer.status !== 200) return stored;
  }
}

describe('a full disk', () => {
  beforeEach(async () => {
    const [{ page_count: count }] = (await tell('PRAGMA page_count')) as [{ page_count: number }];
    await pages(count + 4);
  });

  it('refuses in words, stores nothing half, and says so on every page', async () => {
    await fillUp();
    const patch = await bass();
    const answer = await save(patch, LARGE);
    expect(answer.status).toBe(507);
    expect(answer.body.detail).toContain('The disk that holds the library is full.');
    expect(versionOnDisk(patch.id)).toBe(patch.version);
    const { body } = await h.call('GET', '/health');
    expect(body).toMatchObject({ ok: false, storage: { state: 'trouble' } });
    expect(body.storage.says).toContain('full');
  });

  it('acknowledges nothing that another program cannot read, however often it failed before', async () => {
    await fillUp();
    const patch = await bass();
    for (let i = 0; i < 5; i++) expect((await save(patch, `${LARGE}, try ${i}`)).status).toBe(507);
    expect((await h.call('POST', '/patches', { patch: patch.patch })).status).toBe(507);
    // What is refused within a change leaves it in another way than what SQLite breaks off.
    expect((await save({ ...patch, version: patch.version + 9 }, 'stale')).status).toBe(412);
    await pages(1_000_000);
    for (let i = 0; i < 5; i++) {
      const before = await bass();
      const answer = await save(before, `room again ${i}`);
      expect([answer.status, versionOnDisk(patch.id)]).toEqual([200, before.version + 1]);
    }
    expect((await h.call('GET', '/health')).body.storage.state).toBe('well');
    await h.database.close();
    h = await harness({}, file);
    expect((await bass()).patch.about).toBe('room again 4');
  });
});

describe('after an error that SQLite is forced to', () => {
  const forced: [string, (m: EntityManager) => Promise<unknown>][] = [
    ['RAISE(ROLLBACK)', (m) => raised(m, 'ROLLBACK')],
    ['RAISE(ABORT)', (m) => raised(m, 'ABORT')],
    ['RAISE(FAIL)', (m) => raised(m, 'FAIL')],
    [
      'a constraint that fails at the end',
      async (m) => {
        await m.query('PRAGMA defer_foreign_keys = ON');
        await m.query(`INSERT INTO rebuild_progress VALUES ('nobody', 'start', '[]', '')`);
      },
    ],
    ['a rollback by hand', (m) => m.query('ROLLBACK')],
    ['a savepoint left open', (m) => m.query('SAVEPOINT left').then(() => m.query('nonsense'))],
    ['what is too long', (m) => m.query('SELECT randomblob(2000000000)')],
  ];
  const raised = async (manager: EntityManager, how: string): Promise<unknown> => {
    await manager.query(`CREATE TEMP TRIGGER force BEFORE INSERT ON rebuild_progress
      BEGIN SELECT RAISE(${how}, 'forced'); END`);
    return manager.query(`INSERT INTO rebuild_progress VALUES ('nobody', 'start', '[]', '')`);
  };

  it.each(forced)('%s, nothing of it is stored, and the next save is', async (_name, force) => {
    for (let i = 0; i < 3; i++) {
      const before = await bass();
      const failing = h.database.write(async (manager) => {
        await manager.query('UPDATE patch SET about = ? WHERE id = ?', ['half', before.id]);
        await force(manager);
      });
      await expect(failing).rejects.toThrow();
      expect((await bass()).patch.about).not.toBe('half');
      expect((await save({ ...before, version: before.version + 9 }, 'stale')).status).toBe(412);
      const answer = await save(before, `after ${i}`);
      expect([answer.status, versionOnDisk(before.id)]).toEqual([200, before.version + 1]);
    }
  });

  it('that another program holds the file, it is told and passes', async () => {
    await tell('PRAGMA busy_timeout = 50');
    const other = new Sqlite(file);
    other.exec('BEGIN IMMEDIATE');
    const patch = await bass();
    const answer = await save(patch, 'held');
    expect(answer.status).toBe(503);
    expect(answer.body.detail).toContain('Another program holds the library');
    other.exec('ROLLBACK');
    other.close();
    expect((await save(patch, 'let go')).status).toBe(200);
    expect(versionOnDisk(patch.id)).toBe(patch.version + 1);
  });

  it('that the file may only be read, it is told and passes', async () => {
    let writer: EntityManager | undefined;
    await h.database.write(async (manager) => void (writer = manager));
    await writer!.query('PRAGMA query_only = ON');
    const patch = await bass();
    const answer = await save(patch, 'closed');
    expect([answer.status, answer.body.detail]).toEqual([
      503,
      expect.stringContaining('may only be read'),
    ]);
    await writer!.query('PRAGMA query_only = OFF');
    expect((await save(patch, 'open')).status).toBe(200);
  });
});

describe('changes', () => {
  it('are seen by nobody before they are stored', async () => {
    const patch = await bass();
    await h.database.write(async (manager) => {
      await manager.query('UPDATE patch SET name = ? WHERE id = ?', ['half done', patch.id]);
      const { body } = await outside(() => h.call('GET', '/patches'));
      expect(body.items.map((p: { name: string }) => p.name)).toContain('Winch Room bass');
    });
    const { body } = await h.call('GET', '/patches');
    expect(body.items.map((p: { name: string }) => p.name)).toContain('half done');
  });

  it('within a change are stored with it, or not at all', async () => {
    const patch = await bass();
    const failing = h.database.write(async () => {
      await h.database.write((m) =>
        m.query('UPDATE patch SET about = ? WHERE id = ?', ['in', patch.id]),
      );
      throw new Error('no more');
    });
    await expect(failing).rejects.toThrow('no more');
    expect((await bass()).patch.about).toBe(patch.patch.about);
  });

  it('are one row each: what cannot be read takes no list with it', async () => {
    const { body: made } = await h.call('GET', '/sessions');
    const [first] = made.items;
    await tell('DROP TRIGGER session_version_stays');
    await tell(
      `UPDATE session_version SET document = '{"broken"' WHERE session_id = '${first.id}'`,
    );
    await tell('DROP TRIGGER instrument_version_stays');
    await tell(
      `UPDATE instrument_version SET document = '{}' WHERE instrument_id = 'marram-estuary'`,
    );
    const error = jest.spyOn(console, 'error').mockImplementation(() => undefined);
    expect((await h.call('GET', '/sessions')).status).toBe(200);
    const { body } = await h.call('GET', '/instruments');
    expect(body.items.length).toBeGreaterThan(5);
    error.mockRestore();
  });
});

describe('a document that the disk has changed', () => {
  const damage = async (table: string, id: string, number: number, text: string) => {
    await tell(`DROP TRIGGER IF EXISTS ${table}_version_stays`);
    await h.database.write((m) =>
      m.query(`UPDATE ${table}_version SET document = ? WHERE ${table}_id = ? AND number = ?`, [
        ...[text, id, number],
      ]),
    );
  };

  it('is told, and its newest whole version taken back', async () => {
    const first = await bass();
    await save(first, 'second');
    const second = await bass();
    // A single letter: it is a document still.
    const text = JSON.stringify(second.patch).replace('second', 'secand');
    await damage('patch', second.id, second.version, text);
    const answer = await h.call('GET', `/patches/${second.id}`);
    expect(answer.status).toBe(422);
    expect(answer.body.detail).toBe(
      `Version ${second.version} of this patch is damaged on the disk. Version ${first.version} is intact: restore it.`,
    );
    expect(answer.body.damage).toMatchObject({ head: second.version, whole: first.version });
    const back = await h.call(
      'POST',
      `/patches/${second.id}/versions/${first.version}/restore`,
      undefined,
      { 'if-match': `"${second.version}"` },
    );
    expect(back.status).toBe(200);
    expect((await bass()).patch).toEqual(first.patch);
    const copy = join(temporary(), 'copy.db');
    await h.database.backup(copy);
    expect(await damagesIn(copy)).toEqual([
      { kind: 'patch', id: second.id, name: first.patch.name, number: second.version },
    ]);
  });

  it('is found wherever its bytes are changed', async () => {
    const { id, patch, version } = await bass();
    const text = JSON.stringify(patch);
    for (let i = 0; i < 120; i++) {
      const at = Math.floor((i / 120) * (text.length - 64));
      await damage(
        'patch',
        id,
        version,
        `${text.slice(0, at)}${'#'.repeat(64)}${text.slice(at + 64)}`,
      );
      expect((await h.call('GET', `/patches/${id}`)).status).toBe(422);
    }
    // And what was written before there were checksums has one now.
    const rows = await tell('SELECT count(*) AS n FROM instrument_version WHERE sum IS NULL');
    expect(rows).toEqual([{ n: 0 }]);
  });

  it('is told on every page once the copy of the day has found it', async () => {
    const { id, version, patch } = await bass();
    await damage('patch', id, version, JSON.stringify({ ...patch, about: 'other' }));
    const error = jest.spyOn(console, 'error').mockImplementation(() => undefined);
    await new DailyBackups(
      h.database,
      () => new Date('2031-05-01T12:00:00Z'),
      () => 1e12,
    ).keep();
    expect(error.mock.calls.join()).toContain(`Version ${version} of the patch "${patch.name}"`);
    error.mockRestore();
    const { body } = await h.call('GET', '/health');
    expect(body.storage.says).toContain(`patch ${patch.name}`);
  });
});

/** As another request would: not within the change that is being made. */
const elsewhere = AsyncLocalStorage.snapshot();
const outside = <T>(ask: () => Promise<T>): Promise<T> => elsewhere(ask);
