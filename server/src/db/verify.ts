import { setImmediate as rest } from 'node:timers/promises';
import Sqlite from 'better-sqlite3';
import { sumOfText } from './sum';

/** A version that is not what it was when it was written. */
export interface Damage {
  kind: string;
  id: string;
  /** As the lists have it. */
  name: string;
  number: number;
}

const KINDS = ['patch', 'instrument', 'unit', 'session', 'evening'];
/** Versions that are looked at in one go: everybody else is answered in between. */
const AT_ONCE = 20;

/** Looks through every version in a library's file; finds those whose checksum is another one. */
export async function damagesIn(file: string): Promise<Damage[]> {
  const db = new Sqlite(file, { fileMustExist: true });
  // Not opened as read-only: that would leave files beside it.
  db.pragma('query_only = ON');
  try {
    const found: Damage[] = [];
    for (const kind of KINDS) {
      const part = db.prepare(
        `SELECT v.rowid AS row, v.${kind}_id AS id, v.number, v.document, v.sum, d.name
         FROM ${kind}_version v LEFT JOIN ${kind} d ON d.id = v.${kind}_id
         WHERE v.rowid > ? AND v.sum IS NOT NULL ORDER BY v.rowid LIMIT ${AT_ONCE}`,
      );
      for (let after = -1; ; await rest()) {
        const rows = part.all(after) as (Damage & { row: number; document: string; sum: string })[];
        for (const { id, name, number, document, sum } of rows)
          if (sumOfText(document) !== sum) found.push({ kind, id, name, number });
        if (rows.length < AT_ONCE) break;
        after = rows.at(-1)!.row;
      }
    }
    return found;
  } finally {
    db.close();
  }
}
