import { type Entry, fromBuffer } from 'yauzl';
import { ZipFile } from 'yazl';

/** The files of a zip. */
export const unzipped = (bytes: Uint8Array): Promise<Map<string, Buffer>> =>
  new Promise((done, fail) => {
    const files = new Map<string, Buffer>();
    fromBuffer(Buffer.from(bytes), { lazyEntries: true }, (error, zip) => {
      if (error) return fail(error);
      zip.on('entry', (entry: Entry) =>
        zip.openReadStream(entry, (trouble, stream) => {
          if (trouble) return fail(trouble);
          const parts: Buffer[] = [];
          stream.on('data', (part: Buffer) => parts.push(part));
          stream.on('end', () => {
            files.set(entry.fileName, Buffer.concat(parts));
            zip.readEntry();
          });
        }),
      );
      zip.on('end', () => done(files));
      zip.readEntry();
    });
  });
/** A zip of files, in their order. */
export const zipped = async (files: [string, string | Buffer][]): Promise<Buffer> => {
  const zip = new ZipFile();
  for (const [name, content] of files) zip.addBuffer(Buffer.from(content), name);
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  return Buffer.concat(parts);
};
