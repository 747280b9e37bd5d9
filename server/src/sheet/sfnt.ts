import { inflateSync } from 'node:zlib';

/** Bytes of a WOFF file's header, of an entry of its table directory, and of both in a plain font. */
const WOFF = { header: 44, entry: 20 };
const PLAIN = { header: 12, entry: 16 };

/**
 * The plain font (TrueType or OpenType) that a WOFF file packs. Whoever draws from a packed one unpacks a whole table for
 * each glyph. Source: W3C, WOFF File Format 1.0, sections 3 to 5.
 *
 * @throws Error where it is no WOFF file of version 1, or is broken
 */
export function sfntOf(woff: Buffer): Buffer {
  if (woff.length < WOFF.header || woff.toString('latin1', 0, 4) !== 'wOFF')
    throw new Error('The font is no WOFF file.');
  const count = woff.readUInt16BE(12);
  const tables = Array.from({ length: count }, (_, i) =>
    tableOf(woff, WOFF.header + i * WOFF.entry),
  );
  const header = Buffer.alloc(PLAIN.header + count * PLAIN.entry);
  const power = Math.floor(Math.log2(count));
  header.writeUInt32BE(woff.readUInt32BE(4), 0);
  header.writeUInt16BE(count, 4);
  header.writeUInt16BE(PLAIN.entry * 2 ** power, 6);
  header.writeUInt16BE(power, 8);
  header.writeUInt16BE(PLAIN.entry * (count - 2 ** power), 10);
  const parts = [header];
  let at = header.length;
  tables.forEach(({ tag, checksum, data }, i) => {
    const entry = PLAIN.header + i * PLAIN.entry;
    header.writeUInt32BE(tag, entry);
    header.writeUInt32BE(checksum, entry + 4);
    header.writeUInt32BE(at, entry + 8);
    header.writeUInt32BE(data.length, entry + 12);
    // Each begins at a multiple of four.
    const padded = Buffer.alloc(4 * Math.ceil(data.length / 4));
    data.copy(padded);
    parts.push(padded);
    at += padded.length;
  });
  return Buffer.concat(parts);
}

function tableOf(woff: Buffer, entry: number): { tag: number; checksum: number; data: Buffer } {
  const [tag, offset, packed, length, checksum] = [0, 4, 8, 12, 16].map((at) =>
    woff.readUInt32BE(entry + at),
  ) as [number, number, number, number, number];
  const stored = woff.subarray(offset, offset + packed);
  // What packing would not make shorter is stored as it is.
  const data = packed === length ? stored : inflateSync(stored);
  if (data.length !== length) throw new Error('The font file breaks off.');
  return { tag, checksum, data };
}
