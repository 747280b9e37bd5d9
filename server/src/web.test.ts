import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { OpenAPIHono } from '@hono/zod-openapi';
import { serveWeb } from './web';

describe('the built interface', () => {
  const folder = mkdtempSync(join(tmpdir(), 'hurrel-web-'));
  const app = new OpenAPIHono();
  beforeAll(() => {
    writeFileSync(join(folder, 'index.html'), '<h1>Hurrel</h1>');
    writeFileSync(join(folder, 'main-ABCD1234.js'), 'plain');
    writeFileSync(join(folder, 'main-ABCD1234.js.gz'), gzipSync('small'));
    writeFileSync(join(folder, 'chunk-1a2bcdef.js'), 'joined');
    writeFileSync(join(folder, 'live-practice.js'), 'no hash');
    writeFileSync(join(folder, 'ngsw.json'), '{}');
    serveWeb(app, folder);
  });
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it('gives what the build has made small to those who can read it', async () => {
    const small = await app.request('/main-ABCD1234.js', {
      headers: { 'accept-encoding': 'gzip, br' },
    });
    expect(small.headers.get('content-encoding')).toBe('gzip');
    expect(small.headers.get('content-type')).toContain('text/javascript');
    expect(small.headers.get('vary')).toBe('Accept-Encoding');
    expect(Buffer.from(await small.arrayBuffer())).toEqual(gzipSync('small'));
    const plain = await app.request('/main-ABCD1234.js');
    expect(plain.headers.get('content-encoding')).toBeNull();
    expect(await plain.text()).toBe('plain');
  });

  it('keeps names with a hash for good, and asks again for all others', async () => {
    const kept = async (path: string) => (await app.request(path)).headers.get('cache-control');
    expect(await kept('/main-ABCD1234.js')).toContain('immutable');
    expect(await kept('/chunk-1a2bcdef.js')).toContain('immutable');
    expect(await kept('/live-practice.js')).toBe('no-cache');
    expect(await kept('/ngsw.json')).toBe('no-cache');
    expect(await kept('/')).toBe('no-cache');
  });

  it('answers any address that is no file with the page', async () => {
    const answer = await app.request('/patch/none/chart');
    expect(answer.status).toBe(200);
    expect(await answer.text()).toContain('<h1>Hurrel</h1>');
  });

  it('says that it is not built yet', async () => {
    const bare = new OpenAPIHono();
    serveWeb(bare, join(folder, 'nothing'));
    const answer = await bare.request('/');
    expect(answer.status).toBe(503);
    expect(await answer.text()).toContain('npm start');
  });
});
