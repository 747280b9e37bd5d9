import { mkdirSync, readdirSync, renameSync, rmSync, statfsSync, statSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { dirname, join } from 'node:path';
import type { Connection } from './connection';
import { examine } from './examine';
import type { Storage } from './storage';
import { damagesIn } from './verify';

type Copy = Connection['backup'];

/** How many of the daily copies are kept. */
const KEPT = 14;
const DAILY = /^hurrel-\d{4}-\d{2}-\d{2}\.db$/;
const CUT_OFF = /^hurrel-.*\.part(-wal|-shm|-journal)?$/;
const HOUR_MS = 3_600_000;

export const backupFolder = (file: string): string => join(dirname(file), 'backups');
export const dailyName = (day: Date): string => `hurrel-${day.toISOString().slice(0, 10)}.db`;

/** Copies a library to a file: whole and looked through, or not there at all. */
export async function backUp(copy: Copy, to: string): Promise<void> {
  mkdirSync(dirname(to), { recursive: true });
  const part = `${to}.${randomUUID()}.part`;
  try {
    await copy(part);
    examine(part);
    renameSync(part, to);
  } finally {
    for (const end of ['', '-wal', '-shm', '-journal']) rmSync(part + end, { force: true });
  }
}

/** Bytes that copies leave free for the library itself. */
const LEFT_FREE = 1024 ** 3;
/** Older copies make room for today's, down to so many. */
const LEAST = 2;

const freeIn = (folder: string): number => {
  const { bavail, bsize } = statfsSync(folder);
  return bavail * bsize;
};

/**
 * Keeps a copy a day beside the library, and the newest fourteen of them. A large library shall not fill its own disk with
 * copies: where room is short the oldest ones go first, and where even that does not do there is none, which is said.
 */
export class DailyBackups {
  private timer: ReturnType<typeof setInterval> | undefined;

  constructor(
    private readonly library: { file: string; backup: Copy; storage?: Storage },
    private readonly now: () => Date = () => new Date(),
    private readonly free: (folder: string) => number = freeIn,
  ) {}

  start(): void {
    const keep = (): void => {
      this.keep().catch((error: unknown) =>
        console.error(`Today’s backup could not be made: ${(error as Error).message}`),
      );
    };
    keep();
    this.timer = setInterval(keep, HOUR_MS);
    this.timer.unref();
  }

  stop(): void {
    clearInterval(this.timer);
  }

  /** Makes today's copy, unless there is one. */
  async keep(): Promise<void> {
    const folder = backupFolder(this.library.file);
    mkdirSync(folder, { recursive: true });
    const today = dailyName(this.now());
    const there = (): string[] => readdirSync(folder).filter((name) => DAILY.test(name));
    // What was cut off half way.
    for (const name of readdirSync(folder).filter((n) => CUT_OFF.test(n)))
      rmSync(join(folder, name), { force: true });
    if (there().includes(today)) return;
    const needed = statSync(this.library.file).size + LEFT_FREE;
    while (this.free(folder) < needed) {
      const oldest = there().sort().slice(0, -LEAST)[0];
      if (oldest === undefined)
        throw new Error(
          `${folder} has ${Math.round(this.free(folder) / 1024 ** 2)} MB free, and a copy wants ${Math.round(needed / 1024 ** 2)} MB. Make room, or back up elsewhere: npm run backup -- FILE.`,
        );
      rmSync(join(folder, oldest));
    }
    await backUp(this.library.backup, join(folder, today));
    const damages = await damagesIn(join(folder, today));
    this.library.storage?.tellDamages(damages);
    for (const { kind, name, id, number } of damages)
      console.error(`Version ${number} of the ${kind} "${name}" (${id}) is damaged on the disk.`);
    for (const old of there().sort().slice(0, -KEPT)) rmSync(join(folder, old));
  }
}
