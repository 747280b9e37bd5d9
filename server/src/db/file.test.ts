import {
  copyFileSync,
  existsSync,
  rmSync,
  symlinkSync,
  openSync,
  readdirSync,
  readFileSync,
  truncateSync,
  writeFileSync,
  writeSync,
  closeSync,
  statSync,
} from 'node:fs';
import { join } from 'node:path';
import Sqlite from 'better-sqlite3';
import { harness, temporary } from '../testing/harness';
import { backUp, backupFolder, DailyBackups } from './backups';
import { openDatabase } from './database';
import { examine, LibraryError } from './examine';
import { copyLibrary, restore } from './restore';

let folder: string;
let file: string;
let library: string;
beforeAll(async () => {
  library = join(temporary(), 'library.db');
  const h = await harness({}, library);
  await h.database.close();
});
beforeEach(() => {
  folder = temporary();
  file = join(folder, 'test.db');
});
const whole = (): void => copyFileSync(library, file);
const patches = (at: string): number => {
  const db = new Sqlite(at, { readonly: true });
  const count = db.prepare('SELECT count(*) FROM patch').pluck().get() as number;
  db.close();
  return count;
};
const why = (): string => {
  try {
    examine(file);
  } catch (error) {
    expect(error).toBeInstanceOf(LibraryError);
    return (error as Error).message;
  }
  throw new Error('It was found good.');
};

describe('what a copy is made to', () => {
  it('is written over only when it is a backup of before', async () => {
    whole();
    const to = join(folder, 'copy.db');
    await copyLibrary(file, to);
    await copyLibrary(file, to);
    expect(patches(to)).toBe(patches(file));
    const other = join(folder, 'notes.txt');
    writeFileSync(other, 'the only copy of a song');
    writeFileSync(`${to}.part`, 'somebody’s');
    await expect(copyLibrary(file, other)).rejects.toThrow(/is no backup, which stays as it is/);
    await expect(copyLibrary(file, folder)).rejects.toThrow(/is a folder, which stays/);
    await expect(copyLibrary(file, file)).rejects.toThrow(/is the library itself/);
    await copyLibrary(file, to);
    expect(readFileSync(other, 'utf8')).toBe('the only copy of a song');
    expect(readFileSync(`${to}.part`, 'utf8')).toBe('somebody’s');
    expect(patches(file)).toBeGreaterThan(0);
  });

  it('HURREL_DB that names a folder is told with what to do', () => {
    file = folder;
    expect(why()).toBe(
      `${folder} is a folder. Set HURREL_DB to a file in it, as ${join(folder, 'hurrel.db')}.`,
    );
  });
});

describe('a library on a disk without room for the files beside it', () => {
  // What a full disk refuses first: here the place of the file through which connections share is taken.
  const withoutRoom = (): void => {
    whole();
    const db = new Sqlite(file);
    db.pragma('journal_mode = WAL');
    db.close();
    symlinkSync('/dev/full', `${file}-shm`);
  };

  it('is opened, read, told of, copied elsewhere, and written again when there is room', async () => {
    withoutRoom();
    expect(examine(file)).toEqual({ isNew: false, pending: [] });
    const h = await harness({}, file);
    expect((await h.call('GET', '/patches')).body.total).toBe(patches(library));
    expect((await h.call('GET', '/health')).body.ok).toBe(false);
    await h.database.close();
    const to = join(temporary(), 'copy.db');
    await copyLibrary(file, to);
    expect(patches(to)).toBe(patches(library));
    const again = await harness({}, file);
    rmSync(`${file}-shm`);
    const wanted = { from: 'start', instrument: 'oxbow-sluice', name: 'x', song: '', role: 'bass' };
    expect((await again.call('POST', '/patches', wanted)).status).toBe(201);
    // Another connection sees it while the server runs.
    expect(patches(file)).toBe(patches(library) + 1);
    await again.database.close();
  });
});

describe('a library that is looked at before it is used', () => {
  it('is good, new, or wants to be brought up to date', () => {
    expect(examine(file)).toEqual({ isNew: true, pending: [] });
    writeFileSync(file, '');
    expect(examine(file)).toEqual({ isNew: true, pending: [] });
    whole();
    expect(examine(file)).toEqual({ isNew: false, pending: [] });
    const db = new Sqlite(file);
    db.exec(`DELETE FROM migrations WHERE name LIKE 'History%'`);
    db.close();
    expect(examine(file).pending).toEqual(['HistoryTables1797000000000']);
  });

  it('is damaged at its beginning, in its middle, or cut short', () => {
    writeFileSync(file, 'Dear diary, today I have patched a horn.'.repeat(20));
    expect(why()).toContain('does not begin as a library does');
    whole();
    const handle = openSync(file, 'r+');
    const { size } = statSync(file);
    for (let at = 8192; at < size; at += 4096)
      writeSync(handle, Buffer.alloc(600, 0x5a), 0, 600, at);
    closeSync(handle);
    expect(why()).toMatch(/is damaged .*npm run restore/);
    whole();
    truncateSync(file, Math.floor(size / 2));
    expect(why()).toMatch(/is damaged .*npm run restore/);
  });

  it('belongs to a newer Hurrel, or to something else', () => {
    whole();
    const db = new Sqlite(file);
    db.exec(
      `INSERT INTO migrations (timestamp, name) VALUES (1999000000000, 'Tides1999000000000')`,
    );
    db.close();
    expect(why()).toContain('was written by a newer Hurrel');
    file = join(folder, 'other.db');
    const other = new Sqlite(file);
    other.exec('CREATE TABLE fish (name TEXT)');
    other.close();
    expect(why()).toContain('a database of something else');
  });

  it('is held by another program', () => {
    whole();
    const other = new Sqlite(file);
    other.exec('BEGIN IMMEDIATE');
    expect(why()).toContain('Another program holds the library');
    other.close();
  }, 20_000);

  it('stands where nobody may write', () => {
    writeFileSync(join(folder, 'plain'), 'a file, no folder');
    file = join(folder, 'plain', 'test.db');
    expect(why()).toContain(`Nothing can be written to ${join(folder, 'plain')}.`);
  });
});

describe('a backup', () => {
  it('is whole, taken while the library is written to', async () => {
    whole();
    const database = await openDatabase(file);
    const to = join(folder, 'copy.db');
    const writes = Array.from({ length: 20 }, (_, i) =>
      database.write((m) => m.query('UPDATE patch SET about = ?', [`while it is copied ${i}`])),
    );
    await Promise.all([backUp(database.backup, to), ...writes]);
    await database.close();
    expect(examine(to)).toEqual({ isNew: false, pending: [] });
    expect(patches(to)).toBe(patches(library));
    expect(readdirSync(folder).filter((name) => name.includes('.part'))).toEqual([]);
  });

  it('that cannot be made leaves nothing behind, and what was there', async () => {
    const to = join(folder, 'copy.db');
    writeFileSync(to, 'before');
    const torn = async (part: string): Promise<void> => writeFileSync(part, 'half');
    await expect(backUp(torn, to)).rejects.toThrow('is damaged');
    expect(readFileSync(to, 'utf8')).toBe('before');
    expect(readdirSync(folder)).toEqual(['copy.db']);
  });

  it('is kept each day by itself, for two weeks', async () => {
    whole();
    const database = await openDatabase(file);
    let day = Date.UTC(2026, 9, 1, 12);
    const daily = new DailyBackups(database, () => new Date(day));
    for (let i = 0; i < 20; i++, day += 12 * 3_600_000) await daily.keep();
    for (let i = 0; i < 10; i++, day += 24 * 3_600_000) await daily.keep();
    await database.close();
    const kept = readdirSync(backupFolder(file));
    expect(kept).toHaveLength(14);
    expect(kept.at(-1)).toBe('hurrel-2026-10-20.db');
    expect(patches(join(backupFolder(file), kept[0]!))).toBe(patches(library));
  });

  it('each day gives way to the library: the oldest copies go where room is short, and no copy fills the disk', async () => {
    whole();
    const database = await openDatabase(file);
    let day = Date.parse('2026-10-01T00:00:00Z');
    const copies = (): string[] => readdirSync(backupFolder(file));
    let free = Infinity;
    // Every copy that goes gives two gigabytes.
    const daily = new DailyBackups(
      database,
      () => new Date(day),
      () => free - 2 * 1024 ** 3 * copies().length,
    );
    const days = async (count: number): Promise<void> => {
      for (let i = 0; i < count; i++, day += 24 * 3_600_000) await daily.keep();
    };
    await days(5);
    expect(copies()).toHaveLength(5);
    free = 10 * 1024 ** 3;
    await days(1);
    expect(copies()).toEqual(expect.not.arrayContaining(['hurrel-2026-10-01.db']));
    expect(copies()).toContain('hurrel-2026-10-06.db');
    const kept = copies();
    free = 1024 ** 3;
    await expect(daily.keep()).rejects.toThrow(/Make room, or back up elsewhere/);
    expect(copies()).toEqual(kept.slice(-2));
    await database.close();
  });

  it('is put into an empty place, and nowhere else', async () => {
    await restore(library, file);
    expect(patches(file)).toBe(patches(library));
    await expect(restore(library, file)).rejects.toThrow('There is a library at');
    await expect(restore(join(folder, 'gone.db'), join(folder, 'b.db'))).rejects.toThrow(
      'There is no file',
    );
    const bad = join(folder, 'bad.db');
    writeFileSync(bad, 'nothing of the kind');
    await expect(restore(bad, join(folder, 'b.db'))).rejects.toThrow('is damaged');
    expect(existsSync(join(folder, 'b.db'))).toBe(false);
  });

  it('is taken while a server has the library open', async () => {
    whole();
    const database = await openDatabase(file);
    await database.write((m) => m.query(`UPDATE patch SET name = 'fresh'`));
    const to = join(folder, 'copy.db');
    await copyLibrary(file, to);
    await database.close();
    const db = new Sqlite(to, { readonly: true });
    expect(db.prepare('SELECT DISTINCT name FROM patch').pluck().all()).toEqual(['fresh']);
    db.close();
  });
});

describe('the demo library', () => {
  it('is there as a whole or not at all when its making is broken off', async () => {
    const database = await openDatabase(file);
    const broken = database.write(async () => {
      await database.write((m) =>
        m.query(`INSERT INTO instrument (id, head, created_at) VALUES ('one', 1, '2026-10-01')`),
      );
      throw new Error('the power went');
    });
    await expect(broken).rejects.toThrow('the power went');
    await database.close();
    const db = new Sqlite(file);
    expect(db.prepare('SELECT count(*) FROM instrument').pluck().get()).toBe(0);
    db.close();
  });
});
