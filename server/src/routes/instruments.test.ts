import { harness } from '../testing/harness';
import { instrumentOf, readOutline } from '@hurrel/core';

const text = `Crane by Saltpan

Filter:
cutoff 0..10
wave saw/pulse`;
const panel = (outline: string) => ({
  ...instrumentOf(readOutline(outline).outline, outline),
  id: 'saltpan-crane',
});
const ifMatch = (version: number) => ({ 'if-match': `"${version}"` });

async function withCrane() {
  const { call, ...rest } = await harness();
  const made = await call('POST', '/instruments', panel(text));
  expect([made.status, made.headers.get('etag')]).toEqual([201, '"1"']);
  return { call, ...rest };
}

describe('an instrument of one’s own', () => {
  it('is listed with what it is, recorded, compared and rebuilt before it has a circuit', async () => {
    const { call } = await withCrane();
    const { body } = await call('GET', '/instruments');
    const crane = body.items.find((i: { id: string }) => i.id === 'saltpan-crane');
    expect(crane).toMatchObject({
      controls: 2,
      version: 1,
      readyMade: false,
      modelled: false,
      patches: 0,
    });
    expect(body.items[0]).toMatchObject({ readyMade: true, modelled: true });
    const made = await call('POST', '/patches', {
      from: 'nothing',
      instrument: 'saltpan-crane',
      name: 'First',
    });
    const patch = {
      ...made.body.patch,
      settings: {
        'filter-cutoff': { kind: 'set', value: 0.35 },
        'filter-wave': { kind: 'set', value: 'pulse' },
      },
    };
    const saved = await call('PUT', `/patches/${made.body.id}`, patch, ifMatch(1));
    expect(saved.status).toBe(200);
    const subject = { patchId: made.body.id };
    const plan = await call('POST', '/rebuild', { from: 'start', to: subject });
    expect(plan.body.steps.map((s: { to: string }) => s.to)).toEqual(['3.5', 'pulse']);
    expect((await call('POST', '/check', subject)).body.items).toEqual([]);
    const heard = await call('POST', '/render', subject);
    expect([heard.status, heard.body.detail]).toEqual([
      422,
      'Nothing is said of the circuit of Crane: its patches are recorded, compared and rebuilt, and not heard.',
    ]);
    expect((await call('GET', `/patches/${made.body.id}/sheet.pdf`)).status).toBe(200);
  });

  it('has versions: each is kept, told in order, and can come back', async () => {
    const { call } = await withCrane();
    const next = panel(`${text}\nresonance 0..10`);
    const saved = await call('PUT', '/instruments/saltpan-crane', next, ifMatch(1));
    expect([saved.status, saved.headers.get('etag'), saved.body.version]).toEqual([200, '"2"', 2]);
    // The same once more makes no version.
    const again = await call('PUT', '/instruments/saltpan-crane', next, ifMatch(2));
    expect(again.body.version).toBe(2);
    const stale = await call('PUT', '/instruments/saltpan-crane', panel(text), ifMatch(1));
    expect([stale.status, stale.body.current.version]).toEqual([412, 2]);
    expect((await call('PUT', '/instruments/saltpan-crane', next)).status).toBe(428);
    const { body } = await call('GET', '/instruments/saltpan-crane/versions');
    expect(body.items.map((v: { number: number; origin: string }) => [v.number, v.origin])).toEqual(
      [
        [2, 'edited'],
        [1, 'created'],
      ],
    );
    const first = await call('GET', '/instruments/saltpan-crane/versions/1');
    expect(first.body.instrument.controls).toHaveLength(2);
    const back = await call(
      'POST',
      '/instruments/saltpan-crane/versions/1/restore',
      undefined,
      ifMatch(2),
    );
    expect(back.body).toMatchObject({ version: 3, instrument: { controls: { length: 2 } } });
    const newest = await call('GET', '/instruments/saltpan-crane/stored');
    expect(newest.body).toMatchObject({ version: 3 });
  });

  it('goes along with what only adds to it, and keeps the older description for what was recorded on it', async () => {
    const { call } = await withCrane();
    const standing = async () => (await call('GET', '/instruments/saltpan-crane/standing')).body;
    const put = (outline: string, version: number) =>
      call('PUT', '/instruments/saltpan-crane', panel(outline), ifMatch(version));
    const more = `${text}\nresonance 0..10`;
    await put(more, 1);
    expect(await standing()).toEqual({ version: 2, since: 1 });
    await put(more.replace('cutoff 0..10', 'cutoff 0..5'), 2);
    expect(await standing()).toEqual({ version: 3, since: 3 });
    const scaleOf = async (edition: string) => {
      const { body } = await call('GET', `/instruments/saltpan-crane?edition=${edition}`);
      return [body.controls?.length, body.controls?.[0].scale.marks.at(-1).value];
    };
    expect(await scaleOf('1')).toEqual([3, 10]);
    expect(await scaleOf('2')).toEqual([3, 10]);
    expect(await scaleOf('3')).toEqual([3, 5]);
    expect((await call('GET', '/instruments/saltpan-crane?edition=4')).status).toBe(404);
    const changes = await call('GET', '/instruments/saltpan-crane/versions/3/changes');
    expect(changes.body.items.map((d: { subject: string }) => d.subject)).toContain(
      'Filter cutoff',
    );
  });

  it('is removed only when nothing was recorded on it, comes back, and can be put away', async () => {
    const { call } = await withCrane();
    const made = await call('POST', '/patches', {
      from: 'nothing',
      instrument: 'saltpan-crane',
      name: 'Quay',
    });
    const remove = () =>
      call('DELETE', '/instruments/saltpan-crane', undefined, { 'if-match': '*' });
    const refused = await remove();
    expect([refused.status, refused.body.detail]).toEqual([
      409,
      'It is used by Quay. Remove those first, or put the instrument away: it is kept for them, and not offered any more.',
    ]);
    expect((await call('PUT', '/instruments/saltpan-crane/away', { away: true })).status).toBe(200);
    const listed = async () =>
      (await call('GET', '/instruments')).body.items.find(
        (i: { id: string }) => i.id === 'saltpan-crane',
      );
    expect(await listed()).toMatchObject({ archived: true, patches: 1 });
    await call('DELETE', `/patches/${made.body.id}`, undefined, { 'if-match': '*' });
    expect((await remove()).status).toBe(200);
    expect(await listed()).toBeUndefined();
    // What was recorded on it can still be taken back.
    expect((await call('POST', `/patches/${made.body.id}/restore`)).status).toBe(200);
    expect((await call('POST', '/check', { patchId: made.body.id })).status).toBe(200);
    expect((await call('POST', '/instruments/saltpan-crane/restore')).status).toBe(200);
    expect(await listed()).toMatchObject({ version: 1 });
    const ready = await call('DELETE', '/instruments/oxbow-sluice', undefined, { 'if-match': '*' });
    expect(ready.body.title).toBe('Ready-made');
  });

  it('that came with Hurrel stays as it is, and so does an id', async () => {
    const { call } = await withCrane();
    const { body: sluice } = await call('GET', '/instruments/oxbow-sluice');
    const ready = await call('PUT', '/instruments/oxbow-sluice', sluice, ifMatch(1));
    expect([ready.status, ready.body.title]).toEqual([409, 'Ready-made']);
    const other = await call(
      'PUT',
      '/instruments/saltpan-crane',
      { ...panel(text), id: 'b' },
      ifMatch(1),
    );
    expect(other.body.errors).toEqual([{ pointer: '/id', message: 'An instrument keeps its id.' }]);
    const wrong = await call(
      'PUT',
      '/instruments/saltpan-crane',
      { ...panel(text), parms: {} },
      ifMatch(1),
    );
    expect(wrong.status).toBe(422);
    expect((await call('GET', '/instruments/none/stored')).status).toBe(404);
  });
});

describe('panels as pictures', () => {
  it('of every instrument and of a patch, known again by their version', async () => {
    const { call } = await withCrane();
    const { items } = (await call('GET', '/instruments')).body;
    for (const { id } of items as { id: string }[]) {
      const drawn = await call('GET', `/instruments/${id}/panel.svg`);
      expect([drawn.status, drawn.headers.get('content-type')]).toEqual([
        200,
        'image/svg+xml; charset=utf-8',
      ]);
    }
    const [patch] = (await call('GET', '/patches')).body.items;
    const at = `/patches/${patch.id}/panel.svg`;
    const first = await call('GET', at);
    const again = await call('GET', at, undefined, {
      'if-none-match': `W/${first.headers.get('etag')}`,
    });
    expect([first.status, again.status]).toEqual([200, 304]);
  });
});
