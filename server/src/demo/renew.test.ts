import { harness, temporary } from '../testing/harness';
import { join } from 'node:path';
import { patchSchema } from '@hurrel/core';
import { openDatabase } from '../db/database';
import { demoInstruments, demoPatches } from './library';
import { loadDemo } from './load';

type Harness = Awaited<ReturnType<typeof harness>>;
const ID = 'staithe-curlew';
interface Document {
  name: string;
  jacks: { id: string }[];
  controls: { id: string; place: { y: number }; bindings: { taper: object }[] }[];
}
const shipped = demoInstruments.find((d) => (d as { id: string }).id === ID) as Document;

/** A library that an older Hurrel has made: the instrument as it came then, and what was recorded on it. */
async function olderLibrary(then: (now: Document) => Document): Promise<Harness> {
  const file = join(temporary(), 'older.db');
  await (await openDatabase(file)).close();
  const h = await harness({}, file);
  await h.services.instruments.add(then(structuredClone(shipped)));
  const recorded = demoPatches.map((d) => patchSchema.parse(d)).filter((p) => p.instrument === ID);
  for (const patch of recorded) await h.services.patches.create(patch, 'by hand');
  return h;
}
const read = (h: Harness) => h.services.instruments.get(ID);
const patches = async (h: Harness): Promise<{ id: string; instrument: string }[]> =>
  (await h.call('GET', '/patches?size=200')).body.items.filter(
    (p: { instrument: string }) => p.instrument === ID,
  );

describe('what came with Hurrel, in a library of an older one', () => {
  it('becomes as it comes now, once, as a version of its own', async () => {
    const h = await olderLibrary((d) => ({ ...d, name: 'Curlew as it was' }));
    expect((await read(h)).instrument.name).toBe('Curlew as it was');
    await loadDemo(h.database, h.services);
    const now = await read(h);
    expect([now.version, now.instrument.name]).toEqual([2, shipped.name]);
    await loadDemo(h.database, h.services);
    expect((await read(h)).version).toBe(2);
    const history = (await h.call('GET', `/instruments/${ID}/versions`)).body.items;
    expect(history[0].origin).toBe('came with Hurrel');
  });

  it('moves what was recorded along where it only looks otherwise', async () => {
    const h = await olderLibrary((d) => ({
      ...d,
      controls: d.controls.map((c) => ({ ...c, place: { ...c.place, y: c.place.y + 2 } })),
    }));
    await loadDemo(h.database, h.services);
    const [one] = await patches(h);
    const { body } = await h.call('GET', `/patches/${one!.id}`);
    expect(await h.services.instruments.of(body.patch)).toEqual((await read(h)).instrument);
  });

  it('leaves what was recorded on the description that it was recorded on where it means something else', async () => {
    const h = await olderLibrary((d) => ({
      ...d,
      controls: d.controls.map((c) => {
        if (c.id !== 'cutoff') return c;
        const [bound] = c.bindings;
        return { ...c, bindings: [{ ...bound!, taper: { ...bound!.taper, hi: 9000 } }] };
      }),
    }));
    const was = (await read(h)).instrument;
    await loadDemo(h.database, h.services);
    expect((await read(h)).version).toBe(2);
    for (const { id } of await patches(h)) {
      const { body } = await h.call('GET', `/patches/${id}`);
      expect(body.version).toBe(1);
      expect(await h.services.instruments.of(body.patch)).toEqual(was);
    }
  });

  it('stays put away', async () => {
    const h = await olderLibrary((d) => ({ ...d, name: 'Curlew as it was' }));
    await h.services.instruments.putAway(ID, true);
    await loadDemo(h.database, h.services);
    const all = await h.services.instruments.all();
    expect(all.find((i) => i.id === ID)).toMatchObject({ archived: true, version: 2 });
  });
});
