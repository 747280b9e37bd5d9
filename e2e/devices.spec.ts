import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { expect, Server, temporaryFolder, test } from './app';

test('a device gives the passcode once, is listed, and is shut out again', async ({ browser }) => {
  const folder = temporaryFolder();
  const server = new Server(join(folder, 'band.db'), { HURREL_PASSCODE: 'low tide' });
  await server.start();
  const device = async () => {
    const context = await browser.newContext({ baseURL: server.url, serviceWorkers: 'block' });
    return { context, page: await context.newPage() };
  };
  const enter = async (page: Awaited<ReturnType<typeof device>>['page'], name: string) => {
    await page.getByLabel('Passcode').fill('low tide');
    await page.getByLabel('What this device is called').fill(name);
    await page.getByRole('button', { name: 'Connect' }).click();
  };
  const tablet = await device();
  await tablet.page.goto('/sets');
  await expect(tablet.page.getByRole('heading', { name: /asks for its passcode/ })).toBeVisible();
  await tablet.page.getByLabel('Passcode').fill('high tide');
  await tablet.page.getByRole('button', { name: 'Connect' }).click();
  await expect(tablet.page.getByRole('alert')).toContainText('not the passcode');
  await enter(tablet.page, 'tablet of the high keys');
  // Where somebody wanted to go.
  await expect(tablet.page.getByText('Hallow Staithe, the second night')).toBeVisible();
  await tablet.page.reload();
  await expect(tablet.page.getByText('Hallow Staithe, the second night')).toBeVisible();
  const [cookie] = await tablet.context.cookies();
  expect([cookie!.httpOnly, cookie!.sameSite]).toEqual([true, 'Strict']);

  const desk = await device();
  await desk.page.goto('/devices');
  await enter(desk.page, 'desk');
  await expect(desk.page.getByText('this one')).toBeVisible();
  await desk.page.getByRole('button', { name: 'Shut tablet of the high keys out' }).click();
  await expect(desk.page.getByText('tablet of the high keys', { exact: true })).toHaveCount(0);
  await tablet.page.goto('/library');
  await expect(tablet.page).toHaveURL(/\/enter\?back=%2Flibrary/);
  await tablet.context.close();
  await desk.context.close();
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
});
