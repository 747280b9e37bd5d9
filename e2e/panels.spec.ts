import type { Page } from '@playwright/test';
import {
  control,
  expect,
  openChart,
  pickPatch,
  saved,
  saveState,
  sounded,
  sounds,
  tapSound,
  test,
} from './app';

interface PanelPatch {
  cables: { id: string; from?: string; to?: string; colour?: string; inactive?: boolean }[];
  matrix: { row: number; source: string; destination: string; depth: number }[];
  variations: { id: string; name: string; settings: Record<string, unknown> }[];
  meant: Record<string, string>;
  rack?: { id: string; row: number; at: number }[];
  settings: Record<string, { kind: string; value?: number | string }>;
}

const jack = (page: Page, id: string) => page.locator(`[data-jack="${id}"]`);
const lines = (page: Page) => page.locator('hur-cables .line');

/** Draws a cable with the pointer. */
async function draw(page: Page, from: string, to: string): Promise<void> {
  const [a, b] = [await jack(page, from).boundingBox(), await jack(page, to).boundingBox()];
  await page.mouse.move(a!.x + a!.width / 2, a!.y + 12);
  await page.mouse.down();
  await page.mouse.move(b!.x + b!.width / 2, b!.y - 20, { steps: 4 });
  await page.mouse.move(b!.x + b!.width / 2, b!.y + 12, { steps: 2 });
  await page.mouse.up();
}

/** Patches a cable by the names of its jacks. */
async function type(page: Page, from: string, to: string): Promise<void> {
  for (const [field, text] of [
    ['#cable-from', from],
    ['#cable-to', to],
  ] as const) {
    await page.locator(field).fill(text);
    await expect(page.locator('ngb-typeahead-window button').first()).toBeVisible();
    await page.keyboard.press('Enter');
  }
}

test('cables are drawn, typed, noted, rested, pulled, and every step is undone', async ({
  page,
  api,
  errors,
}) => {
  const id = await api.copyOf('Winch Room kit, kick');
  const cables = async () => (await api.get<{ patch: PanelPatch }>(`/patches/${id}`)).patch.cables;
  await openChart(page, id);
  await draw(page, 'j-cutoff', 'j-lfo');
  await saved(page, 2);
  expect(await cables()).toEqual([{ id: 'c1', from: 'j-lfo', to: 'j-cutoff' }]);

  // Two that give a signal cannot be joined; nothing is stored, and it is said.
  await draw(page, 'j-env', 'j-osc1');
  await expect(page.getByText('both give a signal')).toBeVisible();
  await expect(lines(page)).toHaveCount(1);

  await page.keyboard.press('F9');
  await expect(page.locator('#cable-from')).toBeFocused();
  await type(page, 'velo', 'amp');
  await saved(page, 3);
  await expect(lines(page)).toHaveCount(2);
  await expect(lines(page).nth(1)).toContainText('velocity → amp');

  await page.getByLabel('colour').fill('yellow');
  await page.getByLabel('colour').press('Enter');
  await page.getByRole('button', { name: 'Left in, not in use' }).click();
  await expect
    .poll(async () => (await cables())[1])
    .toEqual({
      id: 'c2',
      from: 'j-velocity',
      to: 'j-amp',
      colour: 'yellow',
      inactive: true,
    });

  await page.getByRole('button', { name: 'Unplug' }).click();
  await expect(lines(page)).toHaveCount(1);
  for (const left of [2, 2, 2, 1, 0]) {
    await page.keyboard.press('Control+z');
    await expect(lines(page)).toHaveCount(left);
  }
  await expect.poll(cables).toEqual([]);

  // A line that was left half typed is forgotten: what is typed anew is what is joined.
  await page.keyboard.press('F9');
  await page.locator('#cable-from').fill('lfo');
  await expect(page.locator('ngb-typeahead-window button').first()).toBeVisible();
  await page.keyboard.press('Enter');
  await page.keyboard.press('F9');
  await expect(page.locator('#cable-from')).toHaveValue('');
  await page.locator('#cable-from').fill('lfo');
  await expect(page.locator('ngb-typeahead-window button').first()).toBeVisible();
  await page.keyboard.press('Enter');
  await page.locator('#cable-from').fill('no such jack');
  await page.locator('#cable-to').fill('patch bay width 2');
  await expect(page.locator('ngb-typeahead-window button').first()).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Name the first jack too.')).toBeVisible();
  await expect(lines(page)).toHaveCount(0);

  // A plug that only breaks a wire is typed too.
  await page.keyboard.press('F9');
  await type(page, 'patch bay amp', 'plug');
  await expect(lines(page)).toHaveCount(1);
  await expect(lines(page)).toContainText('plug in amp');
  expect(errors).toEqual([]);
});

test('a plug breaks a wire: it is told at the jack, silence is explained and mended', async ({
  page,
  api,
}) => {
  const id = await api.copyOf('Winch Room kit, kick');
  await openChart(page, id);
  await jack(page, 'j-amp').focus();
  await expect(page.locator('hur-cables')).toContainText('Wired inside from envelope to amplifier');
  await page.getByRole('button', { name: 'Put a plug in' }).click();
  const finding = page.locator('.finding.silent');
  await expect(finding).toContainText('amplifier is never opened');
  await finding.getByRole('button', { name: /Pull plug in amp/ }).click();
  await expect(page.locator('.finding.silent')).toHaveCount(0);
  await expect(lines(page)).toHaveCount(0);
});

test('the path tells what stands at a module while a note is held', async ({ page, api }) => {
  await page.goto(`/patch/${await api.idOf('Winch Room bass')}/path`);
  await page.locator('[data-node="mix"]').click();
  const volts = page.locator('hur-port-volts');
  // A pulse that is not square has direct current in it.
  await expect(volts).toContainText(/out.*\d\.\d\d to \d\.\d\d V.*V of it direct/);
  await page.locator('[data-node="env1"]').click();
  await expect(volts).toContainText(/out\d\.\d\d to \d\.\d\d V$/);
});

test('the path shows shapes and lets one layer be heard alone', async ({ page, api }) => {
  await tapSound(page);
  await page.goto(`/patch/${await api.idOf('Fog Signal bell buoy')}/path`);
  const shape = page.locator('.shape', { hasText: 'layers' });
  await shape.click();
  await expect(page.locator('[data-node="vca-1-a"]')).not.toHaveClass(/dim/);
  await expect(page.locator('[data-node="keys"]')).toHaveClass(/dim/);
  await page.getByRole('button', { name: 'Hear Bank 2 a alone' }).click();
  await sounded(page, 0.001);
  await page.getByRole('button', { name: 'Stop' }).click();

  await page.locator('[data-node="ladder-1-f"]').press('Enter');
  await page.getByRole('link', { name: /Low-pass cutoff/ }).click();
  await expect(page).toHaveURL(/chart\?begin=ladder-1-cutoff/);
  await expect(control(page, 'ladder-1-cutoff')).toBeFocused();
});

test('a variation is edited on the chart, and the patch itself stays', async ({ page, api }) => {
  const id = await api.copyOf('Winch Room bass');
  const read = async () => (await api.get<{ patch: PanelPatch }>(`/patches/${id}`)).patch;
  const before = await read();
  await page.goto(`/patch/${id}/variations`);
  await page.getByPlaceholder('thin, for the introduction').fill('thin');
  await page.getByRole('button', { name: 'New variation' }).click();
  await expect(page).toHaveURL(/chart/);
  await control(page, 'high-pass').focus();
  await page.keyboard.type('6');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await read()).variations[0]?.settings)
    .toEqual({ 'high-pass': { kind: 'set', value: 0.6 } });
  expect((await read()).settings).toEqual(before.settings);
  await expect(control(page, 'high-pass')).toHaveAttribute('aria-valuetext', '6');
  // A patch opens as itself, after a reload too; the variation is there to be chosen.
  await page.reload();
  await expect(control(page, 'high-pass')).toBeVisible();
  await expect(control(page, 'high-pass')).not.toHaveAttribute('aria-valuetext', '6');
  await page.locator('select.shown').selectOption({ label: 'thin' });
  await expect(control(page, 'high-pass')).toHaveAttribute('aria-valuetext', '6');

  await page.locator('select.shown').selectOption({ label: 'the patch itself' });
  await expect(control(page, 'high-pass')).not.toHaveAttribute('aria-valuetext', '6');
  await page.getByRole('link', { name: 'Variations' }).click();
  await expect(page.locator('tbody tr').first()).toContainText('high-pass');
  await page.getByRole('link', { name: 'Rebuild it step by step' }).click();
  await expect(page.getByTestId('target')).toHaveText('6');
  await page.keyboard.press('Space');
  await expect(page.getByText('The panel is rebuilt.')).toBeVisible();
});

test('a matrix row is picked on the panel: source moved, destination touched', async ({
  page,
  api,
}) => {
  const id = await api.copyOf('Night Lock call');
  await openChart(page, id);
  const read = async () => (await api.get<{ patch: PanelPatch }>(`/patches/${id}`)).patch;
  const { settings } = await read();
  await page.getByRole('button', { name: 'Pick on the panel' }).click();
  await control(page, 'lfo-rate').focus();
  await page.keyboard.press('ArrowUp');
  await expect(page.locator('.picking')).toContainText('LFO it is');
  // Moved by hand, as one says which on the instrument: the record stays as it is.
  const { x, y, width, height } = (await control(page, 'cutoff').boundingBox())!;
  await page.mouse.move(x + width / 2, y + height / 2);
  await page.mouse.down();
  await page.mouse.move(x + width / 2, y + height / 2 - 40, { steps: 5 });
  await page.mouse.up();
  const depth = page.getByLabel('Depth of row 1');
  await depth.fill('-20');
  await depth.press('Enter');
  await expect
    .poll(async () => (await api.get<{ patch: PanelPatch }>(`/patches/${id}`)).patch.matrix)
    .toEqual([{ row: 0, source: 'lfo', destination: 'cutoff1', depth: -0.3125 }]);
  expect((await read()).settings).toEqual(settings);
  await expect(control(page, 'cutoff').locator('.rows')).toHaveText('→1');
  await expect(control(page, 'lfo-rate').locator('.rows')).toHaveText('1→');
  await depth.fill('99');
  await depth.press('Enter');
  await expect(page.locator('hur-matrix-rows [role=alert]')).toContainText('from -64 to 64');
});

test('a finding that is meant so stays away, with its reason', async ({ page, api }) => {
  const id = await api.copyOf('Low Tide haze');
  await openChart(page, id);
  await control(page, 'delay-mix').focus();
  await page.keyboard.type('30');
  await page.keyboard.press('Enter');
  const finding = page.locator('.finding', { hasText: 'reverb is fed by delay' });
  await finding.getByRole('button', { name: /Meant so/ }).click();
  await page.getByLabel('Why it is meant so').fill('the lamps are in a hall');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(finding).toHaveCount(0);
  await expect(page.getByText('1 meant so')).toBeVisible();
  await page.reload();
  await page.getByText('1 meant so').click();
  await expect(page.locator('hur-findings')).toContainText('the lamps are in a hall');
});

test('a module is moved in the cabinet of one patch only', async ({ page, api }) => {
  const id = await api.copyOf('Low Tide channel');
  const other = await api.idOf('Night Lock gate iron');
  await openChart(page, id);
  await page.locator('.section-title', { hasText: 'Inverter' }).click();
  const to = page.getByLabel('Move to');
  const place = await to.locator('option').nth(1).innerText();
  await to.selectOption({ index: 1 });
  await saved(page, 2);
  const { patch } = await api.get<{ patch: PanelPatch }>(`/patches/${id}`);
  const moved = patch.rack!.find((p) => p.id === 'invert-1')!;
  expect(place.trim()).toContain(`row ${moved.row + 1}, ${moved.at} from the left`);
  expect((await api.get<{ patch: PanelPatch }>(`/patches/${other}`)).patch.rack).toBeUndefined();
  await page.keyboard.press('Control+z');
  await expect
    .poll(async () => (await api.get<{ patch: PanelPatch }>(`/patches/${id}`)).patch.rack)
    .toBeUndefined();
});

test('a wheel’s ends are told, drawn and heard', async ({ page, api }) => {
  await tapSound(page);
  await openChart(page, await api.idOf('Winch Room ratchet'));
  await control(page, 'wheel').focus();
  const travel = page.locator('hur-controller-travel');
  await expect(travel.locator('path.level')).toHaveAttribute('d', /^M.*L/);
  await expect(travel.getByLabel('down')).toHaveValue('dark wood, for the verse');
  await travel.getByRole('button', { name: 'hear' }).nth(1).click();
  await sounds(page, 0.001);
});

test('a unit is calibrated, its memory mapped, and a rebuild reads elsewhere on it', async ({
  page,
  api,
}) => {
  await page.goto('/instruments');
  const row = page.locator('li', { hasText: 'Marram Estuary' });
  await row.getByText('Add a unit').click();
  await row.getByPlaceholder('the barge’s own').fill('the new one');
  await row.getByRole('button', { name: 'Add unit' }).click();
  await expect(page.getByLabel('Name of this unit')).toHaveValue('the new one');

  await page.getByLabel('Control').selectOption({ label: 'Filter 1 cutoff' });
  await page.getByLabel('reads').fill('700');
  await page.getByLabel('comes to').fill('850');
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.locator('tbody tr')).toContainText('850 Hz');
  await page.getByLabel('reads').fill('1000');
  await page.getByLabel('comes to').fill('600');
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByRole('alert')).toContainText('contradict');

  await page.getByRole('button', { name: 'A01, free' }).click();
  await page.getByLabel('What is in it').fill('hazelnut shell');
  await expect(page.locator('.store')).toContainText('detents');
  await page.getByLabel('What is in it').press('Enter');
  await page.getByRole('button', { name: 'Mark as needed' }).click();
  await expect(page.getByRole('button', { name: 'A01 HAZELNUT SHE, needed' })).toBeVisible();
  await expect(saveState(page)).toContainText('Saved');
  await page.reload();
  await page.getByRole('button', { name: 'A01 HAZELNUT SHE, needed' }).click();
  await expect(page.locator('.warn')).toContainText('it is needed');

  const shows = page.getByRole('region', { name: 'What its panel shows' });
  await expect(shows).toContainText('Unknown');
  await pickPatch(page, 'Patch', 'Low Tide haze');
  await page.getByRole('button', { name: 'It is loaded now' }).click();
  await expect(shows).toContainText('This panel shows Low Tide haze');
  await shows.getByRole('button', { name: 'Somebody has turned things' }).click();
  await expect(shows).toContainText('controls may stand elsewhere');

  await page.goto(`/patch/${await api.idOf('Low Tide haze')}/rebuild`);
  await page.getByLabel('Which unit you stand before').selectOption({ label: 'the new one' });
  await expect(page.locator('.translated')).toContainText('Filter 1 cutoff');
});

test('the same patch is heard through another revision', async ({ page, api }) => {
  await tapSound(page);
  await page.goto(`/patch/${await api.idOf('Winch Room bass')}/listen`);
  await pickPatch(page, 'Compare with', 'on board A, two-pole');
  await expect(page.getByText('Heard now')).toBeVisible();
  await page.keyboard.press('F6');
  await expect(page.getByText('board A, two-pole').last()).toBeVisible();
});
