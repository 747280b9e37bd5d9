import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { control, expect, saveState, temporaryFolder, test } from './app';
import { chromiumArgs } from './playwright.config';

/** How often the browser is killed; HURREL_KILLS asks for more. */
const KILLS = Number(process.env.HURREL_KILLS ?? 3);

/** A browser with a profile of its own, which can be killed as a device without power is. */
async function start(profile: string) {
  const port = join(profile, 'DevToolsActivePort');
  rmSync(port, { force: true });
  const child = spawn(
    process.env.HURREL_CHROMIUM ?? '/usr/bin/chromium',
    [...chromiumArgs, '--headless', '--remote-debugging-port=0', `--user-data-dir=${profile}`],
    { stdio: 'ignore', detached: true },
  );
  await expect.poll(() => existsSync(port) && readFileSync(port, 'utf8').includes('\n')).toBe(true);
  const [number] = readFileSync(port, 'utf8').split('\n');
  const browser = await chromium.connectOverCDP(`http://127.0.0.1:${number}`);
  const [context] = browser.contexts();
  return {
    page: await context!.newPage(),
    /** All of its processes at once, without a word to any. */
    async kill(): Promise<void> {
      const gone = once(child, 'exit');
      process.kill(-child.pid!, 'SIGKILL');
      await gone;
      await browser.close().catch(() => undefined);
    },
  };
}

/** The server takes nothing: edits wait. */
const away = (page: Page): Promise<unknown> =>
  page.route('**/api/v1/patches/*', (route) =>
    route.request().method() === 'PUT' ? route.abort() : route.continue(),
  );

test(`what the page called kept is there after the browser was killed, ${KILLS} times`, async ({
  api,
}) => {
  test.setTimeout(60_000 + KILLS * 20_000);
  const profile = temporaryFolder();
  const { id } = await api.create('init', 'Killed in the dark');
  let turn = 0;
  for (let kill = 0; kill < KILLS; kill++) {
    const { page, ...browser } = await start(profile);
    await page.goto(`${api.url}/patch/${id}/chart`);
    await expect(control(page, 'cutoff')).toBeVisible();
    await expect(saveState(page)).toContainText('Saved');
    await away(page);
    const edits = 1 + Math.floor(Math.random() * 4);
    let [kept, typed] = ['', ''];
    for (let edit = 0; edit < edits; edit++) {
      typed = (0.1 * (1 + (turn++ % 98))).toFixed(1).replace('.0', '');
      await control(page, 'cutoff').focus();
      await page.keyboard.type(typed);
      await page.keyboard.press('Enter');
      // Now and then it is killed before anything is said.
      if (edit === edits - 1 && Math.random() < 0.3) break;
      await expect(saveState(page)).toContainText('Offline');
      await expect(saveState(page)).not.toContainText('not on this device');
      kept = typed;
    }
    await new Promise((done) => setTimeout(done, Math.random() * 300));
    await browser.kill();

    const again = await start(profile);
    await again.page.goto(`${api.url}/patch/${id}/chart`);
    await expect(control(again.page, 'cutoff')).toBeVisible();
    await expect(saveState(again.page)).toContainText('Saved');
    const shown = await control(again.page, 'cutoff').getAttribute('aria-valuetext');
    // The last that was typed may have been on its way.
    if (kept !== '') expect([kept, typed], `kill ${kill + 1}`).toContain(shown);
    const stored = async () => (await api.get(`/patches/${id}`)).patch.settings['cutoff']?.value;
    await expect.poll(stored).toBeCloseTo(Number(shown) / 10, 6);
    await again.kill();
  }
  rmSync(profile, { recursive: true, force: true });
});
