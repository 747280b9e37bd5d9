import type { Page } from '@playwright/test';
import { control, expect, sounds, tapSound, test } from './app';

const port = (page: Page, name: string, side: 'inputs' | 'outputs') =>
  page.locator(`[data-port="${name}"][data-side="${side}"] circle`);
const module = (page: Page, id: string) => page.locator(`[data-module="${id}"]`);

/** Draws a wire from one port to another, as a hand does. */
async function draw(page: Page, from: string, to: string): Promise<void> {
  await port(page, from, 'outputs').scrollIntoViewIfNeeded();
  await port(page, from, 'outputs').hover();
  await page.mouse.down();
  await port(page, to, 'inputs').hover();
  await page.mouse.up();
  await expect(page.locator(`[data-wire="${from} ${to}"]`)).toBeVisible();
}

test('a circuit is put together by hand, module by module, and is heard', async ({
  page,
  api,
  errors,
}) => {
  await tapSound(page);
  const id = await api.describe('Grebe');
  await page.goto(`/instrument/${id}`);
  await page.getByRole('button', { name: 'The circuit', exact: true }).click();
  await expect(page.getByText('Nothing is said of the circuit yet')).toBeVisible();

  const add = async (kind: string): Promise<void> => {
    await page.getByLabel('Add a module').selectOption(kind);
    await page.getByRole('button', { name: 'Add it' }).click();
    await expect(module(page, kind)).toBeVisible();
  };
  for (const kind of ['keyboard', 'oscillator', 'low-pass-12', 'envelope', 'amplifier'])
    await add(kind);
  await expect(module(page, 'output')).toBeVisible();
  await expect(
    page.getByRole('button', { name: 'Nothing leads to output: nothing is heard.' }),
  ).toBeVisible();

  // By drag, in words, and from the list of a port.
  await draw(page, 'oscillator.out', 'low-pass-12.in');
  const words = page.getByLabel('Wire in words');
  for (const wire of [
    'keyboard pitch1 > oscillator pitch',
    'gate of keyboard > gate of envelope',
    'low pass 12 > amplifier in',
    'envelope to amplifier cv',
  ]) {
    await words.fill(wire);
    await page.keyboard.press('Enter');
    await expect(words).toHaveValue('');
  }
  await words.fill('oscillator > output.in9');
  await expect(page.getByText('There is no input "output.in9"')).toBeVisible();
  await words.fill('');
  await module(page, 'amplifier').click();
  await page.getByLabel('From out', { exact: true }).selectOption('in of output');
  await expect(page.getByRole('heading', { name: 'Not heard as it stands' })).toBeHidden();
  await expect(page.getByRole('list', { name: 'What works' })).not.toContainText('not yet heard');

  // Values where no control turns them, another kind in its place, and away with undo.
  await module(page, 'low-pass-12').click();
  await page.getByLabel(/^cutoff\s*Hz/).fill('700');
  await page.keyboard.press('Enter');
  await page.getByLabel(/^\s*Type\s/).selectOption('low-pass-24');
  await expect(page.locator('[data-wire]')).toHaveCount(6);
  await module(page, 'oscillator').focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Delete');
  await expect(page.getByText('oscillator is gone, and let go of 2 wires.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.locator('[data-wire]')).toHaveCount(6);
  const filter = async (): Promise<unknown> => {
    const stored = await api.get<{ circuit: { modules: { id: string }[] } }>(`/instruments/${id}`);
    return stored.circuit.modules.find((m) => m.id === 'low-pass-12');
  };
  await expect.poll(filter).toMatchObject({ kind: 'low-pass-24', params: { cutoff: 700 } });

  // A control turns it, and a patch sounds.
  await page.getByRole('button', { name: 'What the controls do' }).click();
  await page.getByRole('button', { name: /^Filter cutoff/ }).click();
  await page.getByLabel('It turns').selectOption({ label: 'cutoff' });
  await expect(page.getByRole('button', { name: /^Filter cutoff/ })).toContainText('20 kHz');
  await page.getByRole('button', { name: 'Record a patch' }).click();
  await expect(page).toHaveURL(/\/chart/);
  await control(page, 'filter-cutoff').focus();
  await page.keyboard.type('6');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Space');
  await sounds(page, 0.005);
  expect(errors).toEqual([]);
});
