import type sharp from 'sharp';
import type { Database } from '../db/database';
import { PhotographEntity, type PhotographRow } from '../db/entities';
import { Problem } from '../problem';
import { ByChecksum, sumOf } from './by-checksum';

/** A photograph that is kept. */
export interface StoredPhotograph {
  /** SHA-256 of its bytes. */
  id: string;
  width: number;
  height: number;
}

/** Picture elements that are read at most: a hostile file can say that it has billions. */
const MOST_PIXELS = 50_000_000;
/** Longest side of what is kept, in pixels: more than a sheet on a large screen shows. */
const LONGEST = 2400;
const QUALITY = 82;
const KINDS = new Set(['jpeg', 'png', 'webp']);

/** Photographs of panels: brought upright, made no larger than a sheet needs, and freed of what a camera wrote beside the picture. */
export class PhotographStore extends ByChecksum<PhotographRow> {
  constructor(database: Database) {
    super(database, {
      name: 'photograph',
      table: 'photograph',
      entity: PhotographEntity,
      named: 'instrument_version',
    });
  }

  /** Takes a picture as a camera gives it. @throws Problem for what is none, breaks off, or is too large */
  async add(bytes: Uint8Array): Promise<StoredPhotograph> {
    const { data, info } = await readable(async () => {
      const picture = (await decoder())(bytes, {
        limitInputPixels: MOST_PIXELS,
        failOn: 'truncated',
      });
      const { format } = await picture.metadata();
      if (!KINDS.has(format)) throw new Error('unsupported image format');
      return picture
        .rotate()
        .resize(LONGEST, LONGEST, { fit: 'inside', withoutEnlargement: true })
        .flatten({ background: '#ffffff' })
        .jpeg({ quality: QUALITY })
        .toBuffer({ resolveWithObject: true });
    });
    const { width, height } = info;
    return { id: await this.keep(data, { width, height }), width, height };
  }

  /** Takes one as another library kept it, under the same id. */
  async take(id: string, bytes: Uint8Array): Promise<void> {
    const { width, height, format } = await readable(async () =>
      (await decoder())(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'truncated' }).metadata(),
    );
    const kept = format === 'jpeg' && Math.max(width, height) <= LONGEST;
    if (!kept || sumOf(bytes) !== id)
      throw new Problem(422, 'Not a parcel', 'A photograph in it is not what was packed.');
    await this.keep(Buffer.from(bytes), { width, height });
  }
}

/** The decoder, loaded with the first picture: most that starts never sees one. */
async function decoder(): Promise<typeof sharp> {
  const { default: load } = await import('sharp');
  // One picture at a time leaves a core for everyone else.
  load.concurrency(1);
  return load;
}

const REFUSALS: [RegExp, string][] = [
  [/pixel limit/i, 'A photograph has 50 megapixels at most: make it smaller, and send it again.'],
  [
    /unsupported image format|missing or/i,
    'This is no picture that can be read: choose a JPEG, PNG or WebP.',
  ],
];

/** What the decoder cannot read is refused in a sentence. */
async function readable<T>(read: () => Promise<T>): Promise<T> {
  try {
    return await read();
  } catch (error) {
    const { message } = error as Error;
    const known = REFUSALS.find(([words]) => words.test(message))?.[1];
    throw new Problem(
      422,
      'Not a picture',
      known ?? 'The picture is damaged or breaks off: export it once more, and send that.',
    );
  }
}
