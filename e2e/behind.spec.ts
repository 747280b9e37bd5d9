import { type Api, control, expect, openChart, type Stored, test } from './app';

interface Behind {
  outboard: { id: string; name: string; off?: boolean }[];
  outlet?: string;
}
const behind = async (api: Api, id: string): Promise<Behind> =>
  (await api.get<Stored & { patch: Behind }>(`/patches/${id}`)).patch;

test('what stands behind an instrument is put there, recorded below its panel, and rebuilt', async ({
  page,
  api,
}) => {
  const made = await api.create('init', 'Quay Wall');
  await page.goto(`/patch/${made.id}/details`);
  const more = page.getByLabel('Put something behind it');
  await more.selectOption({ label: 'Speaker and microphone' });
  await more.selectOption({ label: 'Overload pedal' });
  await more.selectOption({ label: 'Overload pedal' });
  const names = async (): Promise<string[]> =>
    (await behind(api, made.id)).outboard.map((t) => t.name);
  await expect
    .poll(names)
    .toEqual(['Speaker and microphone', 'Overload pedal', 'Overload pedal 2']);
  await page.getByLabel('Overload pedal: one earlier', { exact: true }).click();
  await page.getByLabel('Take away: Overload pedal 2').click();
  await expect.poll(names).toEqual(['Overload pedal', 'Speaker and microphone']);
  await page.getByLabel('Name of Overload pedal', { exact: true }).fill('Rust pedal');
  await page.keyboard.press('Enter');
  await expect.poll(names).toEqual(['Rust pedal', 'Speaker and microphone']);
  // What is taken off before the output is heard from there.
  await page.getByLabel('The sound is taken off at').selectOption({ label: 'the jack line out' });
  await expect.poll(async () => (await behind(api, made.id)).outlet).toBeDefined();

  await openChart(page, made.id);
  const gain = control(page, 'out-overload-gain');
  await gain.focus();
  await page.keyboard.type('7');
  await page.keyboard.press('Enter');
  await expect(gain).toHaveAttribute('aria-valuetext', '7');
  await page.goto(`/patch/${made.id}/rebuild`);
  await expect(page.getByText('Put Rust pedal behind the jack line out')).toBeVisible();
  await expect(page.getByText('Put Speaker and microphone behind Rust pedal')).toBeVisible();

  // Taken away, its settings go with it, and come back with it.
  await page.goto(`/patch/${made.id}/details`);
  await page.getByLabel('Take away: Rust pedal').click();
  await expect.poll(names).toEqual(['Speaker and microphone']);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(names).toEqual(['Rust pedal', 'Speaker and microphone']);
  await expect
    .poll(async () => (await api.get(`/patches/${made.id}`)).patch.settings['out-overload-gain'])
    .toMatchObject({ kind: 'set', value: 0.7 });
});
