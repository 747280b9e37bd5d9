import type { Page } from '@playwright/test';
import { control, expect, test } from './app';

const thing = (page: Page, name: string) => page.locator(`[data-thing="${name}"]`);
const numbers = async (page: Page, label: string): Promise<number> =>
  Number(await page.getByLabel(label, { exact: true }).inputValue());

test('things are moved by drag, by keys and by numbers, and stay where they were put', async ({
  page,
  api,
  errors,
}) => {
  const id = await api.describe('Dunlin');
  await page.goto(`/instrument/${id}`);
  await expect(page.getByLabel('The panel in words')).toBeVisible();
  await page.getByRole('button', { name: 'Layout' }).click();
  const section = thing(page, 'section:filter');
  const cutoff = thing(page, 'control:filter-cutoff');

  // The section is made larger by numbers, the knob moved in it by keys, fine and coarse.
  await section.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowLeft');
  await expect(section).toHaveAttribute('aria-selected', 'true');
  await page.getByLabel('Width', { exact: true }).fill('600');
  await page.getByLabel('Width', { exact: true }).press('Enter');
  await page.getByLabel('Height', { exact: true }).fill('400');
  await page.getByLabel('Height', { exact: true }).press('Enter');
  await cutoff.focus();
  await expect(page.getByRole('heading', { name: 'Filter cutoff' })).toBeVisible();
  const left = (await numbers(page, 'From the left')) + 1;
  await page.keyboard.press('Shift+ArrowRight');
  await expect.poll(() => numbers(page, 'From the left')).toBe(left);
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => numbers(page, 'From the left')).toBe(left + 8);
  await page.keyboard.press('Control+ArrowRight');
  await expect.poll(() => numbers(page, 'From the left')).toBe(left + 48);

  // Down, where it lies on nothing.
  const above = await numbers(page, 'From above');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+ArrowDown');
  await expect.poll(() => numbers(page, 'From above')).toBe(above + 120);

  // By drag, from step to step of the grid; undone in one.
  const box = (await cutoff.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 30, y + 60, { steps: 4 });
  await page.mouse.move(x + 60, y + 120, { steps: 4 });
  await page.mouse.up();
  // What the last move did is drawn with the next frame.
  await page.evaluate(
    () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))),
  );
  const dragged = await numbers(page, 'From the left');
  expect(dragged).toBeGreaterThan(left + 48);
  expect((dragged - left) % 8).toBe(0);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect.poll(() => numbers(page, 'From the left')).toBe(left + 48);
  await page.getByRole('button', { name: 'Redo', exact: true }).click();
  await expect.poll(() => numbers(page, 'From the left')).toBe(dragged);
  await expect(page.getByTestId('save-state')).toContainText('Saved');
  const placeOf = async (): Promise<{ x: number; y: number }> => {
    const { controls } = await api.get<{
      controls: { id: string; place: { x: number; y: number } }[];
    }>(`/instruments/${id}`);
    return controls.find((c) => c.id === 'filter-cutoff')!.place;
  };
  const put = await placeOf();

  // What is typed afterwards finds a place of its own.
  await page.getByRole('button', { name: 'The panel in words' }).click();
  const words = page.getByLabel('The panel in words');
  await words.fill(`${await words.inputValue()}\nMore:\ndrive 0..10\nlevel 0..10`);
  await expect(control(page, 'more-level')).toBeVisible();
  await expect(page.getByTestId('save-state')).toContainText('Saved');
  expect(await placeOf()).toEqual(put);

  // All of it in rows again.
  await page.getByRole('button', { name: 'Layout' }).click();
  await page.getByRole('button', { name: 'Lay everything out anew' }).click();
  await expect(page.getByTestId('save-state')).toContainText('Saved');
  await expect.poll(placeOf).not.toEqual(put);
  expect(errors).toEqual([]);
});

test('several things at once are brought to one line, spaced and turned round', async ({
  page,
  api,
}) => {
  const id = await api.describe('Knot');
  await page.goto(`/instrument/${id}`);
  await page.getByRole('button', { name: 'Layout' }).click();
  const knobs = page.locator('[data-thing^="control:filter"]');
  await knobs.nth(0).click();
  await knobs.nth(1).click({ modifiers: ['Shift'] });
  await expect(page.getByRole('heading', { name: '2 things' })).toBeVisible();
  const names = async (): Promise<string[]> =>
    (
      await api.get<{ controls: { id: string; section: string; place: { x: number } }[] }>(
        `/instruments/${id}`,
      )
    ).controls
      .filter((c) => c.section === 'filter')
      .sort((a, b) => a.place.x - b.place.x)
      .map((c) => c.id)
      .slice(0, 2);
  const before = await names();
  await page.getByRole('button', { name: 'Turn the row round' }).click();
  await expect.poll(names).toEqual([...before].reverse());
  await page.getByRole('button', { name: 'Middles in one level line' }).click();
  await page.keyboard.press('Escape');
});
