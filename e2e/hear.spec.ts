import type { Page } from '@playwright/test';
import { control, expect, isSilent, openChart, sounds, tapSound, test } from './app';

const plots = (page: Page) => page.locator('hur-plot svg');

test('a turned control is followed by the pictures', async ({ page, api, errors }) => {
  await openChart(page, await api.copyOf('Winch Room bass'));
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

test('the next patch that is opened is examined by the worker that has just rested', async ({
  page,
  api,
}) => {
  await page.addInitScript(() => {
    const began: string[] = [];
    Object.assign(window, { began });
    window.Worker = class extends Worker {
      constructor(url: string | URL, options?: WorkerOptions) {
        super(url, options);
        began.push(options?.name ?? '');
      }
    };
  });
  const examined = () => expect(page.locator('hur-findings .checking')).toHaveText('');
  const doctors = () =>
    page.evaluate(() => {
      const { began } = window as unknown as { began: string[] };
      return began.filter((name) => name === 'checkup').length;
    });
  await openChart(page, await api.idOf('Ropewalk under'));
  await examined();
  await page.getByRole('link', { name: 'Library' }).click();
  await page.getByRole('link', { name: /Winch Room bass/ }).click();
  await expect(page).toHaveTitle(/Winch Room bass/);
  await expect(page.locator('[data-control]').first()).toBeVisible();
  await examined();
  expect(await doctors()).toBe(1);
});

test('one key plays the phrase, and the computer’s keys play as long as they are held', async ({
  page,
  api,
}) => {
  await tapSound(page);
  await openChart(page, await api.copyOf('Ropewalk under'));
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: /Stop/ })).toBeVisible();
  await sounds(page, 0.01);
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: /^Play space/ })).toBeVisible();
  await isSilent(page);
  await page.keyboard.press('F2');
  await page.keyboard.down('a');
  await sounds(page, 0.01);
  await page.keyboard.up('a');
  await isSilent(page);
  // Figures are chords then, and no reading: Enter begins one, and all that is typed belongs to it until Enter.
  await control(page, 'level').focus();
  const before = (await control(page, 'level').getAttribute('aria-valuetext'))!;
  await page.keyboard.type('0%');
  await expect(control(page, 'level')).toHaveAttribute('aria-valuetext', before);
  await page.keyboard.press('Enter');
  await expect(page.getByText('ends a reading')).toBeVisible();
  await page.keyboard.type('65%');
  await page.keyboard.press('Enter');
  await expect(control(page, 'level')).toHaveAttribute('aria-valuetext', '6.5');
  await page.keyboard.press('F2');
});

test('a control that is turned is heard while a key is held, and F4 takes it away', async ({
  page,
  api,
}) => {
  await tapSound(page);
  const { id } = await api.create('init', 'Turned');
  await openChart(page, id);
  await page.keyboard.press('F2');
  await page.keyboard.down('d');
  await sounds(page, 0.02);
  await control(page, 'mix-osc1').focus();
  // With the first oscillator away nothing is left in the mix.
  await page.keyboard.press('F4');
  await isSilent(page);
  await page.keyboard.press('F4');
  await sounds(page, 0.02);
  // Home takes the level to its lower end.
  await page.keyboard.press('Home');
  await isSilent(page);
  await page.keyboard.up('d');
});

test('which controls matter is worked out, ranked and drawn on the panel', async ({
  page,
  api,
}) => {
  await openChart(page, await api.idOf('Winch Room bass'));
  await page.getByRole('button', { name: 'Find out' }).click();
  const list = page.locator('.matters li');
  await expect(list.first()).toBeVisible();
  const changes = await page.locator('.matters li .mono').allInnerTexts();
  const values = changes.map((t) => Number.parseFloat(t));
  expect([...values].sort((a, b) => b - a)).toEqual(values);
  await expect(page.locator('[data-control][aria-description*="matters"]').first()).toBeVisible();
  await expect(page.locator('[data-control][aria-description*="the ear"]').first()).toBeVisible();
  await list.first().getByRole('button').click();
  await expect(page.locator('[data-control].chosen')).toHaveCount(1);
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
