import type { Page } from '@playwright/test';
import { control, expect, openChart, test } from './app';

const plots = (page: Page) => page.locator('hur-plot svg');

test('a turned control is followed by the pictures', async ({ page, api, errors }) => {
  await openChart(page, await api.idOf('Winch Room bass'));
  const spectrum = plots(page).nth(1).locator('path.trace');
  await expect(spectrum).toHaveAttribute('d', /M/);
  const before = await spectrum.getAttribute('d');
  await control(page, 'cutoff').focus();
  await page.keyboard.type('8');
  await page.keyboard.press('Tab');
  await expect(spectrum).not.toHaveAttribute('d', before!);
  await expect(plots(page).first()).toHaveAttribute('aria-label', /Waveform: 32\.\d Hz/);
  expect(errors).toEqual([]);
});

test('one key plays the phrase, and single notes come from the computer’s keys', async ({
  page,
  api,
}) => {
  // What reaches the loudspeaker is listened to where it leaves the page.
  await page.addInitScript(() => {
    const heard = { peak: 0, starts: 0 };
    Object.assign(window, { heard });
    const start = AudioBufferSourceNode.prototype.start;
    AudioBufferSourceNode.prototype.start = function (this: AudioBufferSourceNode, when?: number) {
      heard.starts++;
      for (const v of this.buffer!.getChannelData(0))
        heard.peak = Math.max(heard.peak, Math.abs(v));
      return start.call(this, when);
    };
  });
  const heard = () =>
    page.evaluate(() => (window as unknown as { heard: { peak: number; starts: number } }).heard);
  await openChart(page, await api.idOf('Ropewalk under'));
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: /Stop/ })).toBeVisible();
  await expect.poll(async () => (await heard()).peak).toBeGreaterThan(0.05);
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: /Play phrase/ })).toBeVisible();
  const { starts } = await heard();
  await page.keyboard.press('F2');
  await page.keyboard.press('a');
  await expect.poll(async () => (await heard()).starts).toBeGreaterThan(starts);
  await expect(page.getByText('last C3')).toBeVisible();
  await page.keyboard.press('F2');
});

test('silence is explained, and one click mends it', async ({ page, api }) => {
  const { id } = await api.create('init', 'Silent');
  await openChart(page, id);
  await control(page, 'level').focus();
  await page.keyboard.type('0');
  await page.keyboard.press('Tab');
  const finding = page.locator('.finding.silent');
  await expect(finding).toContainText('Out level is at 0');
  await expect(page.locator('.told')).toHaveText('Silent');
  await finding.getByRole('button', { name: 'Set Out level to 7' }).click();
  await expect(finding).toBeHidden();
  await expect(control(page, 'level')).toHaveAttribute('aria-valuetext', '7');
  await expect(page.locator('.told')).toContainText('V peak');
});

test('a control that changes nothing says why, where it is', async ({ page, api }) => {
  const { id } = await api.create('init', 'Idle');
  await openChart(page, id);
  await control(page, 'osc1-width').focus();
  await expect(page.locator('#reading-says')).toContainText('A saw has no width');
  await page.getByText(/recorded controls change nothing/).click();
  await page.getByRole('button', { name: 'Mark Oscillator 1 width as does not matter' }).click();
  await expect(control(page, 'osc1-width')).toHaveAttribute('data-kind', 'any');
});
