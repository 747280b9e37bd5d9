import { expect, test } from './app';

test('a photograph lies beneath, straightened, and things are put on its picture', async ({
  page,
  api,
  errors,
}) => {
  const id = await api.describe('Ruff', 'Filter:\ncutoff 0..10');
  await page.goto(`/instrument/${id}`);
  await page.getByRole('button', { name: 'Layout' }).click();
  // What is no picture is refused, and the page is alive.
  const file = page.getByLabel('Lay a photograph beneath');
  await file.setInputFiles({ name: 'x.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no') });
  await expect(page.getByRole('alert')).toContainText('choose a JPEG, PNG or WebP');
  errors.splice(0);
  await file.setInputFiles('library/described/avocet.jpg');
  const corner = page.getByRole('slider', { name: 'Upper left corner of the panel' });
  await expect(corner).toHaveAttribute('aria-valuetext', '10.0 % across, 10.0 % down');
  await corner.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(corner).toHaveAttribute('aria-valuetext', '10.4 % across, 10.1 % down');
  const ring = (await corner.locator('circle').last().boundingBox())!;
  await page.mouse.move(ring.x + ring.width / 2, ring.y + ring.height / 2);
  await page.mouse.down();
  await page.mouse.move(ring.x + 40, ring.y + 60, { steps: 3 });
  await page.mouse.up();
  await expect(corner).not.toHaveAttribute('aria-valuetext', /^10/);
  await page.getByRole('button', { name: 'Its corners are right' }).click();
  const picture = page.locator('image.photograph');
  await expect(picture).toHaveAttribute('href', /^blob:/);
  await page.getByLabel('How much of it is seen').fill('0.3');
  await expect(picture).toHaveAttribute('opacity', '0.3');

  // Put by pointing: a control, a fault, a section with a jack in it.
  await page.getByRole('button', { name: 'Put by pointing' }).click();
  const sheet = page.locator('svg.sheet[role="listbox"]');
  const put = async (x: number, y: number, words: string): Promise<void> => {
    const box = (await sheet.boundingBox())!;
    await page.mouse.click(box.x + x * box.width, box.y + y * box.height);
    await expect(page.getByLabel('What is here')).toBeFocused();
    await page.keyboard.type(words);
    await page.keyboard.press('Enter');
  };
  await put(0.5, 0.3, 'drive 0..5');
  await expect(page.locator('[data-thing="control:filter-drive"]')).toBeVisible();
  await put(0.6, 0.6, 'Filter:');
  await expect(page.getByRole('alert')).toContainText('already');
  await page.keyboard.press('Escape');
  await put(0.6, 0.7, 'Output:');
  await expect(page.locator('[data-thing="section:output"]')).toBeVisible();
  // Let go and pointed elsewhere in one breath, before the page was drawn: words of before are gone.
  await put(0.6, 0.6, 'Filter:');
  await page.getByLabel('What is here').evaluate((field: HTMLInputElement) => {
    const sheet = field.closest('svg')!;
    const { x, y } = sheet.getBoundingClientRect();
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }));
    const at = { clientX: x + 20, clientY: y + 20, button: 0, bubbles: true, pointerId: 1 };
    sheet.dispatchEvent(new PointerEvent('pointerdown', at));
  });
  await expect(page.getByLabel('What is here')).toHaveValue('');
  await expect(page.getByRole('alert')).toBeHidden();
  await put(0.65, 0.8, '> line out');
  await expect(page.locator('[data-thing="jack:output-line-out-out"]')).toBeVisible();
  await page.getByRole('button', { name: 'Put by pointing' }).click();

  // A section is copied with all that it holds.
  await page.locator('[data-thing="section:filter"]').focus();
  await page.keyboard.press('Control+d');
  await expect(page.locator('[data-thing="control:filter-2-drive"]')).toBeVisible();
  await expect(page.getByText('3 sections, 4 controls, 1 jack')).toBeVisible();

  // As wide and high as the real one.
  await page.getByLabel('Its size is known').check();
  await page.getByLabel(/^Wide/).fill('480');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/a unit is \d+\.\d+ mm/)).toBeVisible();
  const svg = async (): Promise<string> =>
    (await page.request.get(`/api/v1/instruments/${id}/panel.svg`)).text();
  await expect.poll(svg).toContain('width="480mm"');

  // Typed on afterwards, everything is where it was put; taken away, the picture is gone.
  const { panel } = await api.get<{ panel: { photograph?: object } }>(`/instruments/${id}`);
  expect(panel.photograph).toMatchObject({ shown: 0.3 });
  await page.getByRole('button', { name: 'Take it away' }).click();
  await expect(picture).toBeHidden();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(picture).toBeVisible();
  expect(errors).toEqual([]);
});
