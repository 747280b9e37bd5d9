import { mkdirSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type { Connection } from './connection';
import { examine } from './examine';

type Copy = Connection['backup'];

/** How many of the daily copies are kept. */
const KEPT = 14;
const DAILY = /^hurrel-\d{4}-\d{2}-\d{2}\.db$/;
const HOUR_MS = 3_600_000;

export const backupFolder = (file: string): string => join(dirname(file), 'backups');
export const dailyName = (day: Date): string => `hurrel-${day.toISOString().slice(0, 10)}.db`;

/** Copies a library to a file: whole and looked through, or not there at all. */
export async function backUp(copy: Copy, to: string): Promise<void> {
  mkdirSync(dirname(to), { recursive: true });
  const part = `${to}.part`;
  try {
    await copy(part);
    examine(part);
    renameSync(part, to);
  } finally {
    for (const end of ['', '-wal', '-shm', '-journal']) rmSync(part + end, { force: true });
  }
}

/** Keeps a copy a day beside the library, and the newest fourteen of them. */
export class DailyBackups {
  private timer: ReturnType<typeof setInterval> | undefined;

  constructor(
    private readonly library: { file: string; backup: Copy },
    private readonly now: () => Date = () => new Date(),
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
    if (there().includes(today)) return;
    await backUp(this.library.backup, join(folder, today));
    for (const old of there().sort().slice(0, -KEPT)) rmSync(join(folder, old));
  }
}
