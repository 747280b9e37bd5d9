import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Database } from '../db/database';
import { Problem } from '../problem';
import type { Stores } from '../store/stores';
import { isLibrary, packLibrary } from './library';
import { look, type Looked, readDocuments } from './look';
import { openParcel } from './open';
import { type Decisions, type Picks, takeIn, type TakenIn } from './take-in';

/** How long a file that was looked at waits for a decision. */
const WAITS_MS = 3_600_000;
/** How long it is told of a file that was taken in that it is: whoever asks how far it has come may ask late. */
const TOLD_MS = 60_000;
const NAME = /^[0-9a-f-]{36}(\.zip)?\.part(-wal|-shm)?$/;

/** What came, and what is to be decided of it. */
export interface Received {
  token: string;
  items: Looked[];
  library: boolean;
}

const clear = async (...files: (string | undefined)[]): Promise<void> => {
  for (const file of files)
    for (const end of ['', '-wal', '-shm'])
      if (file !== undefined) await rm(file + end, { force: true });
};

interface Waiting {
  file: string;
  /** The whole library that it was packed from; absent when documents came as such. */
  library?: string;
  /** It is being taken in, or is in. */
  state: 'waits' | 'taking' | 'taken';
  done: number;
  total: number;
  timer: NodeJS.Timeout;
}

/** Files that have come and were looked at, beside the library, until they are taken in or put down. */
export class WaitingParcels {
  private readonly waiting = new Map<string, Waiting>();

  /** @param storesOver the stores of another library, whose documents are looked at */
  constructor(
    private readonly services: () => Stores,
    private readonly storesOver: (database: Database) => Stores,
  ) {}

  /**
   * Takes a file as it comes, and looks at it as a whole. Nothing of it is stored.
   * @returns `library`: it is a whole one, which can also be put in the place of what is here
   */
  async receive(body: AsyncIterable<Uint8Array>): Promise<Received> {
    const services = this.services();
    const token = randomUUID();
    const folder = join(dirname(services.database.file), 'parcels');
    await mkdir(folder, { recursive: true });
    const sent = join(folder, `${token}.part`);
    const zip = join(folder, `${token}.zip.part`);
    try {
      await pipeline(Readable.from(body), createWriteStream(sent));
      const whole = await isLibrary(sent);
      if (whole) await packLibrary(sent, zip, this.storesOver);
      const file = whole ? zip : sent;
      const parcel = await openParcel(file);
      try {
        const read = await readDocuments(parcel);
        const looked = await look(services, read);
        const timer = setTimeout(() => void this.drop(token), WAITS_MS);
        timer.unref();
        const facts = { state: 'waits', done: 0, total: read.length, timer } as const;
        this.waiting.set(token, { file, ...(whole ? { library: sent } : {}), ...facts });
        return { token, items: looked, library: whole };
      } finally {
        parcel.close();
      }
    } catch (error) {
      await clear(sent, zip);
      throw error;
    }
  }

  /** Puts the whole library that came in the place of what is here. @returns the file of the copy that was made first */
  async putInPlace(token: string): Promise<{ copy: string }> {
    const found = this.find(token);
    if (found.library === undefined)
      throw new Problem(409, 'Not a library', 'This file holds documents, not a whole library.');
    if (found.state === 'taking')
      throw new Problem(409, 'Under way', 'This file is being taken in already: wait for it.');
    found.state = 'taking';
    try {
      const copy = await this.services().database.replaceBy(found.library);
      await this.close(token, found);
      return { copy };
    } finally {
      if (found.state === 'taking') found.state = 'waits';
    }
  }

  /** How far taking in has come. */
  progress(token: string): { done: number; total: number } {
    const { done, total } = this.find(token, true);
    return { done, total };
  }

  async takeIn(token: string, decisions: Decisions, picks: Picks): Promise<TakenIn> {
    const found = this.find(token);
    if (found.state === 'taking') {
      throw new Problem(409, 'Under way', 'This file is being taken in already: wait for it.');
    }
    found.state = 'taking';
    try {
      const parcel = await openParcel(found.file);
      try {
        const read = await readDocuments(parcel);
        const taken = await takeIn(this.services(), parcel, read, decisions, picks, (done) => {
          found.done = done;
        });
        await this.close(token, found);
        return taken;
      } finally {
        parcel.close();
      }
    } finally {
      if (found.state === 'taking') found.state = 'waits';
    }
  }

  private find(token: string, taken = false): Waiting {
    const found = this.waiting.get(token);
    if (found && (taken || found.state !== 'taken')) return found;
    throw new Problem(404, 'Not found', 'That file was put down again: choose it once more.');
  }

  /** It is in: the file goes, and that it is in is told for a while. */
  private async close(token: string, found: Waiting): Promise<void> {
    clearTimeout(found.timer);
    found.state = 'taken';
    found.done = found.total;
    found.timer = setTimeout(() => this.waiting.delete(token), TOLD_MS);
    found.timer.unref();
    await clear(found.file, found.library);
  }

  async drop(token: string): Promise<void> {
    const found = this.waiting.get(token);
    if (!found) return;
    clearTimeout(found.timer);
    this.waiting.delete(token);
    await clear(found.file, found.library);
  }

  /** Clears what an earlier run left. */
  async clear(): Promise<void> {
    const folder = join(dirname(this.services().database.file), 'parcels');
    const left = await readdir(folder).catch(() => []);
    for (const name of left.filter((n) => NAME.test(n)))
      await rm(join(folder, name), { force: true });
  }
}
