import { Readable } from 'node:stream';
import { setImmediate as rest } from 'node:timers/promises';
import { ZipFile } from 'yazl';
import type { Packed } from './gather';
import { PARCEL_VERSION } from './manifest';

/** Files that are put in in one go. */
const AT_ONCE = 5;

/** A parcel as it goes out: a zip with its manifest in front. */
export function pack(packed: readonly Packed[], made: Date): Readable {
  const zip = new ZipFile();
  const manifest = {
    format: 'hurrel-parcel',
    version: PARCEL_VERSION,
    made: made.toISOString(),
    items: packed.map(({ item }) => item),
  };
  const options = { mtime: made };
  zip.addBuffer(Buffer.from(JSON.stringify(manifest, null, 1)), 'manifest.json', options);
  const out = zip.outputStream as unknown as Readable;
  const addAll = async (): Promise<void> => {
    for (const [i, { item, text, pieces }] of packed.entries()) {
      if (text !== undefined) zip.addBuffer(Buffer.from(text), item.path, options);
      // A take is opened when its turn comes, and is as good as not to be made smaller.
      else if (pieces)
        zip.addReadStreamLazy(item.path, { ...options, compress: false, size: item.size }, (take) =>
          take(null, Readable.from(pieces())),
        );
      // Everybody else is answered in between.
      if (i % AT_ONCE === 0) await rest();
    }
    zip.end();
  };
  addAll().catch((error: Error) => out.destroy(error));
  return out;
}
