import { rmSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { Api, expect, Server, temporaryFolder, test } from './app';

const shows = (page: Page) => page.getByTestId('shows');
const rebuild = async (page: Page, path: string): Promise<void> => {
  await page.goto(path);
  await expect(
    page.getByTestId('target').or(page.locator('.listen, .empty')).first(),
  ).toBeVisible();
};
const movements = async (page: Page): Promise<number> =>
  Number(/(\d+) movements/.exec(await page.locator('aside .time').innerText())![1]);
/** Ticks so many steps, each once the one before is drawn. */
async function tick(page: Page, count: number): Promise<void> {
  const bar = page.getByRole('progressbar', { name: 'Steps done' });
  for (let i = 0; i < count; i++) {
    const before = await bar.getAttribute('aria-valuenow');
    await page.keyboard.press('Space');
    await expect(bar).not.toHaveAttribute('aria-valuenow', before!);
  }
}

test('what a panel shows is known: the next rebuild begins there, also where one was broken off', async ({
  page,
  request,
}) => {
  const folder = temporaryFolder();
  const server = new Server(join(folder, 'shown.db'));
  await server.start();
  const api = new Api(request, server.url);
  const roomOf = async (name: string): Promise<string> =>
    `${server.url}/patch/${await api.idOf(name)}/rebuild`;
  const [bass, horn] = [await roomOf('Winch Room bass'), await roomOf('Fog Signal horn')];
  await rebuild(page, bass);
  await expect(shows(page)).toContainText('is not known yet');
  const all = await movements(page);
  await shows(page).getByRole('button', { name: 'It stands like this already' }).click();
  await expect(shows(page)).toContainText('This panel shows Winch Room bass');
  await expect(page.getByText('Nothing to move')).toBeVisible();

  await rebuild(page, horn);
  await expect(page.getByLabel('What the panel shows now')).toHaveValue(
    'what it shows now: Winch Room bass',
  );
  const way = await movements(page);
  await tick(page, 3);
  const done = await page
    .getByRole('progressbar', { name: 'Steps done' })
    .getAttribute('aria-valuenow');
  await expect(shows(page)).toContainText('left half way to Fog Signal horn');
  await expect
    .poll(
      async () =>
        (await api.get<{ shown: { finished: boolean } | null }>('/shown/instrument-oxbow-sluice'))
          .shown?.finished,
    )
    .toBe(false);

  // Broken off there: it goes on where it was, and the way back is short.
  await rebuild(page, horn);
  await expect
    .poll(() => page.getByRole('progressbar', { name: 'Steps done' }).getAttribute('aria-valuenow'))
    .toBe(done);
  expect(await movements(page)).toBe(way);
  await rebuild(page, bass);
  await expect(shows(page)).toContainText('left half way to Fog Signal horn');
  expect(await movements(page)).toBeLessThanOrEqual(3);

  // Nobody knows what was turned: only what the sound is made of is looked at.
  await shows(page).getByRole('button', { name: 'Somebody has turned things' }).click();
  await expect(shows(page)).toContainText('are uncertain');
  await expect.poll(() => movements(page)).toBeGreaterThan(10);
  expect(await movements(page)).toBeLessThan(all + 30);
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
});

test('what is changed on the chart is turned on the panel too, where one says so', async ({
  page,
  request,
}) => {
  const folder = temporaryFolder();
  const server = new Server(join(folder, 'along.db'));
  await server.start();
  const api = new Api(request, server.url);
  const patch = `${server.url}/patch/${await api.idOf('Winch Room bass')}`;
  const resonance = async () =>
    (
      await api.get<{ shown: { panel: { settings: Record<string, { value: number }> } } | null }>(
        '/shown/instrument-oxbow-sluice',
      )
    ).shown?.panel.settings['resonance']?.value;
  await page.goto(`${patch}/chart`);
  const along = page.getByLabel('What is changed here is turned on it too');
  await expect(page.locator('[data-control="resonance"]')).toBeVisible();
  await expect(along).toHaveCount(0);
  await rebuild(page, `${patch}/rebuild`);
  await shows(page).getByRole('button', { name: 'It stands like this already' }).click();
  await expect(shows(page)).toContainText('This panel shows Winch Room bass');
  await expect.poll(resonance).toBeDefined();
  const before = await resonance();

  const set = async (reading: string): Promise<void> => {
    await page.locator('[data-control="resonance"]').focus();
    await page.keyboard.type(reading);
    await page.keyboard.press('Enter');
    await expect(page.getByTestId('save-state')).toContainText('Saved');
  };
  await page.goto(`${patch}/chart`);
  await set('6.5');
  expect(await resonance()).toBe(before);
  await along.check();
  await set('7.5');
  await expect.poll(resonance).toBe(0.75);
  // Its rebuild knows: what was turned along is right already.
  await rebuild(page, `${patch}/rebuild`);
  await expect(page.getByText('Nothing to move')).toBeVisible();
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
});
