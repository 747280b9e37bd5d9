import { instrumentOf } from '../core/src/outline/instrument';
import { readOutline } from '../core/src/outline/read';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import {
  type APIRequestContext,
  expect,
  type Locator,
  type Page,
  test as base,
} from '@playwright/test';
import { ServerProcess } from '../server/src/testing/process';
import { AsItCame } from './as-it-came';

const root = dirname(dirname(fileURLToPath(import.meta.url)));

/** The built server as a process of its own, over a database file. */
export class Server extends ServerProcess {
  constructor(database: string, env: Record<string, string> = {}) {
    super(join(root, 'server/dist/main.js'), database, env);
  }
}

export const temporaryFolder = (): string => mkdtempSync(join(tmpdir(), 'hurrel-'));

interface Setting {
  kind: string;
  value?: number | string;
}
export interface Stored {
  id: string;
  version: number;
  patch: {
    name: string;
    tempo: number;
    settings: Record<string, Setting>;
    notes: Record<string, string>;
  };
}

/** A section of three controls, one of them at a place that it does not have. */
const ONE_FILTER = 'Filter:\ncutoff 0..10\nwave saw/pulse = sine\nres 0..10';

/**
 * Each request has a connection of its own: one that is kept may be shut by the server, which keeps it for five seconds, at
 * the moment when it is used again.
 */
const headers = { connection: 'close' };

/** Copies that were made. */
let tried = 0;

/** What tests ask of the server directly. */
export class Api {
  constructor(
    private readonly request: APIRequestContext,
    readonly url: string,
  ) {}

  async get<T = Stored>(path: string): Promise<T> {
    const answer = await this.request.get(`${this.url}/api/v1${path}`, { headers });
    expect(answer.status(), path).toBe(200);
    return (await answer.json()) as T;
  }

  async post<T = Stored>(path: string, data: unknown): Promise<T> {
    const answer = await this.request.post(`${this.url}/api/v1${path}`, { data, headers });
    expect(answer.ok(), `${path}: ${await answer.text()}`).toBe(true);
    return (await answer.json()) as T;
  }

  async idOf(name: string): Promise<string> {
    const { items } = await this.get<{ items: { id: string; name: string }[] }>('/patches');
    return items.find((p) => p.name === name)!.id;
  }

  /**
   * A copy of a patch that came with Hurrel, for a test that changes it: others find it as it came, and no other by its name.
   *
   * @returns its id
   */
  async copyOf(name: string, as = `Tried ${++tried}`): Promise<string> {
    const patchId = await this.idOf(name);
    return (await this.post('/patches', { from: 'patch', patchId, name: as })).id;
  }

  /** The same of a session, a set or a unit. @returns its id */
  async copyOfWhole<K extends 'session' | 'evening' | 'unit'>(
    kind: K,
    name: string,
    as = `Tried ${++tried}`,
  ): Promise<string> {
    const { items } = await this.get<{ items: Record<K, { name: string }>[] }>(`/${kind}s`);
    const found = items.find((item) => item[kind].name === name)!;
    return (await this.post(`/${kind}s`, { ...found[kind], name: as })).id;
  }

  async create(from: 'start' | 'init' | 'nothing', name: string): Promise<Stored> {
    const answer = await this.request.post(`${this.url}/api/v1/patches`, {
      data: { from, name, instrument: 'oxbow-sluice', role: 'bass' },
      headers,
    });
    expect(answer.status()).toBe(201);
    return (await answer.json()) as Stored;
  }

  /** An instrument in words, stored. @returns its id */
  async describe(name: string, panel = ONE_FILTER): Promise<string> {
    const text = `${name}\n\n${panel}`;
    const data = instrumentOf(readOutline(text).outline, text);
    await this.request.post(`${this.url}/api/v1/instruments`, { data, headers });
    return data.id;
  }

  async put(stored: Stored, patch: Stored['patch'], version = stored.version): Promise<number> {
    const answer = await this.request.put(`${this.url}/api/v1/patches/${stored.id}`, {
      data: patch,
      headers: { ...headers, 'if-match': `"${version}"` },
    });
    return answer.status();
  }
}

/** The application over a fresh library, one for each worker. */
export const test = base.extend<
  { api: Api; errors: string[]; leavesItAsItCame: void },
  { server: Server; library: AsItCame }
>({
  server: [
    // Playwright wants its first argument destructured.

    async ({}, use) => {
      const folder = temporaryFolder();
      const server = new Server(join(folder, 'test.db'));
      await server.start();
      await use(server);
      await server.stop();
      rmSync(folder, { recursive: true, force: true });
    },
    { scope: 'worker' },
  ],
  library: [async ({ server }, use) => use(new AsItCame(server.database)), { scope: 'worker' }],
  /** A test that changes a patch, a session or a set takes one of its own, or a copy. */
  leavesItAsItCame: [
    async ({ library }, use) => {
      await use();
      expect(
        library.changed(),
        'what came with Hurrel is changed, here or by the test before',
      ).toEqual([]);
    },
    { auto: true },
  ],
  baseURL: async ({ server }, use) => use(server.url),
  api: async ({ request, server }, use) => use(new Api(request, server.url)),
  /** What the page complained of: nothing may be left at the end of a test that asks for it. */
  errors: async ({ page }, use) => {
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(error.message));
    page.on('console', (message) => {
      if (message.type() === 'error') errors.push(`${message.text()} ${message.location().url}`);
    });
    await use(errors);
  },
});

export { expect };

export const openChart = async (page: Page, id: string): Promise<void> => {
  await page.goto(`/patch/${id}/chart`);
  await expect(page.locator('[data-control]').first()).toBeVisible();
};

/** Picks a patch of the library by its name. */
export async function pickPatch(
  within: Page | Locator,
  label: string,
  name: string,
): Promise<void> {
  const field = within.getByRole('combobox', { name: label });
  await field.fill(name);
  // Its own list: a page may have other choices. Not before it is that of what was typed.
  const offered = within.getByRole('listbox', { name: label }).getByRole('option');
  await expect(offered.first()).toContainText(name);
  await offered.filter({ hasText: name }).first().click();
}

export const control = (page: Page, id: string) => page.locator(`[data-control="${id}"]`);
export const saveState = (page: Page) => page.getByTestId('save-state');
export const saved = (page: Page, version: number) =>
  expect(saveState(page)).toContainText(`version ${version}`);

/** Listens in where sound leaves the page: call before it is opened. */
export async function tapSound(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const connect = AudioNode.prototype.connect as (this: AudioNode, to: AudioNode) => AudioNode;
    let analyser: AnalyserNode | null = null;
    let most = 0;
    AudioNode.prototype.connect = function (this: AudioNode, to: AudioNode) {
      if (to instanceof AudioDestinationNode) {
        analyser = new AnalyserNode(to.context, { fftSize: 32768 });
        connect.call(this, analyser);
      }
      return connect.call(this, to);
    } as typeof AudioNode.prototype.connect;
    /** Highest level of the last samples, 0..1. */
    const peak = (count: number): number => {
      if (!analyser) return 0;
      const samples = new Float32Array(analyser.fftSize);
      analyser.getFloatTimeDomainData(samples);
      return samples.subarray(-count).reduce((top, v) => Math.max(top, Math.abs(v)), 0);
    };
    // A stroke may be over before anybody asks: two thirds of a second are looked through, five times a second.
    setInterval(() => (most = Math.max(most, peak(32768))), 200);
    Object.assign(window, {
      heard: () => ({
        now: peak(4096),
        most: (most = Math.max(most, peak(32768))),
        from: analyser
          ? `${analyser.context.state}, at ${analyser.context.currentTime} s`
          : 'nothing was connected',
      }),
    });
  });
}

/** What left the page, 0..1: in the last 85 ms, and ever; where from, for whoever asks why it is silent. */
interface Heard {
  now: number;
  most: number;
  from: string;
}
const heard = (page: Page): Promise<Heard> =>
  page.evaluate(() => (window as unknown as { heard: () => Heard }).heard());

/** Waits for a level; what stood there instead is told with the state of the sound. */
const waitFor = (page: Page, what: string, is: (of: Heard) => boolean): Promise<void> =>
  expect
    .poll(async () => {
      const it = await heard(page);
      return is(it) ? what : `now ${it.now}, most ${it.most}, ${it.from}`;
    })
    .toBe(what);

/** Sound leaves the page just now. */
export const sounds = (page: Page, least: number): Promise<void> =>
  waitFor(page, `sounds, over ${least}`, (it) => it.now > least);
/** Sound has left the page since it was opened: for strokes that are soon over. */
export const sounded = (page: Page, least: number): Promise<void> =>
  waitFor(page, `sounded, over ${least}`, (it) => it.most > least);
export const isSilent = (page: Page): Promise<void> =>
  waitFor(page, 'silent', (it) => it.now < 0.001);
