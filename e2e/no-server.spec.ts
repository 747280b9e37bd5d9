import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { control, expect, saveState, Server, temporaryFolder, test } from './app';

test.use({ serviceWorkers: 'allow' });

test('what was opened once opens again with no server, and what is set then is kept', async ({
  page,
  request,
}) => {
  const folder = temporaryFolder();
  const server = new Server(join(folder, 'none.db'));
  await server.start();
  const list = await (await request.get(`${server.url}/api/v1/patches`)).json();
  const { id } = list.items.find((p: { name: string }) => p.name === 'Winch Room bass');
  await page.goto(server.url);
  // Registered, and everything that the application is made of fetched.
  await page.evaluate(() => navigator.serviceWorker.ready);
  await expect
    .poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null), {
      timeout: 30_000,
    })
    .toBe(true);
  await page.goto(`${server.url}/patch/${id}/chart`);
  await expect(control(page, 'cutoff')).toBeVisible();
  await server.stop();

  await page.reload();
  await expect(control(page, 'cutoff')).toBeVisible();
  await control(page, 'cutoff').focus();
  await page.keyboard.type('7');
  await page.keyboard.press('Enter');
  await expect(saveState(page)).toContainText('Offline · 1 change waiting');
  // A page that was not open before the server went.
  await page.goto(`${server.url}/patch/${id}/sequence`);
  await expect(page.getByRole('heading', { name: /Winch Room bass/ })).toBeVisible();

  await server.start();
  await page.goto(`${server.url}/patch/${id}/chart`);
  await expect(control(page, 'cutoff')).toHaveAttribute('aria-valuetext', '7');
  const stored = async () =>
    (await (await request.get(`${server.url}/api/v1/patches/${id}`)).json()).patch.settings.cutoff;
  await expect.poll(stored).toMatchObject({ kind: 'set', value: 0.7 });
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
});

test('a set that was opened once is walked through with no server, and goes on after a power cut', async ({
  page,
  request,
}) => {
  const folder = temporaryFolder();
  const server = new Server(join(folder, 'stage.db'));
  await server.start();
  const read = async (path: string) => (await request.get(`${server.url}/api/v1${path}`)).json();
  const [{ id: set }] = (await read('/evenings')).items;
  const begun = await request.post(`${server.url}/api/v1/evenings/${set}/walks`, {
    data: { kind: 'stage', before: {} },
  });
  const { walk } = await begun.json();
  const stage = `${server.url}/set/${set}/stage?walk=${walk.id}&who=low`;
  await page.goto(server.url);
  await page.evaluate(() => navigator.serviceWorker.ready);
  await expect
    .poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null), {
      timeout: 30_000,
    })
    .toBe(true);
  await page.goto(stage);
  const target = page.getByTestId('target');
  const named = page.locator('.now h2');
  await expect(target).toBeVisible();
  const first = (await named.textContent())!.trim();
  // What is printed was read ahead.
  const booklet = `/api/v1/evenings/${set}/booklet.pdf`;
  const kept = (url: string) =>
    page.evaluate(async (path) => {
      for (const name of await caches.keys())
        if (await (await caches.open(name)).match(path)) return true;
      return false;
    }, url);
  await expect.poll(() => kept(booklet), { timeout: 30_000 }).toBe(true);
  const { evening } = await read(`/evenings/${set}`);
  const sheet = `/api/v1/patches/${evening.songs[0].plays[0].patch}/sheet.pdf?from=start`;
  await expect.poll(() => kept(sheet), { timeout: 30_000 }).toBe(true);
  await server.stop();
  for (const paper of [booklet, sheet]) {
    const printed = await page.evaluate(async (url) => {
      const answer = await fetch(url);
      const bytes = new Uint8Array(await answer.arrayBuffer());
      return [answer.status, String.fromCharCode(...bytes.subarray(0, 5))];
    }, paper);
    expect(printed).toEqual([200, '%PDF-']);
  }

  await expect(page.getByText('Offline', { exact: true })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(named).not.toHaveText(first);
  const second = (await named.textContent())!.trim();
  await expect(page.getByText(/Offline · \d steps not sent/)).toBeVisible();
  // The power is gone, and back: the same break, the same movement.
  await page.goto('about:blank');
  await page.goto(stage);
  await expect(named).toHaveText(second);
  await page.keyboard.press('Space');
  await expect(named).not.toHaveText(second);

  await server.start();
  await expect(page.getByText('with the others')).toBeVisible();
  const done = async (): Promise<number> => {
    const { marks } = await read(`/walks/${walk.id}`);
    return Object.values(marks as Record<string, { value: string }>).filter(
      (m) => m.value === 'done',
    ).length;
  };
  await expect.poll(done).toBe(2);
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
});

test('a device whose first page is the stage says when it can reload, and does so with no server', async ({
  page,
  request,
}) => {
  const folder = temporaryFolder();
  const server = new Server(join(folder, 'first.db'));
  await server.start();
  const read = async (path: string) => (await request.get(`${server.url}/api/v1${path}`)).json();
  const [{ id: set }] = (await read('/evenings')).items;
  const begun = await request.post(`${server.url}/api/v1/evenings/${set}/walks`, {
    data: { kind: 'stage', before: {} },
  });
  const { walk } = await begun.json();
  const stage = `${server.url}/set/${set}/stage?walk=${walk.id}&who=low`;
  await page.goto(stage);
  const named = page.locator('.now h2');
  const target = page.getByTestId('target');
  await expect(target).toBeVisible();
  await expect(page.getByText('This device can’t reload yet')).toBeVisible();
  await expect(page.getByText('This device can’t reload yet')).toHaveCount(0, { timeout: 60_000 });
  const [first, reads] = [await named.textContent(), await target.textContent()];
  await server.stop();

  await page.reload();
  await expect(named).toHaveText(first!);
  await expect(target).toHaveText(reads!);
  await expect(page.getByText('Offline', { exact: true })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(named).not.toHaveText(first!);
  await page.goto('about:blank');
  await page.goto(stage);
  await expect(named).not.toHaveText(first!);
  const sheet = await page.evaluate(async (id) => {
    const answer = await fetch(`/api/v1/evenings/${id}/booklet.pdf`);
    return [answer.status, new Uint8Array(await answer.arrayBuffer())[0]];
  }, set);
  expect(sheet).toEqual([200, 0x25]);
  rmSync(folder, { recursive: true, force: true });
});
