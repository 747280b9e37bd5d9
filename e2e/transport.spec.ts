import type { Page } from '@playwright/test';
import { control, expect, isSilent, openChart, sounds, tapSound, test } from './app';

const bar = (page: Page) => page.getByRole('toolbar', { name: 'Transport' });
const room = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Rooms' }).getByRole('link', { name }).click();

test('a pattern runs on from room to room, and what is turned there is heard', async ({
  page,
  api,
}) => {
  await tapSound(page);
  const id = await api.copyOf('Eel Run line', 'Line that runs');
  await page.goto(`/patch/${id}/sequence`);
  await bar(page).getByRole('button', { name: /^Play/ }).click();
  await expect(bar(page)).toContainText(/bar 1\.[2-4]/);
  await room(page, 'Chart');
  await expect(bar(page)).toContainText(/bar [2-9]/);
  await sounds(page, 0.005);
  await control(page, 'level').press('Home');
  await isSilent(page);
  await expect(bar(page).getByRole('button', { name: /^Stop/ })).toBeVisible();
  await page.keyboard.press('ControlOrMeta+z');
  await sounds(page, 0.005);
  // Without a patch on the page it goes on as well, and says whose it is.
  await page.getByRole('link', { name: 'Library' }).click();
  await expect(page.getByRole('heading', { name: 'Library' })).toBeVisible();
  await expect(bar(page).getByRole('link', { name: 'Line that runs' })).toBeVisible();
  await sounds(page, 0.005);
  await bar(page).getByRole('button', { name: /^Stop/ }).click();
  await isSilent(page);
});

test('another patch that is opened is gone over to at the bar, at once when wished', async ({
  page,
  api,
}) => {
  await tapSound(page);
  // A bar of twelve seconds: nobody has to hurry.
  const slow = await api.get(`/patches/${await api.copyOf('Winch Room bass', 'Slow winch')}`);
  await api.put(slow, { ...slow.patch, tempo: 20 });
  await openChart(page, await api.idOf('Ropewalk under'));
  await bar(page).getByRole('button', { name: 'Again' }).click();
  await page.keyboard.press('Space');
  await sounds(page, 0.005);
  await page.getByRole('link', { name: 'Library' }).click();
  await page.getByRole('link', { name: /Slow winch/ }).click();
  await expect(bar(page)).toContainText('Slow winch at the bar');
  await expect(bar(page)).not.toContainText('at the bar');
  await sounds(page, 0.005);
  await page.getByRole('link', { name: 'Library' }).click();
  await page.getByRole('link', { name: /Ropewalk under/ }).click();
  await bar(page).getByRole('button', { name: 'Now' }).click();
  await expect(bar(page)).not.toContainText('at the bar');
  await sounds(page, 0.005);
  await bar(page).getByRole('button', { name: 'All off' }).click();
  await isSilent(page);
});

test('latched keys hold on in every room, and the tuner goes on reading them', async ({
  page,
  api,
}) => {
  await tapSound(page);
  await openChart(page, await api.idOf('Winch Room bass'));
  await bar(page).getByRole('button', { name: 'Latch' }).click();
  await bar(page).getByRole('button', { name: 'Tuner' }).click();
  await page.keyboard.press('F2');
  await page.keyboard.press('a');
  await sounds(page, 0.005);
  await expect(bar(page).getByRole('button', { name: /^Tuner/ })).toHaveText(/[A-G]#?\d/);
  await room(page, 'Path');
  await expect(page.getByRole('heading', { name: /path/i }).first()).toBeAttached();
  await sounds(page, 0.005);
  await expect(bar(page).getByRole('button', { name: /^Tuner/ })).toHaveText(/[A-G]#?\d/);
  await page.keyboard.press('a');
  await isSilent(page);
});

test('chords lead an arpeggio that runs, when they are to', async ({ page, api }) => {
  await tapSound(page);
  await page.goto(`/patch/${await api.idOf('Eel Run glass')}/sequence`);
  await bar(page).getByRole('button', { name: /^Play/ }).click();
  await expect(bar(page)).toContainText(/bar 1\.[2-4]/);
  await bar(page).getByLabel('What keys do to the pattern').selectOption('are its chord');
  await bar(page).getByRole('button', { name: 'Chords' }).click();
  await bar(page).getByRole('button', { name: 'Latch' }).click();
  const chord = page
    .getByRole('group', { name: 'Chords' })
    .getByRole('button', { name: /C minor$/ });
  await chord.press('Enter');
  await room(page, 'Chart');
  await sounds(page, 0.002);
  await bar(page).getByRole('button', { name: 'All off' }).click();
  await isSilent(page);
});
