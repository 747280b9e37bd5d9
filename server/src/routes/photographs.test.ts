import { harness, temporary } from '../testing/harness';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { instrumentOf, readOutline, SOMEWHERE, withPhotograph } from '@hurrel/core';
import sharp from 'sharp';
import { openDatabase } from '../db/database';
import { PhotographStore } from '../store/photographs';

type Harness = Awaited<ReturnType<typeof harness>>;

const picture = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#7a5230' } });
const send = async (h: Harness, bytes: Uint8Array) => {
  const response = await h.app.request('/api/v1/photographs', {
    method: 'POST',
    headers: { 'content-type': 'image/jpeg' },
    body: new Uint8Array(bytes),
  });
  // oxlint-disable-next-line typescript/no-explicit-any
  return { status: response.status, body: (await response.json()) as any };
};
const fetched = async (h: Harness, id: string): Promise<Buffer> =>
  Buffer.from(await (await h.app.request(`/api/v1/photographs/${id}`)).arrayBuffer());
const text = 'Crane by Saltpan\n\nFilter:\ncutoff 0..10';
const crane = { ...instrumentOf(readOutline(text).outline, text), id: 'saltpan-crane' };
const lain = (id: string) =>
  withPhotograph(crane, { id, corners: SOMEWHERE, width: 600, height: 400, shown: 0.5 });

describe('a photograph', () => {
  it('is kept upright, no larger than a sheet needs, without what the camera wrote', async () => {
    const h = await harness();
    // Exif: turned by a quarter, taken by somebody.
    const given = await picture(3000, 2000)
      .withExif({ IFD0: { Artist: 'nobody', Orientation: '6' } })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    const { status, body } = await send(h, given);
    expect(status).toBe(201);
    expect([body.width, body.height]).toEqual([1600, 2400]);
    const bytes = await fetched(h, body.id);
    expect(createHash('sha256').update(bytes).digest('hex')).toBe(body.id);
    expect((await sharp(bytes).metadata()).exif).toBeUndefined();
    // The same once more is the same.
    expect((await send(h, given)).body.id).toBe(body.id);
    const png = await send(h, await picture(40, 30).png().toBuffer());
    expect([png.status, png.body.width]).toEqual([201, 40]);
  });

  it('is refused in one sentence where it is none, broken, of a kind that is not read, or too large', async () => {
    const h = await harness();
    const count = () => h.database.write((m) => m.query('SELECT count(*) n FROM photograph'));
    const before = await count();
    const whole = await picture(800, 600).jpeg().toBuffer();
    const svg = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>');
    for (const [bytes, words] of [
      [Buffer.from('this is no picture'), /JPEG, PNG or WebP/],
      [Buffer.alloc(0), /JPEG, PNG or WebP|damaged/],
      [svg, /JPEG, PNG or WebP/],
      [whole.subarray(0, whole.length / 2), /breaks off/],
      [await picture(10000, 6000).png({ compressionLevel: 1 }).toBuffer(), /50 megapixels/],
    ] as const) {
      const { status, body } = await send(h, bytes);
      expect(status).toBe(422);
      expect(body.detail).toMatch(words);
    }
    expect(await count()).toEqual(before);
    expect((await h.app.request(`/api/v1/photographs/${'0'.repeat(64)}`)).status).toBe(404);
    const long = await h.app.request('/api/v1/photographs', {
      method: 'POST',
      headers: { 'content-length': String(50 * 1024 * 1024) },
      body: new Uint8Array(10),
    });
    expect(long.status).toBe(413);
  });

  it('travels with its instrument, and is cleared once no version names it', async () => {
    const here = await harness();
    const { body } = await send(here, await picture(900, 600).jpeg().toBuffer());
    await here.call('POST', '/instruments', lain(body.id));
    const zip = await here.app.request('/api/v1/parcel.zip?instruments=saltpan-crane');
    const bytes = new Uint8Array(await zip.arrayBuffer());

    const file = join(temporary(), 'empty.db');
    await (await openDatabase(file)).close();
    const there = await harness({}, file);
    const sent = await there.app.request('/api/v1/parcels', { method: 'POST', body: bytes });
    const { token, items } = (await sent.json()) as { token: string; items: { key: string }[] };
    expect(items.map((i) => i.key)).toEqual(['instrument:saltpan-crane']);
    expect((await there.call('POST', `/parcels/${token}`, { decisions: {} })).status).toBe(200);
    expect(await fetched(there, body.id)).toEqual(await fetched(here, body.id));

    const kept = new PhotographStore(there.database);
    // One that is named stays, one that is loose goes when it is a day old.
    const loose = (await send(there, await picture(50, 50).jpeg().toBuffer())).body.id as string;
    await kept.clear();
    expect(await kept.has(loose)).toBe(true);
    await there.database.write((m) =>
      m.query("UPDATE photograph SET created_at = '2020-01-01T00:00:00.000Z'"),
    );
    await kept.clear();
    expect(await kept.has(loose)).toBe(false);
    expect(await kept.has(body.id)).toBe(true);
  });
});
