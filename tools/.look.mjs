import { withApp } from './app.mjs';
await withApp(async ({ url, browser, idOf }) => {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.on('pageerror', (e) => console.log('ERR', e.message));
  await page.goto(`${url}/library`);
  await page.getByRole('button', { name: 'New patch' }).first().click();
  await page.getByLabel('Name').fill('Test');
  await page.getByLabel('Another patch').check();
  await page.getByRole('combobox', { name: 'Patch to begin from' }).click();
  await page.waitForTimeout(700);
  await page.screenshot({ path: '/tmp/d1.png' });
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.waitForTimeout(300);
  await page.goto(`${url}/instruments`);
  await page.waitForTimeout(500);
  await page.goto(`${url}/sessions`);
  await page.waitForTimeout(500);
  const rm = page.getByRole('button', { name: /Remove|Delete/ }).first();
  if (await rm.count()) { await rm.click(); await page.waitForTimeout(800); }
  await page.screenshot({ path: '/tmp/d2.png' });
});
