import { Hono } from 'hono';
import { readConfig } from './config';
import { onError } from './problem';
import { passcodeGate, sameOrigin } from './security';

const basic = (code: string) => ({
  authorization: `Basic ${Buffer.from(`x:${code}`).toString('base64')}`,
});

describe('the passcode', () => {
  it('is asked again after a minute of silence', async () => {
    let now = 0;
    const app = new Hono();
    app.onError(onError);
    app.use(passcodeGate('low tide', () => now));
    app.get('/', (c) => c.text('in'));
    const knock = async (code: string): Promise<number> =>
      (await app.request('/', { headers: basic(code) })).status;
    for (let i = 0; i < 8; i++) expect(await knock('guess')).toBe(401);
    expect(await knock('low tide')).toBe(429);
    now = 61_000;
    expect(await knock('low tide')).toBe(200);
    expect(await knock('guess')).toBe(401);
  });

  it('tells the browser to ask, and takes nothing malformed', async () => {
    const app = new Hono();
    app.use(passcodeGate('low tide'));
    app.get('/', (c) => c.text('in'));
    const bare = await app.request('/');
    expect([bare.status, bare.headers.get('www-authenticate')]).toEqual([
      401,
      expect.stringContaining('Basic'),
    ]);
    for (const authorization of [
      'Basic',
      'Basic ???',
      'Bearer low tide',
      `Basic ${btoa('low tide')}`,
    ]) {
      expect((await app.request('/', { headers: { authorization } })).status).toBe(401);
    }
  });
});

describe('who may change things', () => {
  const app = new Hono();
  app.onError(onError);
  app.use(sameOrigin(readConfig({})));
  app.all('/', (c) => c.text('done'));
  const ask = async (method: string, headers: Record<string, string>): Promise<number> =>
    (await app.request('/', { method, headers })).status;

  it.each([
    ['POST', { host: '127.0.0.1:4310', origin: 'http://127.0.0.1:4310' }, 200],
    ['POST', { host: 'localhost:4310' }, 200],
    ['POST', { host: '127.0.0.1:4310', origin: 'http://evil.example' }, 403],
    ['POST', { host: '127.0.0.1:4310', origin: 'null' }, 403],
    ['GET', { host: '127.0.0.1:4310', origin: 'http://evil.example' }, 200],
    ['GET', { host: 'rebound.example' }, 403],
    ['GET', { host: '[::1]:4310' }, 200],
  ])('%s %j: %p', async (method, headers, status) =>
    expect(await ask(method, headers as never)).toBe(status),
  );
});
