import type { Page } from '@playwright/test';
import { instrumentSchema } from '../core/src/instrument';
import { formatValue, soundingValue } from '../core/src/reading/format';
import { readOn } from '../core/src/evening/read-on';
import { patchSchema } from '../core/src/patch';
import { type Api, expect, pickPatch, test } from './app';

interface Set {
  songs: { name: string; pause: number; plays: { panel: string; patch: string }[] }[];
  panels: { id: string; by?: string }[];
  calls: Record<string, string>;
}
const stored = async (page: Page, api: Api): Promise<Set> => {
  const id = new URL(page.url()).pathname.split('/')[2]!;
  return (await api.get<{ evening: Set }>(`/evenings/${id}`)).evening;
};
const says = (page: Page) => page.locator('.says');
const breakBefore = (page: Page, song: string) =>
  page.getByRole('button', { name: new RegExp(`Break before ${song}`) });

test('an evening is planned: songs, patches on panels, people, breaks, and what is moved in them', async ({
  page,
  api,
}) => {
  await page.goto('/sets');
  await page.getByLabel('Name of a new set').fill('Skerrow Lock, the first night');
  await page.keyboard.press('Enter');
  await expect(page.getByText('No songs yet')).toBeVisible();
  for (const song of ['Winch Room', 'Fog Signal']) {
    await page.getByLabel('Name of a new song').fill(song);
    await page.keyboard.press('Enter');
  }
  const aside = page.getByRole('complementary', { name: 'The song and the break before it' });
  await pickPatch(aside, 'Play one more patch in it', 'Fog Signal horn');
  await expect(aside.getByRole('link', { name: 'Fog Signal horn' })).toBeVisible();
  await page.getByRole('button', { name: /Before doors/ }).click();
  await pickPatch(aside, 'Play one more patch in it', 'Winch Room boards');
  // Five minutes are enough for the horn; ten seconds are not.
  await breakBefore(page, 'Fog Signal').click();
  await expect(aside).toContainText('Sluice');
  const pause = aside.getByLabel('The break before it has');
  await pause.fill('5:00');
  await page.keyboard.press('Enter');
  await expect(says(page)).toContainText('Every break is long enough');
  await pause.fill('0:10');
  await page.keyboard.press('Enter');
  await expect(says(page)).toContainText('1 break is too short');
  await expect(breakBefore(page, 'Fog Signal')).toHaveClass(/over/);
  await aside.getByLabel('target length only').check();
  await expect(says(page)).toContainText('1 break is over target');
  await expect(breakBefore(page, 'Fog Signal')).not.toHaveClass(/over/);
  await aside.getByLabel('target length only').uncheck();
  await expect(says(page)).toContainText('1 break is too short');
  await page.getByText('Call times').click();
  await page.getByLabel('doors', { exact: true }).fill('20:00');
  await page.getByLabel('first song', { exact: true }).fill('20:45');
  await expect(page.getByText('begins at 20:45')).toBeVisible();
  await expect
    .poll(async () => (await stored(page, api)).calls)
    .toEqual({
      doors: '20:00',
      begins: '20:45',
    });
  await pause.fill('nonsense');
  await page.keyboard.press('Enter');
  await expect(pause).toHaveValue('0:10');

  await page.getByText('Who is on stage').click();
  await page.getByRole('button', { name: 'One more' }).click();
  await page.getByLabel('Who moves Sluice').selectOption({ label: 'person 1' });
  await expect.poll(async () => (await stored(page, api)).panels[0]?.by).toBe('person');
  await expect(aside.locator('.load')).toContainText('person 1');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await stored(page, api)).panels[0]?.by).toBeUndefined();

  await aside.getByRole('link', { name: 'Lead me through it' }).click();
  await expect(page.getByRole('heading', { name: 'to Fog Signal horn' })).toBeVisible();
  await page.goBack();
  await page.getByRole('link', { name: 'History' }).click();
  await expect(page.getByRole('link', { name: 'Skerrow Lock, the first night' })).toBeVisible();
});

test('a break that cannot be met as printed is met in another order; it is one step to undo', async ({
  page,
  api,
}) => {
  const id = await api.copyOfWhole('evening', 'Hallow Staithe, the second night');
  await page.goto(`/set/${id}`);
  await expect(says(page)).toContainText('too short');
  const before = (await stored(page, api)).songs;
  await page.getByRole('button', { name: 'Look for a better order' }).click();
  await expect(says(page)).toContainText('Every break is long enough', { timeout: 60_000 });
  await expect.poll(async () => (await stored(page, api)).songs[1]!.name).not.toBe(before[1]!.name);
  const after = (await stored(page, api)).songs;
  // What is fixed stays, and breaks stay at their places.
  expect([after[0]!.name, after.at(-1)!.name]).toEqual([before[0]!.name, before.at(-1)!.name]);
  expect(after.map((s) => s.pause)).toEqual(before.map((s) => s.pause));
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(says(page)).toContainText('too short');
  await expect.poll(async () => (await stored(page, api)).songs).toEqual(before);
});

test('a set that is removed is gone for everybody, and comes back whole', async ({ page, api }) => {
  const id = await api.copyOfWhole('evening', 'Hallow Staithe, the second night');
  const link = page.locator(`a[href$="${id}"]`);
  await page.goto('/sets');
  await link.click();
  await expect(says(page)).toContainText('too short');
  const [before, at] = [await stored(page, api), page.url()];
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page).toHaveURL(/\/sets$/);
  await expect(link).toHaveCount(0);
  await page.locator('hur-toasts').getByRole('button', { name: 'Undo' }).click();
  await expect(page).toHaveURL(at);
  await expect(says(page)).toContainText('too short');
  expect(await stored(page, api)).toEqual(before);
});

test('what is gone is told, on the page of the set and on stage, and never counts as time enough', async ({
  page,
  api,
}) => {
  const { id } = await api.post<{ id: string }>('/evenings', {
    format: 'hurrel-set',
    version: 1,
    name: 'Tamsin Weir',
    panels: [{ id: 'p', name: 'Sluice', instrument: 'oxbow-sluice' }],
    songs: [{ id: 's', name: 'Fog Signal', plays: [{ panel: 'p', patch: 'nobody' }] }],
  });
  await page.goto(`/set/${id}`);
  await expect(says(page)).toContainText('1 patch is gone, and what it needs is not known');
  await page.goto(`/set/${id}/stage`);
  await page.getByRole('button', { name: 'Begin the evening' }).click();
  await expect(page.getByRole('alert')).toContainText('What it plays on Sluice is gone');
});

test('where one pair of hands lacks time, somebody who may help makes a changeover', async ({
  page,
  api,
}) => {
  const plays = async (bass: string, kit: string) => [
    { panel: 'sluice', patch: await api.idOf(bass) },
    { panel: 'curlew', patch: await api.idOf(kit) },
  ];
  const { id } = await api.post<{ id: string }>('/evenings', {
    format: 'hurrel-set',
    version: 1,
    name: 'Skerrow Lock, two hands',
    people: [
      { id: 'low', name: 'low keys' },
      { id: 'hand', name: 'stage hand' },
    ],
    panels: [
      { id: 'sluice', name: 'Sluice', instrument: 'oxbow-sluice', by: 'low', atStart: true },
      { id: 'curlew', name: 'Curlew', instrument: 'staithe-curlew', by: 'low', atStart: true },
    ],
    songs: [
      {
        id: 'one',
        name: 'Winch Room',
        pause: 900,
        plays: await plays('Winch Room bass', 'Winch Room kit, kick'),
      },
      {
        id: 'two',
        name: 'Fog Signal',
        pause: 75,
        plays: await plays('Fog Signal horn', 'Night Lock paddle'),
      },
    ],
  });
  await page.goto(`/set/${id}`);
  await expect(says(page)).toContainText('1 break is too short');
  await page.getByText('Who is on stage').click();
  await page.getByLabel('Who may help at Curlew').selectOption({ label: 'stage hand' });
  await expect(says(page)).toContainText('Every break is long enough');
  await expect(page.getByText(/stage hand moves Curlew before Fog Signal/)).toBeVisible();
  const aside = page.getByRole('complementary', { name: 'The song and the break before it' });
  await breakBefore(page, 'Fog Signal').click();
  await expect(aside).toContainText('stage hand, ');
  // Whoever stands somewhere else is no help.
  const walk = page.getByLabel('Seconds of stage hand to Curlew and back');
  await walk.fill('300');
  await walk.press('Enter');
  await expect(says(page)).toContainText('1 break is too short');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(says(page)).toContainText('Every break is long enough');
  // On stage the changeover is on their screen.
  await page.goto(`/set/${id}/stage`);
  await page.getByRole('button', { name: 'stage hand', exact: true }).click();
  await page.getByRole('button', { name: 'Begin the evening' }).click();
  await page
    .getByRole('button', { name: /Next break|Fog Signal/ })
    .first()
    .click();
  await expect(page.locator('.now h2')).toBeVisible();
  await expect(page.getByText('Curlew').first()).toBeVisible();
});

test('where there is room for two at a panel, both make one changeover, each on a screen of their own', async ({
  page,
  api,
}) => {
  const song = async (id: string, patch: string, pause: number) => ({
    id,
    name: id,
    pause,
    plays: [{ panel: 'curlew', patch: await api.idOf(patch) }],
  });
  const set = await api.post<{ id: string }>('/evenings', {
    format: 'hurrel-set',
    version: 1,
    name: 'Skerrow Lock, one cabinet',
    people: [
      { id: 'low', name: 'low keys' },
      { id: 'hand', name: 'stage hand' },
    ],
    panels: [
      {
        id: 'curlew',
        name: 'Curlew',
        instrument: 'staithe-curlew',
        atStart: true,
        by: 'low',
        also: [{ by: 'hand', walk: 2 }],
      },
    ],
    songs: [
      await song('kick', 'Winch Room kit, kick', 900),
      await song('paddle', 'Night Lock paddle', 0),
    ],
  });
  await page.goto(`/set/${set.id}`);
  await expect(says(page)).toContainText('1 break is too short');
  const [, minutes, seconds] = /worst by (\d+):(\d\d)/.exec(await says(page).innerText())!;
  const lacks = 60 * Number(minutes) + Number(seconds);
  // Too little for one, and enough for two.
  await breakBefore(page, 'paddle').click();
  const pause = page.getByLabel('The break before it has');
  await pause.fill(`${Math.round(0.75 * lacks)} s`);
  await pause.press('Enter');
  await expect(says(page)).not.toContainText(`worst by ${minutes}:${seconds}`);
  await expect(says(page)).toContainText('1 break is too short');
  await page.getByText('Who is on stage').click();
  await page.getByLabel('at the same time too').check();
  await expect(says(page)).toContainText('Every break is long enough');
  await expect(page.getByText(/stage hand helps at Curlew before paddle/)).toBeVisible();
  for (const who of ['low keys', 'stage hand']) {
    await page.goto(`/set/${set.id}/stage`);
    await page.getByRole('button', { name: who, exact: true }).click();
    const begin = page.getByRole('button', { name: /^(Begin the evening|Resume)/ }).first();
    await begin.click();
    await page.getByRole('button', { name: 'The next break' }).click();
    await expect(page.locator('.where')).toContainText('Curlew');
  }
});

test('equal panels are told apart as units, and each shows what its own dials read', async ({
  page,
  api,
}) => {
  const instrument = instrumentSchema.parse(await api.get('/instruments/oxbow-sluice'));
  const [bass, horn] = [await api.idOf('Winch Room bass'), await api.idOf('Fog Signal horn')];
  const calibration = { cutoff: [{ at: 0.5, value: 900 }] };
  const { id: measured } = await api.post<{ id: string }>('/units', {
    instrument: instrument.id,
    name: 'The one that opens wide',
    calibration,
  });
  const panel = (id: string) => ({ id, name: `Sluice ${id}`, instrument: instrument.id });
  const { id } = await api.post<{ id: string }>('/evenings', {
    format: 'hurrel-set',
    version: 1,
    name: 'Two Sluices',
    people: [{ id: 'low', name: 'low keys' }],
    panels: [panel('left'), panel('right')],
    songs: [
      {
        ...{ id: 'one', name: 'Both', pause: 900 },
        plays: [
          { panel: 'left', patch: bass },
          { panel: 'right', patch: horn },
        ],
      },
    ],
  });
  await page.goto(`/set/${id}`);
  await page.getByText('Who is on stage').click();
  const alike = page.getByText('Sluice left and Sluice right are not told apart');
  await expect(alike).toBeVisible();
  await page.getByLabel('Which unit Sluice left is').selectOption('The one that opens wide');
  await expect(alike).toHaveCount(0);
  await page.getByLabel('Which unit Sluice right is').selectOption('a new unit, Sluice right');
  const units = async () =>
    (await api.get<{ evening: { panels: { unit?: string }[] } }>(`/evenings/${id}`)).evening.panels;
  await expect.poll(async () => (await units()).every((p) => p.unit)).toBe(true);
  expect((await units())[0]!.unit).toBe(measured);

  await page.getByRole('link', { name: 'Lead me through it' }).first().click();
  await expect(page).toHaveURL(new RegExp(`unit=${measured}`));
  await expect(page.getByLabel('Which unit you stand before').locator('option:checked')).toHaveText(
    'The one that opens wide',
  );

  // On stage the cutoff is read where that unit gives what the patch means.
  const patch = patchSchema.parse((await api.get(`/patches/${bass}`)).patch);
  const points = {
    [measured]: { calibration: { cutoff: [{ at: 0.5, value: 900, against: 'tuner' as const }] } },
  };
  const control = instrument.controls.find((c) => c.id === 'cutoff')!;
  const reads = (of: typeof patch): string =>
    formatValue(control, soundingValue(control, of.settings['cutoff']!)!);
  const there = reads(readOn(points, measured, { patch, instrument }).patch);
  expect(there).not.toBe(reads(patch));
  await page.goto(`/set/${id}/stage`);
  await page.getByRole('button', { name: 'Begin the evening' }).click();
  const [target, name] = [page.getByTestId('target'), page.locator('.now h2')];
  await expect(page.getByText('Sluice left')).toBeVisible();
  const progress = page.getByRole('progressbar', { name: 'Done in this break' });
  for (let i = 0; i < 40 && (await name.textContent())!.trim() !== 'cutoff'; i++) {
    const before = await progress.getAttribute('aria-valuenow');
    await page.keyboard.press('Space');
    await expect(progress).not.toHaveAttribute('aria-valuenow', before!);
  }
  await expect(page.getByText('Sluice left')).toBeVisible();
  await expect(target).toHaveText(there);
});
