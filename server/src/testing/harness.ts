import type { Patch } from '@hurrel/core';
import { createApp } from '../app';
import type { Config } from '../config';
import { openDatabase } from '../db/database';
import { loadDemo } from '../demo/load';
import renderWav from '../render/worker';
import { InstrumentStore } from '../store/instruments';
import { PatchStore } from '../store/patches';
import { ProgressStore } from '../store/progress';
import { SessionStore } from '../store/sessions';
import { UnitStore } from '../store/units';

export interface Answer {
  status: number;
  headers: Headers;
  // Tests look into answers of every shape.
  // eslint-disable-next-line @typescript-eslint/no-explicit-any
  body: any;
}

/** The application over a database of its own, without a socket; the renderer works in this thread. */
export async function harness(config: Partial<Config> = {}, file = ':memory:') {
  const database = await openDatabase(file);
  const instruments = new InstrumentStore(database);
  const patches = new PatchStore(database, instruments);
  const units = new UnitStore(database, instruments);
  const sessions = new SessionStore(database);
  await loadDemo(instruments, patches, units, sessions);
  const renderer = {
    wav: async (job: Parameters<typeof renderWav>[0]) => renderWav(job),
    close: async () => undefined,
  };
  const services = {
    instruments,
    patches,
    units,
    sessions,
    progress: new ProgressStore(database),
    renderer,
  };
  const app = createApp(services, {
    port: 0,
    host: '127.0.0.1',
    database: file,
    demo: true,
    ...config,
  });

  async function call(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer> {
    const response = await app.request(`/api/v1${path}`, {
      method,
      headers: {
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        ...headers,
      },
      ...(body === undefined
        ? {}
        : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    const type = response.headers.get('content-type') ?? '';
    return {
      status: response.status,
      headers: response.headers,
      body: type.includes('json')
        ? await response.json()
        : new Uint8Array(await response.arrayBuffer()),
    };
  }

  const byName = async (name: string): Promise<{ id: string; version: number; patch: Patch }> => {
    const list = await call('GET', '/patches');
    const id = list.body.items.find((p: { name: string }) => p.name === name).id as string;
    return (await call('GET', `/patches/${id}`)).body;
  };
  return { app, call, byName, database };
}
