import { existsSync, mkdtempSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Patch } from '@hurrel/core';
import { createApp } from '../app';
import type { Config } from '../config';
import { openDatabase } from '../db/database';
import { loadDemo } from '../demo/load';
import doJob from '../work/worker';
import type { Work } from '../work/work';
import { createServices } from '../services';

export interface Answer {
  status: number;
  headers: Headers;
  // Tests look into answers of every shape.
  // oxlint-disable-next-line typescript/no-explicit-any
  body: any;
}

/** Works in this thread. */
const work: Work = {
  do: async (name, given) => (await doJob({ name, given: given as never })) as never,
  close: async () => undefined,
};

/** What tests share, and where their files are: gone after the run. */
const shared = process.env.HURREL_TEST_SHARED!;
export const temporary = (): string => mkdtempSync(join(shared, 'test-'));

/** A database with the demo library, made once in a run and copied for each test. */
let demo: Promise<Buffer> | undefined;
const demoDatabase = (): Promise<Buffer> => (demo ??= sharedDemo());

async function sharedDemo(): Promise<Buffer> {
  const file = join(shared, 'demo.db');
  if (!existsSync(file)) {
    // Two files of tests may begin at once: neither reads what the other has half written.
    const own = join(temporary(), 'demo.db');
    const database = await openDatabase(own);
    await loadDemo(database, createServices(database, work));
    await database.close();
    renameSync(own, file);
  }
  return readFileSync(file);
}

/**
 * The application over a database of its own with the demo library, or over a file that is there already; without a socket.
 */
export async function harness(config: Partial<Config> = {}, file = join(temporary(), 'test.db')) {
  if (!existsSync(file)) writeFileSync(file, await demoDatabase());
  const database = await openDatabase(file);
  const services = createServices(database, work);
  const app = createApp(services, {
    port: 0,
    host: '127.0.0.1',
    database: file,
    demo: true,
    wantsTls: false,
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
  return { app, call, byName, database, services };
}
