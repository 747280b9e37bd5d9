import { harness } from '../testing/harness';
import { instrumentOf, readOutline } from '@hurrel/core';

const text = `Crane by Saltpan

Filter:
cutoff 0..10
wave saw/pulse
drive 0..10`;
const panel = (outline: string) => ({
  ...instrumentOf(readOutline(outline).outline, outline),
  id: 'saltpan-crane',
});
const ifMatch = (version: number) => ({ 'if-match': `"${version}"` });
interface Read {
  id: string;
  version: number;
}

/** An instrument with as many patches, each with another cutoff. */
async function withPatches(count: number) {
  const { call, ...rest } = await harness();
  await call('POST', '/instruments', panel(text));
  for (let i = 0; i < count; i++) {
    const { body } = await call('POST', '/patches', {
      from: 'nothing',
      instrument: 'saltpan-crane',
      name: `Quay ${String(i).padStart(2, '0')}`,
    });
    const settings = {
      'filter-cutoff': { kind: 'set', value: i / count },
      'filter-wave': { kind: 'set', value: 'pulse' },
      'filter-drive': { kind: 'set', value: 0.5 },
    };
    await call('PUT', `/patches/${body.id}`, { ...body.patch, settings }, ifMatch(1));
  }
  const redraw = (outline: string, version = 1) =>
    call('PUT', '/instruments/saltpan-crane', panel(outline), ifMatch(version));
  const behind = async (): Promise<Read[]> =>
    (await call('GET', '/instruments/saltpan-crane/behind')).body.items.map(
      ({ id, version }: Read) => ({ id, version }),
    );
  const carry = (more: object) => call('POST', '/instruments/saltpan-crane/carry', more);
  return { call, redraw, behind, carry, ...rest };
}

describe('an instrument described anew under fifty patches', () => {
  const other = text.replace('cutoff 0..10', 'brightness 0..20').replace('saw/pulse', 'saw/square');

  it('leaves each exactly as it was until it is carried over, all at once, and back', async () => {
    const { call, redraw, behind, carry } = await withPatches(50);
    const all = async () =>
      (await call('GET', '/patches?instrument=saltpan-crane')).body.items as { id: string }[];
    const bodies = () =>
      all().then((list) =>
        Promise.all(list.map(async ({ id }) => (await call('GET', `/patches/${id}`)).body)),
      );
    const before = await bodies();
    const sheet = async () =>
      (await call('POST', '/rebuild', { from: 'start', to: { patchId: before[25].id } })).body;
    const plan = await sheet();
    expect(await behind()).toEqual([]);
    await redraw(other);
    expect(await bodies()).toEqual(before);
    expect(await sheet()).toEqual(plan);
    const patches = await behind();
    expect(patches).toHaveLength(50);

    const looked = await carry({ patches, look: true });
    expect(
      looked.body.items[0].items.map((i: { how: string; key: string }) => [i.how, i.key]),
    ).toEqual([
      ['renamed', 'control:filter-cutoff'],
      ['asked', 'position:filter-wave.pulse'],
    ]);
    expect(await bodies()).toEqual(before);

    const answers = { 'position:filter-wave.pulse': 'square' };
    const carried = await carry({ patches, answers });
    expect(carried.status).toBe(200);
    expect(await behind()).toEqual([]);
    const after = await bodies();
    expect(after.map((p) => p.patch.settings['filter-brightness'].value)).toEqual(
      before.map((p) => p.patch.settings['filter-cutoff'].value / 2),
    );
    expect(after[0]).toMatchObject({
      version: 3,
      patch: { edition: 2, settings: { 'filter-wave': { value: 'square' } } },
    });
    const steps = (await sheet()).steps.map((s: { to: string }) => s.to);
    expect(steps).toEqual(plan.steps.map((s: { to: string }) => s.to.replace('pulse', 'square')));

    const back = await call('POST', '/patches/carried/back', {
      patches: carried.body.items.map(({ id, version }: Read) => ({ id, version })),
    });
    expect(back.status).toBe(200);
    expect((await bodies()).map((p) => p.patch)).toEqual(before.map((p) => p.patch));
    expect(await behind()).toHaveLength(50);
  });

  it('carries all of them or none, and says who went on meanwhile', async () => {
    const { call, redraw, behind, carry } = await withPatches(3);
    await redraw(other);
    const patches = await behind();
    const { body } = await call('GET', `/patches/${patches[1]!.id}`);
    await call('PUT', `/patches/${body.id}`, { ...body.patch, about: 'dark' }, ifMatch(2));
    const refused = await carry({ patches });
    expect([refused.status, refused.body.current.id]).toEqual([412, body.id]);
    expect(await behind()).toHaveLength(3);
    const strange = await carry({ patches: [{ id: 'none', version: 1 }] });
    expect(strange.status).toBe(404);
    const tooMany = await carry({ patches: Array(101).fill(patches[0]) });
    expect(tooMany.status).toBe(422);
  });

  it('shows, checks and prints a patch on the description it stands on', async () => {
    const { call, redraw } = await withPatches(1);
    const [{ id }] = (await call('GET', '/patches?instrument=saltpan-crane')).body.items;
    const { body } = await call('GET', `/patches/${id}`);
    await redraw(other);
    expect((await call('POST', '/check', { patch: body.patch })).status).toBe(200);
    const ahead = await call('PUT', `/patches/${id}`, { ...body.patch, edition: 2 }, ifMatch(2));
    expect(ahead.body.errors[0]).toEqual({
      pointer: '/settings/filter-cutoff',
      message: 'Crane has no control "filter-cutoff".',
    });
    const beyond = await call('PUT', `/patches/${id}`, { ...body.patch, edition: 3 }, ifMatch(2));
    expect(beyond.body.errors).toEqual([
      {
        pointer: '/edition',
        message: 'There is no version 3 of this instrument: 2 is the newest.',
      },
    ]);
    const made = await call('POST', '/patches', {
      from: 'start',
      instrument: 'saltpan-crane',
      name: 'New',
    });
    expect(made.body.patch.edition).toBe(2);
    // One may be rebuilt from the other: its readings are what counts.
    const plan = await call('POST', '/rebuild', {
      from: { patchId: id },
      to: { patchId: made.body.id },
    });
    expect(plan.status).toBe(200);
  });
});
