import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { runs } from '../../core/src/testing/runs';
import { ServerProcess } from './testing/process';

/** Times the process is killed while it is saving. */
const KILLS = runs(20, 100);

interface Stored {
  id: string;
  version: number;
  patch: { tempo: number };
}

it('a server killed while saving loses nothing that it had acknowledged', async () => {
  // As deep as the built server, and where its packages are found.
  const bundle = join(process.cwd(), 'server/.cache');
  execFileSync('node', ['tools/build-server.mjs', bundle]);
  const folder = mkdtempSync(join(tmpdir(), 'hurrel-test-'));
  const server = new ServerProcess(join(bundle, 'main.js'), join(folder, 'killed.db'));
  const ask = async <T>(path: string, method = 'GET', body?: object, headers = {}): Promise<T> => {
    const answer = await fetch(`${server.url}/api/v1/patches${path}`, {
      method,
      headers: { 'content-type': 'application/json', ...headers },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status}`);
    return (await answer.json()) as T;
  };
  await server.start();
  const made = { from: 'init', name: 'Killed', instrument: 'oxbow-sluice', role: 'bass' };
  const { id } = await ask<Stored>('', 'POST', made);
  let newest = 1;
  let tempo = 120;
  for (let kill = 0; kill < KILLS; kill++) {
    const stored = await ask<Stored>(`/${id}`);
    // What was acknowledged is there; what was under way is there whole, or not at all.
    expect(stored.version).toBeGreaterThanOrEqual(newest);
    expect(stored.version).toBeLessThanOrEqual(newest + 1);
    if (stored.version === newest) expect(stored.patch.tempo).toBe(tempo);
    newest = stored.version;
    tempo = stored.patch.tempo;
    // Killed at another place of the work each time: after so many saves, with the next one under way.
    const saves = 1 + (kill % 7);
    for (let n = 0; n <= saves; n++) {
      const next = 60 + ((tempo - 59) % 200);
      const patch = { ...stored.patch, tempo: next };
      const writing = ask<Stored>(`/${id}`, 'PUT', patch, { 'if-match': `"${newest}"` });
      if (n < saves) {
        ({ version: newest } = await writing);
        tempo = next;
      } else {
        const outcome = writing.then(
          ({ version }) => ([newest, tempo] = [version, next]),
          () => undefined,
        );
        await server.stop('SIGKILL');
        await outcome;
      }
    }
    await server.start();
  }
  const { total } = await ask<{ total: number }>(`/${id}/versions`);
  expect(total).toBe((await ask<Stored>(`/${id}`)).version);
  expect(await server.stop('SIGINT')).toBe(0);
  rmSync(folder, { recursive: true, force: true });
}, 600_000);
