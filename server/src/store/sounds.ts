import { setImmediate } from 'node:timers/promises';
import { FEED_SECONDS, type Patch } from '@hurrel/core';
import type { Database } from '../db/database';
import { SoundEntity, type SoundRow } from '../db/entities';
import { invalid, Problem } from '../problem';
import { ByChecksum, sumOf } from './by-checksum';
import { TakeCheck } from './take-check';

/** A recording that is kept. */
export interface StoredSound {
  /** SHA-256 of its bytes. */
  id: string;
  seconds: number;
}

/** Bytes that are looked through in one go. */
const PIECE = 1024 * 1024;

/** Recordings that patches are fed with: WAV files of a minute at most, as they were given. */
export class SoundStore extends ByChecksum<SoundRow> {
  constructor(database: Database) {
    super(database, {
      name: 'recording',
      table: 'sound',
      entity: SoundEntity,
      named: 'patch_version',
    });
  }

  /** @throws Problem for what is no WAV, breaks off, or is too long */
  async add(bytes: Uint8Array): Promise<StoredSound> {
    const seconds = await this.look(bytes);
    if (seconds > FEED_SECONDS) {
      throw invalid([
        {
          pointer: '',
          message: `It lasts ${Math.round(seconds)} s. What is fed in lasts ${FEED_SECONDS} s at most: cut it, and send that.`,
        },
      ]);
    }
    return { id: await this.keep(Buffer.from(bytes), { seconds }), seconds };
  }

  /** Takes one as another library kept it, under the same id. */
  async take(id: string, bytes: Uint8Array): Promise<void> {
    if (sumOf(bytes) !== id)
      throw new Problem(422, 'Not a parcel', 'A recording in it is not what was packed.');
    await this.add(bytes);
  }

  /** The WAV file that a patch is fed with; undefined for one that is not. @throws Problem when it is not here */
  async of({ feed }: Pick<Patch, 'feed'>): Promise<Uint8Array | undefined> {
    if (!feed) return undefined;
    if (await this.has(feed.sound)) return (await this.read(feed.sound)).bytes;
    throw new Problem(
      422,
      'Recording missing',
      `"${feed.name}", which this patch is fed with, is not here: choose its WAV file again in the patch's details.`,
    );
  }

  /** Looks through a WAV file, a piece at a time, so that others are answered in between. @returns its length in s */
  private async look(bytes: Uint8Array): Promise<number> {
    const check = new TakeCheck();
    for (let at = 0; at < bytes.length || at === 0; at += PIECE) {
      check.piece(bytes.subarray(at, at + PIECE));
      await setImmediate();
    }
    return check.end().seconds;
  }
}
