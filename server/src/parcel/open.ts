import { createHash } from 'node:crypto';
import { open as openFile, readFile, stat } from 'node:fs/promises';
import { promisify } from 'node:util';
import { type Entry, open as openZip, type ZipFile } from 'yauzl';
import { Problem } from '../problem';
import { manifestSchema, PARCEL_VERSION, type ParcelItem, type ParcelKind } from './manifest';

/** Files in one parcel, bytes of one document, bytes of all of them once they are unpacked. */
const MOST_FILES = 50_000;
const MOST_DOCUMENT = 2 * 1024 * 1024;
const MOST_BYTES = 4 * 1024 * 1024 * 1024;
/** What is more than so many times as large when it is unpacked is made to burst. */
const MOST_RATIO = 400;

/** A parcel that was looked into: its items, each checked against what the manifest says of it as it is read. */
export interface OpenParcel {
  items: readonly ParcelItem[];
  /** A document. */
  json(item: ParcelItem): Promise<unknown>;
  /** A take or a photograph, piece by piece. */
  bytes(item: ParcelItem): AsyncIterable<Uint8Array>;
  close(): void;
}

/** What is no document: it is read piece by piece. */
export const isRaw = ({ kind }: ParcelItem): boolean =>
  ['take', 'photograph', 'sound'].includes(kind);

const refuse = (detail: string): Problem => new Problem(422, 'Not a parcel', detail);

/** Opens a zip of documents, or a single document as a file. @throws Problem in one sentence, with what to do */
export async function openParcel(file: string): Promise<OpenParcel> {
  const handle = await openFile(file);
  const { buffer } = await handle.read({ buffer: Buffer.alloc(4), length: 4, position: 0 });
  await handle.close();
  if (buffer.toString('latin1') === 'PK\u0003\u0004') return openZipped(file);
  if (/^[\s{[]|^\u00ef\u00bb\u00bf/.test(buffer.toString('latin1'))) return openSingle(file);
  throw refuse('This is neither a zip nor a document of Hurrel: choose a file that Hurrel saved.');
}

/** JSON, with or without a mark of its byte order in front. @throws SyntaxError */
const parsed = (text: string): unknown => JSON.parse(text.replace(/^\ufeff/, '')) as unknown;

async function openSingle(file: string): Promise<OpenParcel> {
  // Looked at before a byte of it is read: what is larger would stop everybody, or end the server.
  const { size } = await stat(file);
  if (size > MOST_DOCUMENT)
    throw refuse('This is larger than any document of Hurrel: 2 MB at most. Choose another file.');
  const text = await readFile(file, 'utf8');
  let document: { format?: unknown; id?: unknown; name?: unknown };
  try {
    document = parsed(text) as typeof document;
    if (typeof document !== 'object' || document === null) throw new Error('no document');
  } catch {
    throw refuse('The document breaks off or is no JSON: save it once more, and choose that.');
  }
  const kinds: Record<string, ParcelKind> = {
    'hurrel-instrument': 'instrument',
    'hurrel-patch': 'patch',
    'hurrel-session': 'session',
    'hurrel-set': 'evening',
  };
  const kind = kinds[String(document.format)];
  if (!kind)
    throw refuse(
      'This is no patch, instrument, recording or set: its "format" says something else.',
    );
  const item: ParcelItem = {
    path: 'document.json',
    kind,
    id: kind === 'instrument' ? String(document.id) : 'document',
    name: String(document.name),
    size: text.length,
    sha256: '0'.repeat(64),
  };
  return {
    items: [item],
    json: () => Promise.resolve(document),
    bytes: () => {
      throw refuse('There is no take in this document.');
    },
    close: () => undefined,
  };
}

async function openZipped(file: string): Promise<OpenParcel> {
  const zip = await unzip(file);
  try {
    const entries = await entriesOf(zip);
    const manifest = entries.get('manifest.json');
    if (!manifest)
      throw refuse('There is no manifest.json in this zip: choose one that Hurrel made.');
    const text = (await whole(zip, manifest)).toString('utf8');
    const items = readManifest(text);
    for (const item of items) {
      const entry = entries.get(item.path);
      if (!entry) throw refuse(`${item.path} is missing from the zip: make it once more.`);
      if (entry.uncompressedSize !== item.size)
        throw refuse(
          `${item.path} is not as long as it was: the zip was damaged or changed. Make it once more.`,
        );
      if (!isRaw(item) && item.size > MOST_DOCUMENT)
        throw refuse(`${item.path} is larger than any document: 2 MB at most.`);
    }
    const entryOf = (item: ParcelItem): Entry => entries.get(item.path)!;
    return {
      items,
      async json(item) {
        const bytes = await whole(zip, entryOf(item));
        checkSum(item, createHash('sha256').update(bytes).digest('hex'));
        try {
          return parsed(bytes.toString('utf8'));
        } catch {
          throw refuse(`${item.path} is no JSON: make the zip once more.`);
        }
      },
      async *bytes(item) {
        const hash = createHash('sha256');
        for await (const piece of await streamOf(zip, entryOf(item))) {
          hash.update(piece as Buffer);
          yield piece as Buffer;
        }
        checkSum(item, hash.digest('hex'));
      },
      close: () => zip.close(),
    };
  } catch (error) {
    zip.close();
    throw error;
  }
}

function checkSum(item: ParcelItem, found: string): void {
  if (found === item.sha256) return;
  throw refuse(
    `${item.path} is not what was packed: the zip was damaged or changed. Make it once more.`,
  );
}

function readManifest(text: string): ParcelItem[] {
  let source: { format?: unknown; version?: unknown };
  try {
    source = JSON.parse(text) as typeof source;
  } catch {
    throw refuse('The manifest of this zip is damaged: make the zip once more.');
  }
  if (
    source.format === 'hurrel-parcel' &&
    typeof source.version === 'number' &&
    source.version > PARCEL_VERSION
  )
    throw refuse('This zip was made by a newer Hurrel: update this one, and try again.');
  const read = manifestSchema.safeParse(source);
  if (!read.success) throw refuse('The manifest of this zip says nothing that Hurrel knows.');
  const paths = new Set(read.data.items.map((i) => i.path));
  if (paths.size < read.data.items.length) throw refuse('The manifest names a file twice.');
  return read.data.items;
}

async function unzip(file: string): Promise<ZipFile> {
  try {
    const options = { lazyEntries: true, autoClose: false };
    return await promisify<string, typeof options, ZipFile>(openZip)(file, options);
  } catch {
    throw refuse('The zip is damaged or breaks off: make it once more, or copy it anew.');
  }
}

/** All entries by their name. Names that climb out of their folder are refused, and so is what is made to burst. */
function entriesOf(zip: ZipFile): Promise<Map<string, Entry>> {
  if (zip.entryCount > MOST_FILES)
    return Promise.reject(
      refuse(`There are ${zip.entryCount} files in this zip: ${MOST_FILES} at most.`),
    );
  return new Promise((done, fail) => {
    const entries = new Map<string, Entry>();
    let bytes = 0;
    zip.on('entry', (entry: Entry) => {
      bytes += entry.uncompressedSize;
      const bursts =
        entry.uncompressedSize > 1024 * 1024 &&
        entry.uncompressedSize > MOST_RATIO * Math.max(1, entry.compressedSize);
      if (bursts || bytes > MOST_BYTES) {
        fail(
          refuse('Unpacked this zip would be larger than anything Hurrel makes: it is not opened.'),
        );
        return;
      }
      entries.set(entry.fileName, entry);
      zip.readEntry();
    });
    zip.on('end', () => done(entries));
    zip.on('error', (error: Error) =>
      fail(
        /relative path|absolute path|invalid characters/.test(error.message)
          ? refuse('A file in this zip would climb out of its folder: it is not opened.')
          : refuse('The zip is damaged or breaks off: make it once more, or copy it anew.'),
      ),
    );
    zip.readEntry();
  });
}

const streamOf = (zip: ZipFile, entry: Entry): Promise<NodeJS.ReadableStream> =>
  new Promise((done, fail) =>
    zip.openReadStream(entry, (error, stream) => {
      if (error) fail(refuse(`${entry.fileName} cannot be unpacked: the zip is damaged.`));
      else done(stream);
    }),
  );

async function whole(zip: ZipFile, entry: Entry): Promise<Buffer> {
  if (entry.uncompressedSize > 64 * 1024 * 1024)
    throw refuse(`${entry.fileName} is larger than any document.`);
  const parts: Buffer[] = [];
  try {
    for await (const part of await streamOf(zip, entry)) parts.push(part as Buffer);
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw refuse(`${entry.fileName} cannot be unpacked: the zip is damaged.`);
  }
  return Buffer.concat(parts);
}
