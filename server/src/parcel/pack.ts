import { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import type { Packed } from './gather';
import { PARCEL_VERSION } from './manifest';

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
  for (const { item, text, pieces } of packed) {
    if (text !== undefined) zip.addBuffer(Buffer.from(text), item.path, options);
    // A take is opened when its turn comes, and is as good as not to be made smaller.
    else if (pieces)
      zip.addReadStreamLazy(item.path, { ...options, compress: false, size: item.size }, (take) =>
        take(null, Readable.from(pieces())),
      );
  }
  zip.end();
  return zip.outputStream as unknown as Readable;
}
