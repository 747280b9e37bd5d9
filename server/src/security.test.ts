import { Hono } from 'hono';
import { readConfig } from './config';
import { onError } from './problem';
import { DEVICE_COOKIE, doorGate, doorOf, sameOrigin } from './security';

const basic = (code: string) => ({
  authorization: `Basic ${Buffer.from(`x:${code}`).toString('base64')}`,
});
const device = { id: 'a', name: 'tablet', createdAt: '', seenAt: '' };
const devices = { knows: async (token: string) => (token === 'good' ? device : undefined) };

function behindADoor(now?: () => number) {
  const app = new Hono();
  app.onError(onError);
  app.use(doorGate(doorOf('low tide', now), devices));
  app.all('*', (c) => c.text('in'));
  return async (headers: Record<string, string>, method = 'GET', path = '/'): Promise<number> =>
    (await app.request(path, { method, headers })).status;
}

describe('the passcode', () => {
  it('is asked again after a minute of silence', async () => {
    let now = 0;
    const knock = behindADoor(() => now);
    for (let i = 0; i < 8; i++) expect(await knock(basic('guess'))).toBe(401);
    expect(await knock(basic('low tide'))).toBe(429);
    now = 61_000;
    expect(await knock(basic('low tide'))).toBe(200);
    expect(await knock(basic('guess'))).toBe(401);
  });

  it('lets in what shows the token of a device, and takes nothing malformed', async () => {
    const knock = behindADoor();
    expect(await knock({})).toBe(401);
    expect(await knock({ cookie: `${DEVICE_COOKIE}=good` })).toBe(200);
    expect(await knock({ cookie: `${DEVICE_COOKIE}=withdrawn` })).toBe(401);
    for (const authorization of [
      'Basic',
      'Basic ???',
      'Bearer low tide',
      `Basic ${btoa('low tide')}`,
    ]) {
      expect(await knock({ authorization })).toBe(401);
    }
  });

  it('leaves the door itself open, and nothing beside it', async () => {
    const knock = behindADoor();
    expect(await knock({}, 'POST', '/api/v1/devices')).toBe(200);
    expect(await knock({}, 'GET', '/api/v1/authority.pem')).toBe(200);
    expect(await knock({}, 'GET', '/api/v1/devices')).toBe(401);
    expect(await knock({}, 'DELETE', '/api/v1/devices/a')).toBe(401);
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
