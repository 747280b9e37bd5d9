import type { Page } from '@playwright/test';
import { control, expect, openChart, test } from './app';
import { plugIn, sends } from './plugged-in';

/** Somebody chooses a place of its memory. */
const chooses = (page: Page, program: number) => sends(page, [0xc0, program]);
/** A hand turns a knob. */
const turns = (page: Page, cc: number, sent: number, channel = 1) =>
  sends(page, [0xaf + channel, cc, sent]);
const isThis = (page: Page) => page.getByRole('button', { name: 'It is this panel' });

test('knobs that are turned on the panel are heard, and recorded where one says so', async ({
  page,
  api,
}) => {
  const { controls } = await api.get<{
    controls: { id: string; cc?: number }[];
  }>('/instruments/marram-estuary');
  const cc = controls.find((c) => c.id === 'resonance')!.cc!;
  const made = await api.post<{ id: string }>('/patches', {
    from: 'init',
    name: 'Turned by hand',
    instrument: 'marram-estuary',
    role: 'pad',
  });
  await page.addInitScript(plugIn);
  await openChart(page, made.id);
  const turn = (sent: number, channel = 1) => turns(page, cc, sent, channel);
  await page.getByRole('button', { name: 'Hear its knobs over MIDI' }).click();
  const records = page.getByLabel('What is turned on it is recorded here');
  const before = (await control(page, 'resonance').getAttribute('aria-label'))!;
  await turn(127);
  await expect(page.getByText('was heard at Estuary, channel 1')).toBeVisible();
  await isThis(page).click();
  await expect(page.locator('hur-knobs-heard [role="status"]')).toContainText('10');
  // What another panel sends on its channel is nothing of this one.
  await turn(3, 2);
  await expect(page.locator('hur-knobs-heard [role="status"]')).toContainText('10');
  await expect(control(page, 'resonance')).toHaveAttribute('aria-label', before);
  await records.check();
  for (const sent of [120, 90, 64]) await turn(sent);
  await expect
    .poll(async () => (await api.get(`/patches/${made.id}`)).patch.settings['resonance'])
    .toEqual({ kind: 'set', value: 0.5 });
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(control(page, 'resonance')).toHaveAttribute('aria-label', before);
});

test('a movement of a rebuild is done when the knob is heard to stay where it shall', async ({
  page,
  api,
}) => {
  const id = await api.copyOf('Low Tide haze');
  await page.addInitScript(plugIn);
  await page.goto(`/patch/${id}/rebuild?from=start`);
  const progress = page.getByRole('progressbar').first();
  const heard = page.getByRole('button', { name: 'Hear its knobs over MIDI' });
  await expect(page.getByTestId('target')).toBeVisible();
  await heard.click();
  const { controls } = await api.get<{
    controls: { id: string; name: string; cc?: number; positions?: { id: string }[] }[];
  }>('/instruments/marram-estuary');
  const { patch } = await api.get(`/patches/${id}`);
  const before = await progress.getAttribute('aria-valuenow');
  // Whichever it is: every place is gone through, as a hand would, and stayed at where it says so.
  const named = (await page.locator('hur-movement h2').textContent())!.trim();
  const ccs = controls.filter((c) => c.name === named && patch.settings[c.id]).map((c) => c.cc!);
  expect(ccs.length).toBeGreaterThan(0);
  await turns(page, ccs[0]!, 0);
  await isThis(page).click();
  find: for (const cc of ccs)
    for (let sent = 0; sent < 128; sent++) {
      await turns(page, cc, sent);
      if ((await page.locator('hur-movement .there').count()) > 0) break find;
    }
  await expect(progress).not.toHaveAttribute('aria-valuenow', before!);
  // With both hands on it: what is turned before its turn comes is done as it comes.
  const all = Object.entries(patch.settings).flatMap(([id, setting]) => {
    const found = controls.find((c) => c.id === id)!;
    return typeof setting.value === 'number' && !found.positions && found.cc !== undefined
      ? [
          {
            cc: found.cc,
            sent: Math.round(64 + (setting.value - 0.5) * (setting.value < 0.5 ? 128 : 126)),
          },
        ]
      : [];
  });
  const ticked = Number(await progress.getAttribute('aria-valuenow'));
  for (const { cc, sent } of all) await turns(page, cc, sent);
  await expect
    .poll(async () => Number(await progress.getAttribute('aria-valuenow')))
    .toBeGreaterThan(ticked + 1);
});

test('what was turned while a song was played is told on every screen, and known everywhere', async ({
  page,
  api,
  browser,
  baseURL,
}) => {
  const patch = await api.idOf('Low Tide haze');
  const instrument = await api.get<{ controls: { id: string; cc?: number }[] }>(
    '/instruments/marram-estuary',
  );
  const ccOf = (id: string): number => instrument.controls.find((c) => c.id === id)!.cc!;
  const { unit, id: unitId } = await api.post<{ id: string; unit: { instrument: string } }>(
    '/units',
    { instrument: 'marram-estuary', name: 'The one with the scratch' },
  );
  expect(unit.instrument).toBe('marram-estuary');
  const play = { panel: 'e', patch };
  const set = await api.post<{ id: string }>('/evenings', {
    format: 'hurrel-set',
    version: 1,
    name: 'Two low tides',
    people: [{ id: 'low', name: 'low keys' }],
    panels: [
      {
        id: 'e',
        name: 'Estuary',
        instrument: 'marram-estuary',
        unit: unitId,
        by: 'low',
        atStart: true,
      },
    ],
    songs: [
      { id: 'one', name: 'Low Tide', pause: 900, plays: [play] },
      { id: 'two', name: 'Low Tide once more', pause: 60, plays: [play] },
    ],
  });
  await page.addInitScript(plugIn);
  await page.goto(`/set/${set.id}/stage`);
  await page.getByRole('button', { name: 'Begin the evening' }).click();
  await page.getByRole('button', { name: 'Hear its knobs over MIDI' }).click();
  await turns(page, ccOf('resonance'), 90, 3);
  await isThis(page).click();
  const progress = page.getByRole('progressbar', { name: 'Done in this break' });
  for (let i = 0; i < 80 && (await page.getByTestId('target').count()) > 0; i++) {
    const before = await progress.getAttribute('aria-valuenow');
    await page.keyboard.press('Space');
    await expect(progress).not.toHaveAttribute('aria-valuenow', before!);
  }
  await page.keyboard.press('Space');
  await expect(page.getByText('Nothing to move for')).toBeVisible();
  // Both at once, as two hands do.
  await sends(page, [0xb2, ccOf('resonance'), 120], [0xb2, ccOf('env1-attack'), 3]);
  const turned = page.getByRole('status', { name: 'Turned by hand' });
  await expect(turned.getByRole('paragraph')).toHaveCount(2);
  await expect(page.getByText('Only what was turned goes back')).toBeVisible();
  const shown = () =>
    api.get<{ shown: { panel: { settings: Record<string, { value: number }> } } | null }>(
      `/shown/unit-${unitId}`,
    );
  await expect
    .poll(async () => (await shown()).shown?.panel.settings['resonance']!.value)
    .toBeCloseTo(0.5 + 56 / 126, 9);
  // Another screen, with no cable to a panel; and this one after a reload.
  const tablet = await browser.newContext({ baseURL: baseURL!, serviceWorkers: 'block' });
  const other = await tablet.newPage();
  await other.goto(page.url());
  const there = other.getByRole('status', { name: 'Turned by hand' });
  await expect(there.getByRole('paragraph')).toHaveCount(2);
  await page.context().grantPermissions(['midi']);
  await page.reload();
  await expect(turned.getByRole('paragraph')).toHaveCount(2);
  const { settings } = (await api.get(`/patches/${patch}`)).patch;
  const back = Math.round(128 * (settings['resonance']!.value as number));
  await turns(page, ccOf('resonance'), back, 3);
  await expect(turned.getByRole('paragraph')).toHaveCount(1);
  await expect(turned).toContainText('attack');
  await expect(there.getByRole('paragraph')).toHaveCount(1);
  await tablet.close();
});

test('a sound that is loaded on the instrument is known, done on stage, and told where it is another', async ({
  page,
  api,
}) => {
  const [haze, call] = [await api.idOf('Low Tide haze'), await api.idOf('Night Lock call')];
  const { id: unitId } = await api.post<{ id: string }>('/units', {
    instrument: 'marram-estuary',
    name: 'The one with the stickers',
    slots: [{ bank: 1, slot: 12, patch: haze }],
  });
  // Before anything is rebuilt on it: which panel it is, and what it shows.
  await page.addInitScript(plugIn);
  await page.context().grantPermissions(['midi']);
  await page.goto(`/unit/${unitId}`);
  const shows = page.getByRole('region', { name: 'What its panel shows' });
  await expect(shows).toContainText('Unknown');
  await expect(shows).toContainText('it is asked once');
  await chooses(page, 11);
  await expect(shows).toContainText('Place A12 was chosen at Estuary, channel 1');
  await isThis(page).click();
  await expect(shows).toContainText('This panel shows Low Tide haze');
  await chooses(page, 20);
  await expect(shows).toContainText('This panel shows what B05 holds');
  await expect(shows).toContainText('controls may stand elsewhere');

  const play = (patch: string) => [{ panel: 'e', patch }];
  const panel = {
    id: 'e',
    name: 'Estuary',
    instrument: 'marram-estuary',
    unit: unitId,
    atStart: true,
  };
  const set = await api.post<{ id: string }>('/evenings', {
    format: 'hurrel-set',
    version: 1,
    name: 'Stored before',
    people: [{ id: 'low', name: 'low keys' }],
    panels: [{ ...panel, by: 'low', places: ['A12', 'A13'] }],
    songs: [
      { id: 'one', name: 'Low Tide', pause: 900, plays: play(haze) },
      { id: 'two', name: 'Night Lock', pause: 60, plays: play(call) },
    ],
  });
  await page.goto(`/set/${set.id}/stage`);
  await page.getByRole('button', { name: 'Begin the evening' }).click();
  const target = page.getByTestId('target');
  await expect(target).toHaveText(/^Load A1[23]: Low Tide haze$/);
  const [right, wrong] = (await target.textContent())!.includes('A12') ? [11, 12] : [12, 11];
  // Stepped through: only where it stops counts, and what is wrong is not told while it is to be loaded.
  await chooses(page, 40);
  await chooses(page, wrong);
  await chooses(page, right);
  await expect(page.getByRole('heading', { name: 'All set for Low Tide' })).toBeVisible();
  await chooses(page, 40);
  const over = page.getByRole('status', { name: 'Estuary was loaded over' });
  await expect(over).toContainText(`C09 was loaded: back to A${right + 1}`);
  await page.reload();
  await expect(over).toContainText('C09 was loaded');
  await chooses(page, right);
  await expect(over).toHaveCount(0);
  // In the next break it is loaded in the same way.
  await page.keyboard.press('Space');
  await expect(target).toHaveText(/^Load A1[23]: Night Lock call$/);
  await chooses(page, wrong);
  await expect(page.getByRole('heading', { name: 'All set for Night Lock' })).toBeVisible();
});
