import type { Marks } from '@hurrel/core';
import { harness } from '../testing/harness';

let h: Awaited<ReturnType<typeof harness>>;
let evening: string;
beforeAll(async () => {
  h = await harness();
  evening = (await h.call('GET', '/evenings')).body.items[0].id;
});
afterAll(() => h.database.close());

const AT = '2026-12-12T21:00:00.000Z';
const mark = (value: string, clock: number, device: string, more = {}) => ({
  value,
  clock,
  device,
  at: AT,
  ...more,
});
const begin = async (kind = 'rehearsal', before = {}): Promise<string> => {
  const { body, status } = await h.call('POST', `/evenings/${evening}/walks`, { kind, before });
  expect(status).toBe(200);
  return body.walk.id;
};
const marksOf = async (id: string): Promise<Marks> =>
  (await h.call('GET', `/walks/${id}`)).body.marks;

describe('a walk through a set', () => {
  it('on stage goes on until it is ended, whoever begins it', async () => {
    const before = { sluice: { settings: { cutoff: { kind: 'set', value: 0.4 } } } };
    const id = await begin('stage', before);
    expect(await begin('stage')).toBe(id);
    expect((await h.call('GET', `/walks/${id}`)).body.walk).toMatchObject({
      evening,
      kind: 'stage',
      before: { sluice: { settings: { cutoff: { value: 0.4 } } } },
      endedAt: null,
    });
    expect((await h.call('POST', `/walks/${id}/end`)).body.walk.endedAt).not.toBeNull();
    const next = await begin('stage');
    expect(next).not.toBe(id);
    const { items } = (await h.call('GET', `/evenings/${evening}/walks`)).body;
    expect(items.map((w: { id: string }) => w.id)).toEqual(expect.arrayContaining([id, next]));
    await h.call('POST', `/walks/${next}/end`);
  });

  it('takes what was said apart, in any order and more than once', async () => {
    const id = await begin();
    const [cutoff, wave] = ['work/a/p/cutoff', 'work/a/p/wave'];
    await h.call('POST', `/walks/${id}/marks`, { marks: { [cutoff]: mark('open', 3, 'left') } });
    const late = { [cutoff]: mark('done', 2, 'right'), [wave]: mark('done', 1, 'right') };
    const stands = (await h.call('POST', `/walks/${id}/marks`, { marks: late })).body.marks;
    expect(stands[cutoff].value).toBe('open');
    await h.call('POST', `/walks/${id}/marks`, { marks: late });
    expect(await marksOf(id)).toEqual({
      [cutoff]: mark('open', 3, 'left'),
      [wave]: mark('done', 1, 'right'),
    });
  });

  it('teaches how long movements take', async () => {
    const id = await begin();
    const more = { person: 'low', kind: 'knob', seconds: 2.5 };
    const marks = { 'work/a/p/x': mark('done', 1, 'd', more), 'work/a/p/y': mark('done', 2, 'd') };
    await h.call('POST', `/walks/${id}/marks`, { marks });
    const { items } = (await h.call('GET', `/evenings/${evening}/timed`)).body;
    expect(items).toEqual([{ ...more, at: AT, key: 'work/a/p/x' }]);
  });

  it('is heard while it goes on: what is news, and nothing else', async () => {
    const id = await begin();
    const answer = await h.app.request(`/api/v1/walks/${id}/stream`);
    expect(answer.headers.get('content-type')).toContain('text/event-stream');
    const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader();
    let heard = '';
    const until = async (words: string): Promise<void> => {
      while (!heard.includes(words)) {
        const { value, done } = await reader.read();
        if (done) throw new Error(`It ended before "${words}": ${heard}`);
        heard += value;
      }
    };
    await until('event: open');
    const said = { 'work/a/p/x': mark('done', 1, 'd') };
    await h.call('POST', `/walks/${id}/marks`, { marks: said });
    await h.call('POST', `/walks/${id}/marks`, { marks: said });
    await h.call('POST', `/walks/${id}/marks`, { marks: { 'at/low': mark('a', 2, 'd') } });
    await until('at/low');
    expect(heard.match(/event: marks/g)).toHaveLength(2);
    h.services.walks.told.close();
    expect((await reader.read()).done).toBe(true);
  });

  it.each([
    ['POST', '/evenings/nobody/walks', { kind: 'stage', before: {} }, 404],
    ['POST', '/evenings/E/walks', { kind: 'concert', before: {} }, 422],
    ['POST', '/evenings/E/walks', { kind: 'stage', before: { a: { settings: 3 } } }, 422],
    ['POST', '/walks/none/marks', { marks: {} }, 404],
    ['POST', '/walks/W/marks', { marks: { 'work/a': mark('done', -1, 'd') } }, 422],
    ['POST', '/walks/W/marks', { marks: { 'work/a': { ...mark('done', 1, 'd'), x: 1 } } }, 422],
    ['POST', '/walks/W/marks', { marks: { words: mark('done', 1, 'd') } }, 422],
    ['GET', '/walks/none', undefined, 404],
    ['GET', '/walks/none/stream', undefined, 404],
  ])('%s %s is refused, and nothing is kept', async (method, path, given, expected) => {
    const walk = await begin();
    const { status, body } = await h.call(
      method,
      path.replace('E', evening).replace('W', walk),
      given,
    );
    expect(status).toBe(expected);
    expect(body.detail).toBeDefined();
    expect(await marksOf(walk)).toEqual({});
  });
});
