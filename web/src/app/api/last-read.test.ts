import { fetchKeepingLastRead } from './last-read';

interface Asked {
  method: string;
  bypass: string | null;
}

function withServer(status: number, kept: boolean): Asked[] {
  const asked: Asked[] = [];
  globalThis.fetch = (async (_: unknown, init: RequestInit = {}) => {
    const headers = new Headers(init.headers);
    asked.push({ method: init.method ?? 'GET', bypass: headers.get('ngsw-bypass') });
    return { ok: status < 300, status };
  }) as unknown as typeof fetch;
  Object.defineProperty(navigator, 'serviceWorker', {
    configurable: true,
    value: { controller: kept ? {} : null },
  });
  return asked;
}

const before = globalThis.fetch;
afterEach(() => {
  globalThis.fetch = before;
});

it('reads by the way that keeps a copy', async () => {
  const asked = withServer(200, true);
  await fetchKeepingLastRead('/api/v1/patches/1');
  expect(asked).toEqual([{ method: 'GET', bypass: null }]);
});

it('writes past the copy, and reads what was stored once more', async () => {
  const asked = withServer(200, true);
  await fetchKeepingLastRead('/api/v1/patches/1', { method: 'PUT', body: '{}' });
  expect(asked).toEqual([
    { method: 'PUT', bypass: 'true' },
    { method: 'GET', bypass: null },
  ]);
});

it.each([
  ['what was refused', 412, true, 'PUT'],
  ['where nothing is kept', 200, false, 'PUT'],
  ['what was asked to be computed', 200, true, 'POST'],
] as const)('reads nothing again: %s', async (_, status, kept, method) => {
  const asked = withServer(status, kept);
  await fetchKeepingLastRead('/api/v1/patches/1', { method });
  expect(asked).toEqual([{ method, bypass: 'true' }]);
});
