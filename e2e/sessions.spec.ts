import { readFileSync } from 'node:fs';
import { expect, pickPatch, saved, test } from './app';

test('a session plans passes over parts, orders what is to be recorded, and keeps every edit', async ({
  page,
  api,
  errors,
}) => {
  const id = await api.copyOfWhole('session', 'Eel Run, for Skerrow Lock');
  await page.goto(`/session/${id}`);
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
  await saved(page, 2);
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
  await page.getByLabel('Name of a new recording').fill('Winch, alone');
  await page.getByRole('button', { name: 'New recording' }).click();
  await pickPatch(page, 'Add a pass with', 'Winch Room riser');
  const pass = page.getByRole('region', { name: 'Pass Winch Room riser' });
  await expect(pass).toContainText('A sweep over the introduction, 4 bars: one cycle in 4 bars');
});

test('passes become takes, rendered or imported; what is no WAV is refused', async ({ page }) => {
  await page.goto('/sessions');
  await page.getByLabel('Name of a new recording').fill('Pawl only');
  await page.getByRole('button', { name: 'New recording' }).click();
  await expect(page.getByText('No pass yet')).toBeVisible();
  await page.getByLabel('Bars of introduction').fill('1');
  await page.getByLabel('Bars of introduction').press('Enter');
  await page.getByRole('button', { name: 'Remove part drop' }).click();
  await pickPatch(page, 'Add a pass with', 'Winch Room pawl');
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

  // A take that no pass plays is let go of for good, after one is asked.
  await pass.getByRole('button', { name: 'Play the model instead' }).click();
  await expect(page.getByText(/1 take is played by no pass/)).toBeVisible();
  await page.getByRole('button', { name: 'Free the room' }).click();
  await page.getByRole('button', { name: 'Remove for good' }).click();
  await expect(page.getByText(/played by no pass/)).toHaveCount(0);
});

test('quick edits of a session while a save is under way are all kept', async ({ page, api }) => {
  await page.goto('/sessions');
  await page.getByLabel('Name of a new recording').fill('Quick');
  await page.getByRole('button', { name: 'New recording' }).click();
  const name = page.getByLabel('Name of this recording');
  await expect(name).toHaveValue('Quick');
  const id = new URL(page.url()).pathname.split('/').at(-1);
  let answer = (): void => undefined;
  const held = new Promise<void>((done) => (answer = done));
  await page.route('**/api/v1/sessions/*', async (route) => {
    if (route.request().method() === 'PUT') await held;
    await route.continue();
  });
  const song = page.getByRole('textbox', { name: 'song' });
  const saving = page.waitForRequest((request) => request.method() === 'PUT');
  await song.fill('Ropewalk');
  await song.press('Enter');
  await saving;
  await song.fill('Night Lock');
  await song.press('Enter');
  await page.getByLabel('bpm').fill('98');
  await page.getByLabel('bpm').press('Enter');
  answer();
  await saved(page, 3);
  const { session } = await api.get<{ session: { song: string; tempo: number } }>(
    `/sessions/${id}`,
  );
  expect(session).toMatchObject({ song: 'Night Lock', tempo: 98 });
  await page.reload();
  await expect(song).toHaveValue('Night Lock');
});

test('two windows on one session are brought together part by part', async ({ page, context }) => {
  await page.goto('/sessions');
  await page.getByLabel('Name of a new recording').fill('Two windows');
  await page.getByRole('button', { name: 'New recording' }).click();
  await expect(page.getByLabel('Name of this recording')).toHaveValue('Two windows');
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByLabel('Bars of drop').fill('16');
  await other.getByLabel('Bars of drop').press('Enter');
  await saved(other, 2);
  // What the other has done is here; then both change something before either has heard.
  await expect(page.getByLabel('Bars of drop')).toHaveValue('16');
  await context.route('**/news/stream*', (route) => route.abort());
  await page.reload();
  await other.reload();
  await other.getByLabel('Bars of drop').fill('8');
  await other.getByLabel('Bars of drop').press('Enter');
  await saved(other, 3);
  await page.bringToFront();
  // Another part: nothing is asked.
  await page.getByLabel('Bars of introduction').fill('2');
  await page.getByLabel('Bars of introduction').press('Enter');
  await saved(page, 4);
  await expect(page.getByLabel('Bars of drop')).toHaveValue('8');
  // The same part: one of the two is meant.
  await other.getByLabel('Bars of drop').fill('12');
  await other.getByLabel('Bars of drop').press('Enter');
  await saved(other, 5);
  await page.bringToFront();
  await page.getByLabel('Bars of drop').fill('4');
  await page.getByLabel('Bars of drop').press('Enter');
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('This session was changed elsewhere');
  await dialog.getByRole('button', { name: 'Keep mine' }).click();
  await saved(page, 6);
  await expect(page.getByLabel('Bars of introduction')).toHaveValue('2');
  await expect(page.getByLabel('Bars of drop')).toHaveValue('4');
});
