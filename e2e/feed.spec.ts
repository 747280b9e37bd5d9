import { expect, openChart, sounded, tapSound, test } from './app';
import { sineWav } from './sine-wav';

test('a recording is fed into a jack, heard, shown on the panel, and part of the rebuild', async ({
  page,
  api,
  errors,
}) => {
  await tapSound(page);
  const id = await api.copyOf('Fog Signal, bare filter');
  const before = await api.get(`/patches/${id}`);
  await page.goto(`/patch/${id}/details`);
  const card = page.getByRole('region', { name: 'Fed into the instrument' });
  await card.locator('input[type="file"]').setInputFiles({
    name: 'hum of the quay.wav',
    mimeType: 'audio/wav',
    buffer: sineWav(220, 2),
  });
  await expect(card.getByLabel('Name of what is fed in')).toHaveValue('hum of the quay');
  await card.getByLabel('Input that it goes into').selectOption({ label: 'ext' });
  await expect(page.getByTestId('save-state')).toContainText('Saved');
  await expect
    .poll(async () => (await api.get<{ version: number }>(`/patches/${id}`)).version)
    .toBeGreaterThan(before.version);

  await openChart(page, id);
  await expect(page.locator('[data-jack="j-ext"]')).toHaveAttribute(
    'aria-label',
    /fed with hum of the quay/,
  );
  await expect(page.getByText('is fed into')).toContainText('hum of the quay');
  await page.getByRole('button', { name: /^Play/ }).click();
  await sounded(page, 0.001);

  await page.goto(`/patch/${id}/rebuild?from=start`);
  await expect(page.locator('main')).toContainText('Plug a player into the jack ext');
  expect(errors).toEqual([]);

  // What it was before is one step back.
  await page.goto(`/patch/${id}/details`);
  await card.getByRole('button', { name: 'Feed nothing in' }).click();
  await expect(card.getByText('Choose a WAV file')).toBeVisible();
});

test('a file that is no recording is refused in words', async ({ page, api }) => {
  await page.goto(`/patch/${await api.idOf('Fog Signal, bare filter')}/details`);
  const card = page.getByRole('region', { name: 'Fed into the instrument' });
  await card.locator('input[type="file"]').setInputFiles({
    name: 'notes.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from('not a recording at all, only some words in a file'),
  });
  await expect(card.getByRole('alert')).toContainText('WAV');
});
