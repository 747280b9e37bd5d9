/** Why the library cannot be written, or not be read. */
export type TroubleKind = 'full' | 'read-only' | 'busy' | 'damaged' | 'failing';

export interface Trouble {
  kind: TroubleKind;
  /** For people: what is wrong, and what to do. */
  says: string;
}

const SAYINGS: Record<TroubleKind, string> = {
  full: 'The disk that holds the library is full. Make room on it: what waits is saved by itself then.',
  'read-only':
    'The library may only be read: its file or folder is write-protected. Allow writing to it: what waits is saved by itself then.',
  busy: 'Another program holds the library and does not let go. Close it: what waits is saved by itself then.',
  damaged:
    'The library is damaged. Stop the server and put back a backup (npm run restore): see docs/backup.md.',
  failing:
    'The disk that holds the library does not take what is written. Look after the disk; what waits is kept in this browser.',
};

/**
 * On a full disk there is no room for the file through which connections share a library. One that uses it alone does without,
 * and can read.
 */
export const ALONE = 'locking_mode = EXCLUSIVE';
export const wantsRoom = ({ kind }: Trouble): boolean => kind === 'full' || kind === 'failing';

/** Errors of SQLite, and of files beside the library, by the beginning of their codes. */
const CODES: [string, TroubleKind][] = [
  ['SQLITE_FULL', 'full'],
  ['SQLITE_READONLY', 'read-only'],
  ['SQLITE_PERM', 'read-only'],
  ['SQLITE_BUSY', 'busy'],
  ['SQLITE_LOCKED', 'busy'],
  ['SQLITE_CORRUPT', 'damaged'],
  ['SQLITE_NOTADB', 'damaged'],
  ['SQLITE_IOERR', 'failing'],
  ['SQLITE_CANTOPEN', 'failing'],
  ['SQLITE_NOMEM', 'failing'],
  ['SQLITE_PROTOCOL', 'failing'],
  ['ENOSPC', 'full'],
  ['EDQUOT', 'full'],
  ['EROFS', 'read-only'],
  ['EACCES', 'read-only'],
];

export const trouble = (kind: TroubleKind): Trouble => ({ kind, says: SAYINGS[kind] });

/** The trouble that an error tells of; undefined when it is none of the disk's or the file's. */
export function troubleOf(error: unknown): Trouble | undefined {
  const code = codeOf(error);
  const found = CODES.find(([begins]) => code.startsWith(begins));
  return found && trouble(found[1]);
}

/** SQLite's code of an error, or of the one that TypeORM has wrapped; empty when it has none. */
function codeOf(error: unknown): string {
  if (typeof error !== 'object' || error === null) return '';
  const { code, driverError } = error as { code?: unknown; driverError?: unknown };
  if (typeof code === 'string') return code;
  return driverError === undefined || driverError === error ? '' : codeOf(driverError);
}
