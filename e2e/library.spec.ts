import { expect, test } from './app';

test('patches are found by song, role and words', async ({ page, errors }) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Library' })).toBeVisible();
  await page.getByLabel('Search').fill('barge engine');
  await expect(page.getByRole('link', { name: 'Winch Room bass' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Fog Signal horn' })).toBeHidden();
  await page.getByLabel('Search').fill('no such words');
  await expect(page.getByText('No patch fits this search.')).toBeVisible();
  await page.getByRole('button', { name: 'Show all' }).click();
  await page.getByLabel('Song', { exact: true }).selectOption('Fog Signal');
  await expect(page.getByRole('link', { name: 'Fog Signal horn' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Winch Room bass' })).toBeHidden();
  await page.getByLabel('Song', { exact: true }).selectOption('');
  await page.getByLabel('Role', { exact: true }).selectOption('drum');
  await expect(page.getByRole('link', { name: 'Eel Run hat' })).toBeVisible();
  expect(errors).toEqual([]);
});

test('a patch is made, renamed, copied, deleted and brought back', async ({ page, api }) => {
  await page.goto('/library');
  await page.getByRole('button', { name: 'New patch' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Create' }).click();
  await expect(dialog.getByText('Give it a name')).toBeVisible();
  await dialog.getByLabel('Instrument', { exact: true }).selectOption('Oxbow Sluice');
  await dialog.getByLabel('Name', { exact: true }).fill('Rope creak');
  await dialog.getByLabel('Song').fill('Ropewalk');
  await dialog.getByLabel('Role').selectOption('effect');
  await dialog.getByLabel('Init').check();
  await dialog.getByRole('button', { name: 'Create' }).click();
  await expect(page).toHaveURL(/\/patch\/.+\/chart/);
  await expect(page.locator('[data-control="cutoff"]')).toHaveAttribute('aria-valuetext', '10');

  await page.goto('/library');
  const more = (name: string) =>
    page.getByRole('button', { name: `More for ${name}`, exact: true });
  await more('Rope creak').click();
  await page.getByRole('button', { name: 'Rename' }).click();
  await page.getByLabel('New name').fill('Rope groan');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Rope groan', exact: true })).toBeVisible();
  await more('Rope groan').click();
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(page.getByRole('link', { name: 'Rope groan copy' })).toBeVisible();
  await more('Rope groan copy').click();
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByRole('link', { name: 'Rope groan copy' })).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: 'Rope groan copy' })).toBeVisible();
  const stored = await api.get(`/patches/${await api.idOf('Rope groan')}`);
  expect(stored.version).toBe(2);
});

test('details are edited, and bad ones are told where they are', async ({ page, api }) => {
  const { id } = await api.create('init', 'Detailed');
  await page.goto(`/patch/${id}/details`);
  await page.getByLabel('Tempo, bpm').fill('9');
  await page.getByLabel('Tempo, bpm').blur();
  await expect(page.getByText('Between 20 and 400 bpm.')).toBeVisible();
  await page.getByLabel('Tempo, bpm').fill('138');
  await page.getByLabel('Tempo, bpm').blur();
  await page.getByLabel('Name of note 1').fill('F#2');
  await page.getByLabel('Name of note 1').blur();
  await page.getByLabel(/Revision/).selectOption('board-b');
  await page.getByRole('button', { name: 'Add a checkpoint' }).click();
  await page.getByLabel('What one should hear at checkpoint 1').fill('a saw alone');
  await expect
    .poll(async () => (await api.get(`/patches/${id}`)).patch)
    .toMatchObject({
      tempo: 138,
      revision: 'board-b',
      phrase: [{ note: 42 }, {}, {}],
      checkpoints: [{ hear: 'a saw alone' }],
    });
});

test('an address that leads nowhere says so', async ({ page }) => {
  await page.goto('/patch/nobody/chart');
  await expect(page.getByRole('heading', { name: 'This patch cannot be opened' })).toBeVisible();
  await page.goto('/nowhere');
  await expect(page.getByRole('heading', { name: 'There is no page' })).toBeVisible();
  await page.getByRole('link', { name: 'Go to the library' }).click();
  await expect(page.getByRole('heading', { name: 'Library' })).toBeVisible();
});
