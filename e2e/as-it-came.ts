import { createRequire } from 'node:module';
import type SqliteConnection from 'better-sqlite3';

const Sqlite = createRequire(new URL('../server/package.json', import.meta.url))(
  'better-sqlite3',
) as typeof SqliteConnection;

/** What is kept of each document, by its kind and id: its newest version, and what was ticked of its rebuild. */
function kept(database: string): Map<string, string> {
  const connection = new Sqlite(database, { readonly: true });
  try {
    const rows = ['patch', 'session', 'evening', 'unit'].flatMap((kind) =>
      (
        connection.prepare(`select id, name, head, deleted_at as gone from ${kind}`).all() as {
          id: string;
          name: string;
          head: number;
          gone: string | null;
        }[]
      ).map(({ id, name, head, gone }): [string, string] => [
        `${kind}/${id}`,
        `${name}: version ${head}${gone ? ', removed' : ''}`,
      ]),
    );
    const ticked = (
      connection.prepare('select patch_id as id, updated_at as at from rebuild_progress').all() as {
        id: string;
        at: string;
      }[]
    ).map(({ id, at }): [string, string] => [`patch/${id}`, `rebuilt ${at}`]);
    const all = new Map(rows);
    for (const [id, says] of ticked) all.set(id, `${all.get(id) ?? ''}, ${says}`);
    return all;
  } finally {
    connection.close();
  }
}

/**
 * Watches what came with Hurrel in a library that tests share: whoever changes it would be met by another, in an order that
 * nobody chose.
 */
export class AsItCame {
  private readonly came: ReadonlyMap<string, string>;
  private now: ReadonlyMap<string, string>;

  constructor(private readonly database: string) {
    this.now = this.came = kept(database);
  }

  /** What came with Hurrel and was changed since the last look. */
  changed(): string[] {
    const before = this.now;
    this.now = kept(this.database);
    return [...this.came.keys()].flatMap((id) => {
      const [was, is] = [before.get(id), this.now.get(id) ?? 'gone'];
      return is === was ? [] : [`${is} (was ${was})`];
    });
  }
}
