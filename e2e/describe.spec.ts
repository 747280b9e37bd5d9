import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { control, expect, sounds, tapSound, test } from './app';

/** The panel of docs/describing.md, as it stands there. */
const walk = readFileSync('docs/describing.md', 'utf8');
const panel = /```text\n([\s\S]*?)```/.exec(walk)![1]!.trim();

const words = (page: Page) => page.getByLabel('The panel in words');
const begin = async (page: Page, name: string, maker: string): Promise<void> => {
  await page.goto('/instruments');
  await page.getByLabel('Name', { exact: true }).fill(name);
  await page.getByLabel('Maker').fill(maker);
  await page.keyboard.press('Enter');
  await expect(words(page)).toBeFocused();
};

test('an instrument is typed from a list, and its first patch is recorded and rebuilt', async ({
  page,
  api,
  errors,
}) => {
  await begin(page, 'Bittern', 'Saltpan');
  const lines = panel.split('\n').slice(1);
  let asked = 0;
  page.on('request', (request) => request.url().endsWith('/behind') && asked++);
  await page.keyboard.type(lines.join('\n').trimStart());
  await expect(page.getByText('8 sections, 32 controls, 2 jacks')).toBeVisible();
  await expect(control(page, 'filter-cutoff')).toBeVisible();
  await expect(page.getByRole('list', { name: 'What works' })).toContainText('rebuilt');
  await expect(page.getByRole('list', { name: 'What works' })).toContainText('not yet heard');
  await expect(page.getByTestId('save-state')).toContainText('Saved');
  // What patches stand on is asked for with each version that is stored, not with each key.
  const { version } = await api.get<{ version: number }>('/instruments/saltpan-bittern/stored');
  expect(asked).toBeLessThanOrEqual(version);

  await page.getByRole('button', { name: 'Record a patch' }).click();
  await expect(page).toHaveURL(/\/patch\/.*\/chart/);
  await expect(page.getByText('No circuit yet').first()).toBeVisible();
  // The keyboard stands on the first control that wants a reading.
  await expect(control(page, 'output-volume')).toBeFocused();
  await page.keyboard.type('7');
  await page.keyboard.press('Enter');
  await control(page, 'filter-cutoff').focus();
  await page.keyboard.type('600 Hz');
  await page.keyboard.press('Enter');
  await expect(control(page, 'filter-cutoff')).toHaveAttribute('aria-valuetext', /600/);
  const id = /patch\/([^/]+)/.exec(page.url())![1]!;
  await expect
    .poll(async () => Object.keys((await api.get(`/patches/${id}`)).patch.settings).length)
    .toBe(2);
  await page.goto(`/patch/${id}/rebuild?from=start`);
  await expect(page.getByTestId('target')).toBeVisible();
  for (const room of ['path', 'listen']) {
    await page.goto(`/patch/${id}/${room}`);
    await expect(page.getByText('No circuit yet').first()).toBeVisible();
  }

  // Once a circuit is accepted the same patch sounds, and is examined.
  await tapSound(page);
  await page.goto('/instruments');
  await page.getByRole('link', { name: 'Saltpan Bittern' }).click();
  await page.getByRole('button', { name: 'What the controls do' }).click();
  await page.getByRole('button', { name: /^Two oscillators Two .* 29 of 32 controls/ }).click();
  await expect(
    page.getByText('“cutoff” in Filter: cutoff of filter, 20 to 20000 Hz'),
  ).toBeVisible();
  await page.getByLabel(/“fine” in Oscillator 1/).uncheck();
  await page.getByRole('button', { name: 'Accept 28 proposals' }).click();
  await expect(page.getByRole('list', { name: 'What works' })).not.toContainText('not yet heard');
  await expect(page.getByText(/Not connected to the circuit: Oscillator 1 fine/)).toBeVisible();
  await expect(page.getByTestId('save-state')).toContainText('Saved');
  await page.getByRole('link', { name: 'Bittern 1' }).click();
  await expect(page).toHaveURL(/\/chart/);
  for (const [name, reading] of [
    ['mixer-osc-1', '8'],
    ['loudness-envelope-sustain', '8'],
  ] as const) {
    await control(page, name).focus();
    await page.keyboard.type(reading);
    await page.keyboard.press('Enter');
  }
  await page.keyboard.press('Space');
  await sounds(page, 0.005);
  await expect(page.locator('hur-strip .told')).toContainText('V peak');
  await page.keyboard.press('Space');
  expect(errors).toEqual([]);
});

test('what is not understood is marked where it stands, kept, and leaves the rest alone', async ({
  page,
}) => {
  await begin(page, 'Teal', '');
  await page.keyboard.type('Filter:\ncutoff 0..10\nwave saw/pulse = sine\nres 0..10');
  const says = page.locator('#outline-says');
  await expect(says).toContainText('Line 5 "sine" is none of its positions.');
  // What is half typed is marked for as long as it is.
  await expect(page.locator('.fault')).toHaveText(['sine']);
  await expect(control(page, 'filter-res')).toBeVisible();
  await expect(page.getByTestId('save-state')).toContainText(/Saved .* version [2-9]/);
  await page.reload();
  await expect(words(page)).toHaveValue(/wave saw\/pulse = sine/);
  await says.getByRole('button', { name: 'Line 5' }).click();
  await page.keyboard.type('pulse');
  await expect(says).toHaveText('');
  await expect(page.getByText('1 section, 3 controls')).toBeVisible();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(words(page)).toHaveValue(/= sine/);
});

test('what patches have recorded stays until all of them are carried over, with what is asked', async ({
  page,
  api,
  errors,
}) => {
  const id = await api.describe('Wigeon');
  const record = async (name: string, reading: string): Promise<void> => {
    await page.goto(`/instrument/${id}`);
    await page.getByRole('button', { name: 'Record a patch' }).click();
    await expect(page).toHaveURL(/\/chart/);
    await control(page, 'filter-cutoff').focus();
    await page.keyboard.type(reading);
    await page.keyboard.press('Enter');
    await expect(page.getByTestId('save-state')).toContainText('version 2');
    await expect(page.getByText(name).first()).toBeVisible();
  };
  await record('Wigeon 1', '4');
  await record('Wigeon 2', '9');
  const recorded = page.url();
  const cutoff = control(page, 'filter-cutoff');
  const retype = async (from: string, to: string): Promise<void> => {
    await page.goto(`/instrument/${id}`);
    await expect(page.getByRole('link', { name: 'Wigeon 1' })).toBeVisible();
    await words(page).fill((await words(page).inputValue()).replace(from, to));
    await expect(page.getByTestId('save-state')).toContainText('Saved');
  };

  // What only adds to the panel is there for them at once.
  await retype('cutoff 0..10', 'cutoff 0..10\ndrive 0..10');
  await expect(page.getByText(/on an older description/)).toBeHidden();
  await page.goto(recorded);
  await expect(control(page, 'filter-drive')).toBeVisible();

  await retype('cutoff 0..10', 'cutoff 0..5');
  const older = page.getByText('2 patches use an older version');
  await expect(older).toBeVisible();
  await page.goto(recorded);
  await expect(cutoff).toHaveAttribute('aria-valuetext', /^9/);
  await expect(page.getByText(/Recorded on version \d+ of Wigeon/)).toBeVisible();

  await page.goto(`/instrument/${id}`);
  await page.getByRole('button', { name: 'Review changes' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('1 question is open');
  await dialog
    .getByLabel('What becomes of Filter cutoff 9')
    .selectOption('the nearest that it has');
  await expect(dialog).not.toContainText('question');
  await dialog.getByRole('button', { name: 'Update' }).click();
  await expect(older).toBeHidden();
  await page.getByRole('link', { name: 'Wigeon 2' }).click();
  await expect(page).toHaveURL(/\/chart/);
  await expect(cutoff).toHaveAttribute('aria-valuetext', /^5/);

  await page.goto(`/instrument/${id}`);
  await page.getByRole('link', { name: 'Wigeon 1' }).click();
  await expect(page).toHaveURL(/\/chart/);
  await expect(cutoff).toHaveAttribute('aria-valuetext', /^4/);
  expect(errors).toEqual([]);
});

test('one patch is carried over where it is open, and taken back there', async ({ page, api }) => {
  const id = await api.describe('Pochard');
  await page.goto(`/instrument/${id}`);
  await page.getByRole('button', { name: 'Record a patch' }).click();
  await expect(page).toHaveURL(/\/chart/);
  const cutoff = control(page, 'filter-cutoff');
  await cutoff.focus();
  await page.keyboard.type('4');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('save-state')).toContainText('version 2');
  const recorded = page.url();
  await page.goto(`/instrument/${id}`);
  await words(page).fill((await words(page).inputValue()).replace('cutoff', 'brightness'));
  await expect(page.getByText('1 patch uses an older version')).toBeVisible();
  await page.goto(recorded);
  await page.getByRole('button', { name: 'Review changes' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Filter cutoff renamed');
  await dialog.getByRole('button', { name: 'Update' }).click();
  await expect(control(page, 'filter-brightness')).toHaveAttribute('aria-valuetext', /^4/);
  await page.locator('hur-toasts').getByRole('button', { name: 'Undo' }).click();
  await expect(cutoff).toHaveAttribute('aria-valuetext', /^4/);
  await expect(page.getByText(/Recorded on version 1 of Pochard/)).toBeVisible();
});

test('two tabs on one instrument: nothing is overwritten silently', async ({
  page,
  api,
  context,
}) => {
  const id = await api.describe('Garganey');
  // A window that has not heard of the other's save.
  await context.route('**/news/stream*', (route) => route.abort());
  await page.goto(`/instrument/${id}`);
  const other = await context.newPage();
  await other.goto(`/instrument/${id}`);
  await words(other).fill('Garganey\n\nFilter:\ncutoff 0..10\ntheirs');
  await expect(other.getByTestId('save-state')).toContainText('version 2');
  await words(page).fill('Garganey\n\nFilter:\ncutoff 0..10\nmine');
  await page.getByRole('dialog').getByRole('button', { name: 'Take theirs' }).click();
  await expect(words(page)).toHaveValue(/theirs/);
  await other.close();
});

test('what came with Hurrel is shown and stays as it is', async ({ page }) => {
  await page.goto('/instruments');
  await page.getByRole('link', { name: 'Oxbow Sluice', exact: true }).click();
  await expect(control(page, 'cutoff')).toBeVisible();
  await expect(words(page)).toHaveCount(0);
  await expect(page.getByRole('link', { name: 'Fog Signal horn' })).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as a file' }).click(),
  ]);
  const stored = JSON.parse(readFileSync(await file.path(), 'utf8'));
  expect(stored.format).toBe('hurrel-instrument');
  // A copy has its words, keeps its circuit, and is changed.
  await page.getByRole('button', { name: 'Copy it, to change it' }).click();
  await expect(words(page)).toHaveValue(/^Sluice copy by Oxbow\n\nOut:/);
  await expect(page.getByRole('list', { name: 'What works' })).not.toContainText('not yet heard');
  await words(page).press('ControlOrMeta+End');
  await page.keyboard.type('\nbrightness 0..10');
  await expect(page.getByTestId('save-state')).toContainText(/Saved .* version [2-9]/);
  await expect(control(page, 'cutoff')).toBeVisible();
  await page.getByRole('button', { name: 'Record a patch' }).click();
  await expect(page).toHaveURL(/\/chart/);
  await page.locator('[data-control]', { hasText: 'brightness' }).focus();
  await expect(page.getByText('Not connected to the circuit')).toBeVisible();
});

test('the wall of instruments is searched, and one’s own are put away or removed', async ({
  page,
  api,
}) => {
  const used = await api.describe('Gadwall');
  await api.describe('Smew');
  await page.request.post('/api/v1/patches', {
    data: { from: 'nothing', instrument: used, name: 'Gadwall take' },
  });
  await page.goto('/instruments');
  await page.getByLabel('Search instruments').fill('gadwall');
  await expect(page.getByRole('status').getByText(/^1 of/)).toBeVisible();
  await page.getByRole('button', { name: 'More of Gadwall' }).click();
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByText(/It is used by Gadwall take/)).toBeVisible();
  await page.getByRole('button', { name: 'More of Gadwall' }).click();
  await page.getByRole('button', { name: 'Archive', exact: true }).click();
  await expect(page.getByRole('link', { name: /Gadwall/ })).toHaveCount(0);
  // It is offered for nothing new, and what was recorded on it is there.
  await page.goto('/library');
  await page.getByRole('button', { name: 'New patch' }).click();
  const offered = page.getByRole('dialog').getByLabel('Instrument', { exact: true });
  await expect(offered.getByRole('option', { name: /Smew/ })).toHaveCount(1);
  await expect(offered.getByRole('option', { name: /Gadwall/ })).toHaveCount(0);
  await page.goto('/instruments');
  await page.getByLabel(/those put away/).check();
  await page.getByRole('link', { name: /Gadwall/ }).click();
  await expect(page.getByRole('link', { name: 'Gadwall take' })).toBeVisible();
  await page.goto('/instruments');
  await page.getByRole('button', { name: 'More of Smew' }).click();
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByRole('link', { name: /Smew/ })).toHaveCount(0);
  await page.locator('hur-toasts').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: /Smew/ })).toBeVisible();
});
