import fc from 'fast-check';
import { harness } from './testing/harness';
import { ConfigError, readConfig } from './config';
import { runs } from '../../core/src/testing/runs';

type Harness = Awaited<ReturnType<typeof harness>>;
let h: Harness;
beforeAll(async () => (h = await harness()));
afterAll(() => h.database.close());

const fingerprint = async (): Promise<unknown> =>
  h.database.source.query(
    `SELECT (SELECT count(*) FROM patch) p, (SELECT count(*) FROM patch_version) v, (SELECT count(*) FROM instrument) i`,
  );

interface Told {
  responses: Record<string, { content?: Record<string, { schema?: object }> }>;
}

describe('what is told of the interface over HTTP', () => {
  it('names for every request what it answers, refusals too', async () => {
    const h = await harness();
    const { body } = await h.call('GET', '/openapi.json');
    // Endless answers and the description itself have no description of their own.
    const lacking: string[] = [];
    for (const [path, requests] of Object.entries<Record<string, Told>>(body.paths))
      for (const [method, { responses }] of Object.entries(requests)) {
        const statuses = Object.keys(responses);
        if (!statuses.some((s) => s.startsWith('2')) || !statuses.some((s) => s.startsWith('4')))
          lacking.push(`${method} ${path} answers ${statuses.join()}`);
        for (const [status, { content = {} }] of Object.entries(responses))
          for (const [type, { schema }] of Object.entries(content))
            if (Object.keys(schema ?? {}).length === 0)
              lacking.push(`${method} ${path} ${status} ${type}`);
      }
    expect(lacking).toEqual([]);
    for (const name of ['Walk', 'Patch', 'Problem'])
      expect(Object.keys(body.components.schemas[name].properties).length).toBeGreaterThan(3);
    await h.database.close();
  });
});

describe('bad requests', () => {
  it.each<[string, string, string, unknown, Record<string, string>, number]>([
    ['no JSON', 'POST', '/patches', '{"name":', {}, 400],
    ['another type', 'POST', '/patches', 'name=x', { 'content-type': 'text/plain' }, 415],
    ['too large', 'POST', '/patches', JSON.stringify({ about: 'x'.repeat(1_100_000) }), {}, 413],
    ['no such page', 'GET', '/nothing', undefined, {}, 404],
    ['no such patch', 'GET', '/patches/nobody', undefined, {}, 404],
    ['an id that is none', 'GET', '/patches/a%20b', undefined, {}, 422],
    ['another method', 'PATCH', '/patches', {}, {}, 404],
    ['a body that is null', 'POST', '/check', 'null', {}, 422],
    ['an instrument that is an array', 'POST', '/instruments', [], {}, 422],
    ['a page beyond reason', 'GET', '/patches?page=1e99', undefined, {}, 422],
    [
      'a foreign page',
      'POST',
      '/check',
      {},
      { origin: 'http://elsewhere.example', host: '127.0.0.1' },
      403,
    ],
    ['a foreign name', 'GET', '/patches', undefined, { host: 'elsewhere.example' }, 403],
  ])('%s', async (_, method, path, body, headers, status) => {
    const answer = await h.call(method, path, body, headers);
    expect(answer.status).toBe(status);
    expect(answer.headers.get('content-type')).toContain('application/problem+json');
    expect(answer.body).toMatchObject({
      status,
      title: expect.any(String) as string,
      detail: expect.any(String) as string,
    });
  });

  it('name each field, deep inside too', async () => {
    const { id, patch } = await h.byName('Winch Room bass');
    const bad = {
      ...patch,
      tempo: 'fast',
      settings: { ...patch.settings, cutoff: { kind: 'range', from: 0.5, to: 0.2, best: 0.3 } },
    };
    const { body } = await h.call('PUT', `/patches/${id}`, bad, { 'if-match': '"1"' });
    expect(body.errors.map((e: { pointer: string }) => e.pointer).sort()).toEqual([
      '/settings/cutoff',
      '/tempo',
    ]);
    const ghost = { ...patch, settings: { ghost: { kind: 'any' } } };
    expect(
      (await h.call('PUT', `/patches/${id}`, ghost, { 'if-match': '"1"' })).body.errors[0],
    ).toMatchObject({ pointer: '/settings/ghost' });
  });

  it('by the hundred never end in a 500, and store nothing', async () => {
    const { id, patch } = await h.byName('Winch Room bass');
    const before = await fingerprint();
    const anything = fc
      .anything({ maxDepth: 3, withNullPrototype: false })
      .map((v) => JSON.stringify(v) ?? 'null');
    // A real document with one field replaced gets further than noise does.
    const bent = fc
      .tuple(fc.constantFrom(...Object.keys(patch)), fc.jsonValue({ maxDepth: 2 }))
      .map(([key, value]) => JSON.stringify({ ...patch, [key]: value }));
    const target = fc.constantFrom(
      ['POST', '/patches'],
      ['PUT', `/patches/${id}`],
      ['POST', '/instruments'],
      ['POST', '/readings/parse'],
      ['POST', '/check'],
      ['POST', '/rebuild'],
      ['POST', '/render'],
      ['PUT', `/patches/${id}/progress?from=start`],
    );
    const stale = { 'if-match': '"77"' };
    await fc.assert(
      fc.asyncProperty(
        target,
        fc.oneof(anything, bent),
        fc.boolean(),
        async ([method, path], body, wrap) => {
          const sent = wrap ? `{"patch":${body}}` : body;
          // What happens to be a whole patch may be created: everything else must be refused.
          if (path === '/patches' && wrap) return;
          const { status } = await h.call(method!, path!, sent, stale);
          expect([path, sent, status < 500]).toEqual([path, sent, true]);
          if (method === 'PUT' && !path!.includes('progress'))
            expect(status).toBeGreaterThanOrEqual(400);
        },
      ),
      { numRuns: runs(600) },
    );
    expect(await fingerprint()).toEqual(before);
  }, 60_000);
});

describe('configuration', () => {
  it('listens on this machine only, unless there is a passcode', () => {
    expect(readConfig({})).toMatchObject({ port: 4310, host: '127.0.0.1', demo: true });
    expect(readConfig({ PORT: '0', HURREL_DB: '/x/y.db', HURREL_DEMO: '0' })).toMatchObject({
      port: 0,
      database: '/x/y.db',
      demo: false,
    });
    expect(() => readConfig({ HOST: '0.0.0.0' })).toThrow(ConfigError);
    expect(() => readConfig({ HOST: '0.0.0.0', HURREL_PASSCODE: 'abc' })).toThrow(/at least 6/);
    expect(readConfig({ HOST: '0.0.0.0', HURREL_PASSCODE: 'low tide' }).passcode).toBe('low tide');
    expect(() => readConfig({ PORT: 'http' })).toThrow(/PORT is "http"/);
  });

  it('asks everyone for the passcode, and stops listening to who guesses', async () => {
    const open = await harness({ host: '0.0.0.0', passcode: 'low tide' });
    const basic = (code: string) => ({
      authorization: `Basic ${Buffer.from(`me:${code}`).toString('base64')}`,
    });
    expect((await open.call('GET', '/patches')).status).toBe(401);
    expect((await open.call('GET', '/patches', undefined, basic('low tide'))).status).toBe(200);
    for (let i = 0; i < 8; i++)
      expect((await open.call('GET', '/patches', undefined, basic('high'))).status).toBe(401);
    expect((await open.call('GET', '/patches', undefined, basic('low tide'))).status).toBe(429);
    await open.database.close();
  });

  it('sends a content security policy', async () => {
    const { headers } = await h.call('GET', '/health');
    expect(headers.get('content-security-policy')).toContain("script-src 'self'");
  });
});
