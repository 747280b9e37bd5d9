import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { Api, expect, Server, temporaryFolder, test } from './app';

/** Times the process is killed while it is saving. */
const KILLS = 20;

test('a server killed while saving loses nothing that it had acknowledged', async ({ request }) => {
  test.setTimeout(240_000);
  const folder = temporaryFolder();
  const server = new Server(join(folder, 'killed.db'));
  await server.start();
  const id = (await new Api(request, server.url).create('init', 'Killed')).id;
  let newest = 1;
  let tempo = 100;
  for (let kill = 0; kill < KILLS; kill++) {
    const api = new Api(request, server.url);
    const stored = await api.get(`/patches/${id}`);
    // What was acknowledged is there; what was under way is there whole, or not at all.
    expect(stored.version).toBeGreaterThanOrEqual(newest);
    expect(stored.version).toBeLessThanOrEqual(newest + 1);
    if (stored.version === newest) expect(stored.patch.tempo).toBe(newest === 1 ? 120 : tempo);
    newest = stored.version;
    tempo = stored.patch.tempo;
    let running = true;
    const writing = (async () => {
      while (running) {
        const next = 60 + ((tempo - 59) % 200);
        try {
          const status = await api.put(stored, { ...stored.patch, tempo: next }, newest);
          if (status !== 200) break;
          newest++;
          tempo = next;
        } catch {
          break;
        }
      }
    })();
    // Killed at another place of the work each time.
    await expect
      .poll(() => newest, { intervals: [1] })
      .toBeGreaterThan(stored.version + (kill % 7));
    await server.stop('SIGKILL');
    running = false;
    await writing;
    await server.start();
  }
  const api = new Api(request, server.url);
  const versions = await api.get<{ total: number }>(`/patches/${id}/versions`);
  expect(versions.total).toBe((await api.get(`/patches/${id}`)).version);
  expect(await server.stop('SIGINT')).toBe(0);
  rmSync(folder, { recursive: true, force: true });
});
