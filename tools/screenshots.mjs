// npm run screenshots: remakes docs/screenshots from the demo library.
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { withApp } from './app.mjs';
import { fail, root } from './lib.mjs';

const folder = join(root, 'docs', 'screenshots');

/** A page at its size and light, once its pictures are drawn. */
async function shoot(
  { url, browser },
  name,
  path,
  { light = 'desk', size = [1280, 800], act } = {},
) {
  const page = await browser.newPage({ viewport: { width: size[0], height: size[1] } });
  await page.addInitScript((l) => localStorage.setItem('hurrel.light', l), light);
  await page.goto(url + path);
  await page.locator('main').first().waitFor();
  if (path.includes('/chart')) {
    await page
      .locator('hur-plot')
      .nth(2)
      .locator('path.trace[d^="M"]')
      .first()
      .waitFor({ state: 'attached' });
  }
  await page.evaluate(() => document.fonts.ready);
  await act?.(page);
  await page.waitForTimeout(400);
  await page.screenshot({ path: join(folder, `${name}.png`) });
  await page.close();
  console.log(`docs/screenshots/${name}.png`);
}

const keys = (page, ...all) =>
  all.reduce((before, key) => before.then(() => page.keyboard.press(key)), Promise.resolve());

try {
  mkdirSync(folder, { recursive: true });
  await withApp(async (app) => {
    const bass = app.idOf('Winch Room bass');
    const horn = app.idOf('Fog Signal horn');
    const focus = (id) => (page) => page.locator(`[data-control="${id}"]`).focus();
    await shoot(app, 'library', '/library', {
      act: (page) => page.locator('main a[href^="/patch/"]').nth(8).waitFor(),
    });
    await shoot(app, 'chart', `/patch/${bass}/chart`, { act: focus('cutoff') });
    const bell = app.idOf('Fog Signal bell buoy');
    await shoot(app, 'cabinet', `/patch/${bell}/chart`, {
      act: (page) => page.locator('[data-jack="senv-1-gate"]').focus(),
    });
    await shoot(app, 'path', `/patch/${bell}/path`, {
      act: async (page) => {
        await page.locator('.shape').first().click();
        await page.locator('[data-node="ladder-1-f"]').click();
        await page.locator('hur-port-volts dl').waitFor();
      },
    });
    await shoot(app, 'variations', `/patch/${app.idOf('Winch Room boards')}/variations`, {
      act: (page) => page.locator('.measured td').filter({ hasText: 'LUFS' }).nth(3).waitFor(),
    });
    await shoot(app, 'unit', '/instruments', {
      act: async (page) => {
        await page.getByText('stage left').first().click();
        await page.locator('.place').nth(1).click();
        await page.locator('.store').scrollIntoViewIfNeeded();
      },
    });
    await shoot(app, 'sequence', `/patch/${app.idOf('Eel Run kit')}/sequence`, {
      act: (page) =>
        page
          .locator('hur-track-row svg')
          .nth(2)
          .click({ position: { x: 6, y: 20 } }),
    });
    await shoot(app, 'line', `/patch/${app.idOf('Eel Run line')}/sequence`, {
      act: (page) => page.getByRole('button', { name: 'Presses' }).click(),
    });
    await shoot(app, 'session', '/sessions', {
      act: async (page) => {
        await page.getByRole('link', { name: /Skerrow Lock/ }).click();
        await page
          .getByRole('button', { name: /^bass line/ })
          .first()
          .click();
      },
    });
    await shoot(app, 'stage', '/sets', {
      act: async (page) => {
        await page.getByRole('link', { name: /Hallow Staithe, the second/ }).click();
        await page.getByRole('link', { name: /On stage/ }).click();
        await page.getByRole('button', { name: 'low keys' }).click();
        await page.getByRole('button', { name: /Rehearse/ }).click();
        await page.getByTestId('target').waitFor();
        await keys(page, ...Array(11).fill('Space'));
      },
    });
    await shoot(app, 'set', '/sets', {
      act: async (page) => {
        await page.getByRole('link', { name: /Hallow Staithe, the second/ }).click();
        await page.locator('.break.over').first().click();
        await page.locator('.bar span').first().waitFor();
        await page.evaluate(() => scrollTo(0, 0));
      },
    });
    await shoot(app, 'silence', `/patch/${app.idOf('Eel Run ripple')}/chart`, {
      act: async (page) => {
        await focus('mix-osc1')(page);
        await page.keyboard.type('0');
        await page.keyboard.press('Tab');
        await page.keyboard.type('0');
        await page.keyboard.press('Tab');
        await page.locator('.finding.silent').waitFor();
      },
    });
    await shoot(app, 'history', `/patch/${horn}/history`, {
      act: async (page) => {
        await page.goto(`${app.url}/patch/${horn}/chart`);
        for (const [id, text] of [
          ['cutoff', '5.2'],
          ['drive', '~3 until it rasps'],
          ['note', 'last'],
        ]) {
          await focus(id)(page);
          await page.keyboard.type(text);
          await page.keyboard.press('Enter');
        }
        await page
          .getByTestId('save-state')
          .getByText(/version [2-9]/)
          .waitFor();
        await page.getByRole('link', { name: 'History' }).click();
        await page.locator('table').waitFor();
      },
    });
    await shoot(app, 'listen', `/patch/${app.idOf('Eel Run glass')}/listen`, {
      act: async (page) => {
        await page.locator('.facts dl div').first().waitFor();
        await page.getByRole('combobox', { name: 'Compare with' }).fill('Low Tide haze');
        await page.getByRole('option', { name: 'Low Tide haze' }).first().click();
        await page.locator('.facts .other').first().waitFor();
        await keys(page, 'F2');
        await page.getByRole('button', { name: 'Latch' }).click();
        await page.getByRole('button', { name: /C minor$/ }).click();
      },
    });
    await shoot(app, 'instruments', '/instruments', {
      act: (page) => page.waitForLoadState('networkidle'),
    });
    const outline = /```text\n([\s\S]*?)```/.exec(readFileSync('docs/describing.md', 'utf8'))[1];
    await shoot(app, 'describe', '/instruments', {
      act: async (page) => {
        await page.getByLabel('Name', { exact: true }).fill('Bittern');
        await page.getByLabel('Maker').fill('Saltpan');
        await page.keyboard.press('Enter');
        await page.getByLabel('The panel in words').fill(outline.trim());
        await page.locator('[data-control]').nth(30).waitFor();
        await page.getByText(/Saved .* version 2/).waitFor();
      },
    });
    const avocet = '/instrument/saltpan-avocet';
    await shoot(app, 'arrange', avocet, {
      act: async (page) => {
        await page.getByRole('button', { name: 'Layout' }).click();
        await page.locator('image.photograph').waitFor();
        await page.locator('[data-thing="control:filter-cutoff"]').click();
      },
    });
    await shoot(app, 'circuit', avocet, {
      act: async (page) => {
        await page.getByRole('button', { name: 'The circuit', exact: true }).click();
        await page.locator('[data-module="mix"]').click();
      },
    });
    const pdf = await (await fetch(`${app.url}/api/v1/patches/${bass}/sheet.pdf`)).arrayBuffer();
    const file = join(root, '.cache', 'sheet.pdf');
    writeFileSync(file, Buffer.from(pdf));
    const made = spawnSync('pdftoppm', [
      '-r',
      '100',
      '-png',
      '-singlefile',
      file,
      join(folder, 'sheet'),
    ]);
    console.log(
      made.status === 0
        ? 'docs/screenshots/sheet.png'
        : 'sheet.png left as it is: pdftoppm (poppler-utils) is missing',
    );
  });
} catch (error) {
  fail(error);
}
