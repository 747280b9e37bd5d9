import { createWriteStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { type Database, openDatabase } from '../db/database';
import { examine, LibraryError, MAGIC } from '../db/examine';
import { Problem } from '../problem';
import type { Stores } from '../store/stores';
import { gather } from './gather';
import { pack } from './pack';

/** Whether a file is a whole library, as a backup saves it. */
export async function isLibrary(file: string): Promise<boolean> {
  const handle = await open(file);
  try {
    const { buffer } = await handle.read(Buffer.alloc(MAGIC.length), 0, MAGIC.length, 0);
    return buffer.toString('latin1') === MAGIC;
  } finally {
    await handle.close();
  }
}

/**
 * Packs all documents of a library into a zip, so that they are looked at and taken in one by one; the file is brought up to
 * date on the way. @throws Problem when it is damaged, of something else, or of a newer Hurrel
 */
export async function packLibrary(
  file: string,
  zip: string,
  storesOver: (database: Database) => Stores,
): Promise<void> {
  try {
    if (examine(file).isNew) throw new LibraryError('There is nothing in this library.');
  } catch (error) {
    if (!(error instanceof LibraryError)) throw error;
    // Where it lies for the moment is nobody's concern.
    const says = error.message.split('. ')[0]!.replaceAll(file, 'This library');
    throw new Problem(422, 'Not a library', `${says}. Choose another backup.`);
  }
  const database = await openDatabase(file);
  try {
    const packed = await gather(storesOver(database), {});
    await pipeline(Readable.from(pack(packed, new Date())), createWriteStream(zip));
  } finally {
    await database.close();
  }
}
