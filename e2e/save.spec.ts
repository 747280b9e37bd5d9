import type { Page } from '@playwright/test';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { control, expect, openChart, saved, saveState, Server, temporaryFolder, test } from './app';

const write = async (page: Page, id: string, text: string): Promise<void> => {
  await control(page, id).focus();
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
};

test.describe('two windows on one patch', () => {
  for (const [choice, cutoff, drive] of [
    ['Keep mine', '2', '0'],
    ['Take theirs', '7', '4'],
    ['Merge as chosen', '2', '4'],
  ] as const) {
    test(`${choice}: nothing is overwritten silently`, async ({ page, context, api }) => {
      const made = await api.create('init', `Two windows ${choice}`);
      const { id } = made;
      // A window that has not heard of the other's save.
      await context.route('**/news/stream*', (route) => route.abort());
      await openChart(page, id);
      if (choice === 'Merge as chosen') {
        const other = await context.newPage();
        await openChart(other, id);
        await write(other, 'cutoff', '7');
        await write(other, 'drive', '4');
        const theirs = async () => (await api.get(`/patches/${id}`)).patch.settings;
        await expect.poll(theirs).toMatchObject({ cutoff: { value: 0.7 }, drive: { value: 0.4 } });
        await page.bringToFront();
      } else {
        // What the other window would have sent.
        const set = (value: number) => ({ kind: 'set', value });
        const settings = { ...made.patch.settings, cutoff: set(0.7), drive: set(0.4) };
        expect(await api.put(made, { ...made.patch, settings })).toBe(200);
      }
      await write(page, 'cutoff', '2');
      const dialog = page.getByRole('dialog');
      await expect(dialog).toContainText('changed elsewhere');
      await expect(
        dialog.getByRole('row', { name: /Filter cutoff.*both changed it/ }),
      ).toBeVisible();
      // Theirs still stands until the person has decided.
      expect((await api.get(`/patches/${id}`)).patch.settings['cutoff']).toEqual({
        kind: 'set',
        value: 0.7,
      });
      await dialog.getByRole('button', { name: choice }).click();
      await expect(control(page, 'cutoff')).toHaveAttribute('aria-valuetext', cutoff);
      await expect(control(page, 'drive')).toHaveAttribute('aria-valuetext', drive);
      await expect(saveState(page)).toContainText('Saved');
      await expect
        .poll(async () => (await api.get(`/patches/${id}`)).patch.settings)
        .toMatchObject({
          cutoff: { value: Number(cutoff) / 10 },
          drive: { value: Number(drive) / 10 },
        });
    });
  }
});

test('two windows that change different things need no question, and each learns of the other', async ({
  page,
  context,
  api,
}) => {
  const { id } = await api.create('init', 'Two windows, two knobs');
  const other = await context.newPage();
  await openChart(other, id);
  await openChart(page, id);
  await write(page, 'cutoff', '3');
  await expect(control(other, 'cutoff')).toHaveAttribute('aria-valuetext', '3', { timeout: 2000 });
  // At the same moment, before either has heard.
  await context.route('**/news/stream*', (route) => route.abort());
  await page.reload();
  await other.reload();
  await expect(control(page, 'cutoff')).toHaveAttribute('aria-valuetext', '3');
  await expect(control(other, 'cutoff')).toHaveAttribute('aria-valuetext', '3');
  await Promise.all([write(page, 'drive', '4'), write(other, 'resonance', '5')]);
  const settings = async () => (await api.get(`/patches/${id}`)).patch.settings;
  await expect
    .poll(settings)
    .toMatchObject({ cutoff: { value: 0.3 }, drive: { value: 0.4 }, resonance: { value: 0.5 } });
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(other.getByRole('dialog')).toHaveCount(0);
});

test('while the server is away edits wait, survive a reload, and are saved when it is back', async ({
  page,
  request,
}) => {
  const folder = temporaryFolder();
  const server = new Server(join(folder, 'away.db'));
  await server.start();
  const list = await (await request.get(`${server.url}/api/v1/patches`)).json();
  const id = list.items.find((p: { name: string }) => p.name === 'Fog Signal horn').id as string;
  await page.goto(`${server.url}/patch/${id}/chart`);
  await write(page, 'cutoff', '3');
  await saved(page, 2);
  await server.stop();
  await write(page, 'drive', '4');
  await write(page, 'resonance', '5');
  await expect(saveState(page)).toContainText('Offline · 2 changes waiting');
  await server.start();
  await saved(page, 3);
  // And once more with the window closed in between.
  await server.stop();
  await write(page, 'level', '6');
  await expect(saveState(page)).toContainText('Offline');
  await page.goto('about:blank');
  await server.start();
  await page.goto(`${server.url}/patch/${id}/chart`);
  await expect(control(page, 'level')).toHaveAttribute('aria-valuetext', '6');
  await saved(page, 4);
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
});

test('the history tells differences in readings, and goes back', async ({ page, api }) => {
  const { id } = await api.create('init', 'Went back');
  await openChart(page, id);
  await write(page, 'cutoff', '3.5-4');
  await saved(page, 2);
  await write(page, 'osc1-shape', 'sine');
  await saved(page, 3);
  await page.getByRole('link', { name: 'History' }).click();
  await expect(page.getByRole('row', { name: 'Oscillator 1 shape saw sine' })).toBeVisible();
  await page.getByRole('button', { name: /^2 edited/ }).click();
  await expect(page.getByRole('row', { name: 'Filter cutoff 10 3.5–4, best 3.75' })).toBeVisible();
  // All that was done in one sitting, at once.
  await page.getByRole('button', { name: /^Today .* 3 versions/ }).click();
  await expect(page.getByRole('heading', { name: 'Versions 2 to 3' })).toBeVisible();
  await expect(page.getByRole('row', { name: 'Oscillator 1 shape saw sine' })).toBeVisible();
  await expect(page.getByRole('row', { name: 'Filter cutoff 10 3.5–4, best 3.75' })).toBeVisible();
  await page.getByRole('button', { name: /^1 created/ }).click();
  await page.getByRole('button', { name: 'what has changed since' }).click();
  await expect(page.getByRole('row', { name: 'Oscillator 1 shape saw sine' })).toBeVisible();
  await page.getByRole('button', { name: 'Go back to version 1' }).click();
  await saved(page, 4);
  const back = await api.get(`/patches/${id}`);
  expect(back.patch).toEqual((await api.get(`/patches/${id}/versions/1`)).patch);
  await page.getByRole('link', { name: 'Chart' }).click();
  await expect(control(page, 'cutoff')).toHaveAttribute('aria-valuetext', '10');
});

test('a version is given a name, in the history of anything that is kept', async ({
  page,
  api,
}) => {
  const id = await api.copyOfWhole('unit', 'stage left');
  await page.goto(`/unit/${id}`);
  const name = page.getByLabel('Name of this unit');
  const before = await name.inputValue();
  await name.fill('the one with the cracked lid');
  await name.press('Enter');
  await expect(page.getByTestId('save-state')).toContainText('version 2');
  await page.getByRole('link', { name: 'History' }).click();
  await expect(
    page.getByRole('row', { name: `Name ${before} the one with the cracked lid` }),
  ).toBeVisible();
  await page.getByRole('button', { name: /^1 created/ }).click();
  await page.getByLabel('Call it').fill('as played at Skerrow Lock');
  await page.getByLabel('Call it').press('Enter');
  await expect(page.getByRole('button', { name: /^1 as played at Skerrow Lock/ })).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: /^1 as played at Skerrow Lock/ }).click();
  await page.getByRole('button', { name: 'Go back to version 1' }).click();
  await expect(page.getByRole('heading', { name: '3 versions' })).toBeVisible();
  await page.locator('hur-toasts').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('heading', { name: '4 versions' })).toBeVisible();
  await page.getByRole('button', { name: /^3 version 1 again/ }).click();
  await page.getByRole('button', { name: 'Go back to version 3' }).click();
  await expect(page.getByRole('link', { name: before })).toBeVisible();
});

test('what was removed waits, and is taken back', async ({ page, api }) => {
  const { id } = await api.create('init', 'Thrown away');
  await page.goto('/library');
  await page.getByRole('link', { name: 'Removed' }).click();
  await expect(page.getByRole('heading', { name: 'Removed' })).toBeVisible();
  await page.request.delete(`/api/v1/patches/${id}`, { headers: { 'if-match': '*' } });
  await page.reload();
  await page.getByRole('button', { name: 'Take back Thrown away' }).click();
  await expect(page.getByText('"Thrown away" is back.')).toBeVisible();
  expect((await api.get(`/patches/${id}`)).patch.name).toBe('Thrown away');
});
