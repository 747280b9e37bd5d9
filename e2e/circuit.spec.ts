import type { Page } from '@playwright/test';
import { expect, test } from './app';

interface Bound {
  id: string;
  unheard?: true;
  bindings: {
    module: string;
    param: string;
    taper?: { kind: string; points?: number[][]; lo?: number; hi?: number };
    values?: Record<string, unknown>;
  }[];
}

/** A copy of the Sluice, to be changed, on what its controls do. @returns its id */
async function copyOfSluice(page: Page): Promise<string> {
  await page.goto('/instruments');
  await page.getByRole('link', { name: 'Oxbow Sluice', exact: true }).click();
  await page.getByRole('button', { name: /Copy it/ }).click();
  await expect(page).toHaveURL(/copy/);
  await page.getByRole('button', { name: 'What the controls do' }).click();
  return page.url().split('/').pop()!;
}

test('what a control turns is chosen, measured at some places, or said to be nothing', async ({
  page,
  api,
  errors,
}) => {
  const id = await copyOfSluice(page);
  const stored = async (control: string): Promise<Bound> =>
    (await api.get<{ controls: Bound[] }>(`/instruments/${id}`)).controls.find(
      (c) => c.id === control,
    )!;
  const row = (control: string) => page.locator(`[data-bound="${control}"]`);

  // An even ratio is found through three places; a table through those that follow none.
  await row('cutoff').click();
  const places = page.getByLabel('What it comes to');
  await places.fill('0 is 20 Hz, 5 is 600, 10 is 18k');
  await expect(
    page.getByRole('button', { name: '20 Hz to 18 kHz, by an even ratio' }),
  ).toBeVisible();
  await places.press('Enter');
  await expect
    .poll(async () => (await stored('cutoff')).bindings[0]!.taper)
    .toEqual({ kind: 'exponential', lo: 20, hi: 18000, unit: 'Hz' });
  await places.fill('0 is 30, 3 is 2k, 5 is 2400 Hz, 10 is 9k');
  await places.press('Enter');
  await expect
    .poll(async () => (await stored('cutoff')).bindings[0]!.taper!.points)
    .toEqual([
      [0, 30],
      [0.3, 2000],
      [0.5, 2400],
      [1, 9000],
    ]);
  await places.fill('0 is loud');
  await expect(page.getByText('"loud" is no number')).toBeVisible();

  // Something else is turned; what turned it before lets it go.
  await row('resonance').click();
  await page.getByRole('button', { name: 'It does not turn resonance of filter' }).click();
  await expect(row('resonance')).toContainText('not said yet');
  await page.getByLabel('It turns').selectOption('drive.gain');
  await expect(row('resonance')).toContainText('gain of drive');
  await expect.poll(async () => (await stored('drive')).bindings).toEqual([]);

  await row('lfo2-shape').click();
  await page.getByLabel('square', { exact: true }).selectOption('random');
  await expect
    .poll(async () => (await stored('lfo2-shape')).bindings[0]!.values!['square'])
    .toBe('random');

  await page.getByLabel('Where cutoff in leads').selectOption({ label: 'pitch of oscillator 1' });
  await expect
    .poll(async () =>
      (await api.get<{ jacks: { id: string; port: string }[] }>(`/instruments/${id}`)).jacks.find(
        (j) => j.id === 'cutoff-in',
      ),
    )
    .toMatchObject({ port: 'osc1.pitch' });

  await row('glide').click();
  await page.getByLabel('No audible effect').check();
  await expect(row('glide')).toContainText('nothing that is heard');
  await expect.poll(async () => (await stored('glide')).unheard).toBe(true);
  await expect(page.getByText('Not connected to the circuit: Mix drive.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(row('glide')).toContainText('glide of keys');
  expect(errors).toEqual([]);
});
