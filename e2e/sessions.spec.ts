import { readFileSync } from 'node:fs';
import { expect, test } from './app';

test('a session plans passes over parts, orders what is to be recorded, and keeps every edit', async ({
  page,
  errors,
}) => {
  await page.goto('/sessions');
  await page.getByRole('link', { name: /Eel Run, for Skerrow Lock/ }).click();
  const order = page.getByLabel('Still to be recorded');
  await expect(order.locator('ol > li')).toHaveCount(6);
  await expect(order).toContainText('from kit, turning: 0 movements');
  await expect(page.getByText('20 bars, 0:38')).toBeVisible();
  const cell = page.getByRole('cell', { name: /^spark in out/ });
  await expect(cell).toHaveAccessibleName('spark in out: silent');
  await cell.click();
  await expect(cell).toHaveAccessibleName('spark in out: as it is');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(cell).toHaveAccessibleName('spark in out: silent');
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(page.getByText('Saved · version 2')).toBeVisible();
  await page.reload();
  await expect(cell).toHaveAccessibleName('spark in out: as it is');
  await page
    .getByRole('button', { name: /^bass line/ })
    .first()
    .click();
  await expect(page.getByRole('region', { name: 'Pass bass line' })).toBeVisible();
  expect(errors).toEqual([]);
});

test('the riser’s sweep is told for each part in its instrument’s own numbers', async ({
  page,
}) => {
  await page.goto('/sessions');
  await page.getByLabel('Name of a new session').fill('Winch, alone');
  await page.getByRole('button', { name: 'New session' }).click();
  await page.getByLabel('Add a pass with').selectOption({ label: 'Winch Room riser, Winch Room' });
  const pass = page.getByRole('region', { name: 'Pass Winch Room riser' });
  await expect(pass).toContainText('A sweep over the introduction, 4 bars: one cycle in 4 bars');
});

test('passes become takes, rendered or imported; what is no WAV is refused', async ({ page }) => {
  await page.goto('/sessions');
  await page.getByLabel('Name of a new session').fill('Pawl only');
  await page.getByRole('button', { name: 'New session' }).click();
  await expect(page.getByText('No pass yet')).toBeVisible();
  await page.getByLabel('Bars of introduction').fill('1');
  await page.getByLabel('Bars of introduction').press('Enter');
  await page.getByRole('button', { name: 'Remove part drop' }).click();
  await page.getByLabel('Add a pass with').selectOption({ label: 'Winch Room pawl, Winch Room' });
  const pass = page.getByRole('region', { name: 'Pass Winch Room pawl' });
  await expect(pass).toContainText('No take');
  await pass.getByRole('button', { name: 'Render the model as its take' }).click();
  await expect(pass).toContainText('Take: Winch Room pawl, by the model');
  await expect(page.getByText('Every pass has its take.')).toBeVisible();
  await pass.locator('input[type=file]').setInputFiles({
    name: 'notes.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from('no sound at all'),
  });
  await expect(page.locator('hur-toasts')).toContainText('notes.wav:');
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'WAV', exact: true }).click();
  const wav = readFileSync(await (await waiting).path());
  expect(wav.subarray(0, 4).toString()).toBe('RIFF');
  await page.getByRole('button', { name: /^Hear it all/ }).click();
  await expect(page.getByRole('button', { name: /^Stop/ })).toBeVisible();
  await page.getByRole('button', { name: /^Stop/ }).click();
});
