import type { Page } from '@playwright/test';
import { type Api, expect, sounded, tapSound, test } from './app';

type Marks = Record<string, { value: string; person?: string; seconds?: number; kind?: string }>;

let made = 0;
/** A set of two songs, for two people, on panels of which nobody knows anything. @returns its id */
async function makeSet(api: Api): Promise<string> {
  const unit = `nobody-${++made}`;
  const play = async (panel: string, patch: string) => ({ panel, patch: await api.idOf(patch) });
  const { id } = await api.post<{ id: string }>('/evenings', {
    format: 'hurrel-set',
    version: 1,
    name: 'Skerrow Lock',
    people: [
      { id: 'low', name: 'low keys' },
      { id: 'high', name: 'high keys' },
    ],
    panels: [
      { id: 'sluice', name: 'Sluice', instrument: 'oxbow-sluice', unit, by: 'low', atStart: true },
      { id: 'curlew', name: 'Curlew', instrument: 'staithe-curlew', by: 'high', atStart: true },
    ],
    songs: [
      {
        id: 'one',
        name: 'Winch Room',
        pause: 900,
        plays: [
          await play('sluice', 'Winch Room bass'),
          await play('curlew', 'Winch Room kit, kick'),
        ],
      },
      {
        id: 'two',
        name: 'Fog Signal',
        pause: 60,
        plays: [await play('sluice', 'Fog Signal horn')],
      },
    ],
  });
  return id;
}
const walkOf = (page: Page): string => new URL(page.url()).searchParams.get('walk')!;
const marksOf = async (page: Page, api: Api): Promise<Marks> =>
  (await api.get<{ marks: Marks }>(`/walks/${walkOf(page)}`)).marks;
const doneIn = async (page: Page, api: Api): Promise<number> =>
  Object.values(await marksOf(page, api)).filter((m) => m.value === 'done').length;

async function begin(page: Page, set: string, who: string, how = 'Begin the evening') {
  await page.goto(`/set/${set}/stage`);
  await page.getByRole('button', { name: who, exact: true }).click();
  await page.getByRole('button', { name: how }).click();
  await expect(page.getByTestId('target')).toBeVisible();
}
const now = (page: Page) => page.locator('.now h2');
/** As it is written, not as it is drawn: a capital comes from its style. */
const nowSays = async (page: Page): Promise<string> => (await now(page).textContent())!.trim();
const progress = (page: Page) => page.getByRole('progressbar', { name: 'Done in this break' });
/** Done until nothing is left; each step is waited for. */
async function tick(page: Page): Promise<void> {
  const before = await progress(page).getAttribute('aria-valuenow');
  await page.keyboard.press('Space');
  await expect(progress(page)).not.toHaveAttribute('aria-valuenow', before!);
}

async function finish(page: Page): Promise<void> {
  for (let i = 0; i < 80 && (await page.getByTestId('target').count()) > 0; i++) await tick(page);
}

test('one movement at a time: done, put off, taken back, and all of it there after a reload', async ({
  page,
  api,
}) => {
  const set = await makeSet(api);
  await begin(page, set, 'low keys');
  await expect(page.getByText('Sluice')).toBeVisible();
  const first = await nowSays(page);
  await page.keyboard.press('Space');
  await expect(now(page)).not.toHaveText(first);
  const second = await nowSays(page);
  await page.keyboard.press('ArrowRight');
  await expect(now(page)).not.toHaveText(second);
  const third = await nowSays(page);
  await expect
    .poll(async () => Object.values(await marksOf(page, api)).map((m) => m.value))
    .toEqual(expect.arrayContaining(['done', 'later']));
  await page.reload();
  await expect(now(page)).toHaveText(third);
  await page.keyboard.press('ArrowLeft');
  await expect(now(page)).toHaveText(first);
  await expect.poll(() => doneIn(page, api)).toBe(0);
  // Somebody else who opens the set goes on with the same walk.
  await page.goto(`/set/${set}/stage`);
  await expect(page.getByRole('button', { name: /Resume/ })).toBeVisible();
});

test('two devices, one without a network: what each ticks is there on both when they meet', async ({
  page,
  api,
  browser,
  baseURL,
}) => {
  const set = await makeSet(api);
  await begin(page, set, 'high keys');
  const context = await browser.newContext({
    baseURL: baseURL!,
    viewport: { width: 390, height: 844 },
    serviceWorkers: 'block',
  });
  const other = await context.newPage();
  await other.goto(`/set/${set}/stage?walk=${walkOf(page)}`);
  await expect(other.getByTestId('target')).toBeVisible();
  await expect(other.getByText('with the others')).toBeVisible();
  const seen = () => other.evaluate(() => document.documentElement.scrollWidth <= innerWidth);
  expect(await seen()).toBe(true);

  // What one ticks the other sees.
  const before = await progress(other).getAttribute('aria-valuenow');
  await page.keyboard.press('Space');
  await expect(progress(other)).not.toHaveAttribute('aria-valuenow', before!);

  await context.setOffline(true);
  await expect(other.getByText('Offline')).toBeVisible();
  const last = (await progress(other).getAttribute('aria-valuenow'))!;
  await other.getByRole('button', { name: 'Later' }).click();
  await other.getByRole('button', { name: 'Done' }).click();
  await expect(other.getByText(/Offline · \d steps not sent/)).toBeVisible();
  await page.keyboard.press('Space');
  await expect.poll(() => doneIn(page, api)).toBe(2);
  await context.setOffline(false);
  await expect(other.getByText('with the others')).toBeVisible();
  const values = async () => Object.values(await marksOf(page, api)).map((m) => m.value);
  await expect.poll(async () => (await values()).filter((v) => v === 'later').length).toBe(1);
  await expect(progress(other)).not.toHaveAttribute('aria-valuenow', last);
  await context.close();
});

test('a place to listen comes behind its movements, and is heard with no network', async ({
  page,
  api,
}) => {
  const set = await makeSet(api);
  await tapSound(page);
  await begin(page, set, 'low keys');
  const place = page.getByRole('status', { name: 'Listen' });
  await expect(page.getByTestId('target')).toBeVisible();
  await page.context().setOffline(true);
  for (let i = 0; i < 40 && (await place.count()) === 0; i++) await tick(page);
  await expect(place).toContainText('You should hear:');
  await page.keyboard.press('h');
  await expect(place.getByRole('button', { name: 'Stop' })).toBeVisible();
  await sounded(page, 0.01);
  await tick(page);
  await expect(place).toHaveCount(0);
  await page.context().setOffline(false);
});

test('the break is checked by one key, what sounds wrong is led back, and the panel is known', async ({
  page,
  api,
}) => {
  const set = await makeSet(api);
  await tapSound(page);
  await begin(page, set, 'low keys', 'Rehearse against the clock');
  await finish(page);
  await expect(page.getByRole('heading', { name: 'All set for Winch Room' })).toBeVisible();
  await expect(page.getByRole('status', { name: 'The others' })).toContainText('high keys');
  await expect(page.locator('.play strong')).toHaveText(/^[A-G][#♭b]?\d$/);
  await expect(page.getByText(/It tells of \d+ of \d+ movements/)).toBeVisible();
  await page.getByRole('button', { name: 'Hear how it should sound' }).click();
  await sounded(page, 0.01);
  await page.keyboard.press('w');
  await expect(page.getByText('Look here first')).toBeVisible();
  await expect(page.locator('hur-stage-check li')).toHaveCount(3);
  await page.getByRole('button', { name: 'Do it once more' }).first().click();
  await page.keyboard.press('w');
  await expect(page.getByTestId('target')).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('heading', { name: 'All set for Winch Room' })).toBeVisible();

  // Whoever rebuilds it now begins where the panel stands.
  const shown = async () =>
    (
      await api.get<{ shown: { name: string; finished: boolean } | null }>(
        `/shown/unit-nobody-${made}`,
      )
    ).shown;
  await expect.poll(shown).toMatchObject({ name: 'Winch Room bass', finished: true });
  // The times that were taken are planned with.
  const marks = Object.values(await marksOf(page, api)).filter((m) => m.seconds !== undefined);
  expect(marks.length).toBeGreaterThan(5);
  expect(marks.every((m) => m.person === 'low')).toBe(true);
  await page.goto(`/set/${set}`);
  await page.getByText('Who is on stage').click();
  await expect(page.getByText(/knob \d+\.\d s, of \d+/)).toBeVisible();
});

test('where one stopped is found by looking at a few controls', async ({ page, api }) => {
  const set = await makeSet(api);
  await begin(page, set, 'low keys');
  await page.keyboard.press('l');
  const most = Number(/at most (\d+)/.exec(await page.locator('hur-stage-where').innerText())![1]);
  // Nothing stands yet where it shall.
  let looks = 0;
  while ((await page.getByText('Is it set like this?').count()) > 0) {
    looks++;
    await expect(page.getByText(`Look ${looks} of`)).toBeVisible();
    await page.getByRole('button', { name: looks === 1 ? 'Yes' : 'No', exact: true }).click();
    await expect(page.getByText(`Look ${looks} of`)).toHaveCount(0);
  }
  expect(looks).toBeLessThanOrEqual(most);
  await expect.poll(() => doneIn(page, api)).toBeGreaterThan(5);
  await expect(page.getByTestId('target')).toBeVisible();
});

test('a walk that does not exist, and a set without songs, are told', async ({ page, api }) => {
  const set = await makeSet(api);
  await page.goto(`/set/${set}/stage?walk=none`);
  await expect(page.getByRole('alert')).toContainText('There is no walk');
  const { id } = await api.post<{ id: string }>('/evenings', {
    format: 'hurrel-set',
    version: 1,
    name: 'Nothing yet',
  });
  await page.goto(`/set/${id}/stage`);
  await expect(page.getByText('This set has no songs yet.')).toBeVisible();
});

test('a break is rehearsed: drilled from the list of the hardest, timed, and made once more', async ({
  page,
  api,
}) => {
  const set = await makeSet(api);
  await page.goto(`/set/${set}/stage`);
  await page.getByRole('button', { name: 'low keys', exact: true }).click();
  await page.getByRole('button', { name: /2 Fog Signal/ }).click();
  await expect(page.getByRole('heading', { name: 'Fog Signal' })).toBeVisible();
  await expect(page.getByText('the break before it, 2 of 2 · rehearsal')).toBeVisible();
  await expect(page.getByTestId('target')).toBeVisible();
  await finish(page);
  await expect(page.getByText(/It took \d+:\d\d/)).toBeVisible();
  await page.getByRole('button', { name: 'The break once more' }).click();
  await expect(page.getByTestId('target')).toBeVisible();
  await expect.poll(() => doneIn(page, api)).toBe(0);
  await finish(page);
  await page.getByRole('link', { name: 'Leave the stage view' }).click();
  await expect(page.getByRole('heading', { name: 'How the hands do' })).toBeVisible();
  await expect(page.locator('hur-plot path.trace').first()).toBeAttached();
});
