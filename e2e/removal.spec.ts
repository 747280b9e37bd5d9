import { expect, test } from './app';

const KINDS = [
  { name: 'session', list: '/sessions', button: 'Remove this recording' },
  { name: 'unit', list: '/instruments', button: 'Remove this unit' },
];

for (const { name, list, button } of KINDS)
  test(`a ${name} that is removed can be brought back from its list`, async ({ page }) => {
    await page.goto(list);
    await page.locator(`a[href^="/${name}/"]`).first().click();
    const remove = page.getByRole('button', { name: button, exact: true });
    await expect(remove).toBeVisible();
    const { pathname } = new URL(page.url());
    await remove.click();
    await expect(page).toHaveURL(new RegExp(`${list}$`));
    await expect(page.locator(`a[href="${pathname}"]`)).toHaveCount(0);
    await page.locator('hur-toasts').getByRole('button', { name: 'Undo' }).click();
    await expect(page).toHaveURL(new RegExp(`${pathname}$`));
    await expect(remove).toBeVisible();
  });
