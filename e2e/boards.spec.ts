import { expect, test } from './app';

test('boards are kept side by side: each variation has its own, all are measured and heard in turn', async ({
  page,
  api,
}) => {
  const id = await api.copyOf('Winch Room boards');
  await page.goto(`/patch/${id}/variations`);
  // Of the patch and its three variations, the same note each.
  const loudness = page.getByRole('row', { name: /^Loudness/ }).getByRole('cell');
  await expect(loudness).toHaveText([/LUFS/, /LUFS/, /LUFS/, /LUFS/]);
  const bright = await page
    .getByRole('row', { name: /^Brightness/ })
    .getByRole('cell')
    .allTextContents();
  expect(new Set(bright).size).toBe(4);

  await page
    .getByLabel('Board of board D, three-pole')
    .selectOption({ label: 'board A, two-pole' });
  await expect
    .poll(async () => {
      const { patch } = await api.get<{ patch: { variations: { revision?: string }[] } }>(
        `/patches/${id}`,
      );
      return patch.variations[2]!.revision;
    })
    .toBe('board-a');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('Board of board D, three-pole')).toHaveValue('board-d');

  await page.getByRole('button', { name: 'Hear all in turn' }).click();
  await expect(page.getByRole('columnheader', { name: /the patch itself/ })).toHaveClass(/heard/);
  await expect(page.getByRole('columnheader', { name: /board A/ })).toHaveClass(/heard/);
  await page.getByRole('button', { name: 'Stop' }).first().click();
  await expect(page.locator('th.heard')).toHaveCount(0);
});

test('a patch is stored in a place: it is written down, and ends the rebuild', async ({
  page,
  api,
}) => {
  const id = await api.copyOf('Night Lock call', 'Night Lock cry');
  await page.goto(`/patch/${id}/details`);
  const place = page.getByLabel('Stored on the instrument in');
  await place.fill('Z99');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('A place from A01 to D16');
  await place.fill('c4');
  await page.keyboard.press('Enter');
  await expect(place).toHaveValue('C04');
  await expect(page.getByLabel('Name in that place')).toHaveValue('NIGHT LOCK C');
  // The rebuild ends with it: skipped to its end, the last two steps are those.
  await page.goto(`/patch/${id}/rebuild`);
  const target = page.getByTestId('target');
  const later = page.getByRole('button', { name: /^Later/ });
  await expect(later).toBeVisible();
  const answer = await page.request.post('/api/v1/rebuild', {
    data: { from: 'start', to: { patchId: id } },
  });
  const plan = (await answer.json()) as { steps: { text?: string }[] };
  expect(plan.steps.slice(-2).map((s) => s.text)).toEqual(['Store in C04', 'Name it NIGHT LOCK C']);
  for (let i = 0; i < plan.steps.length - 1; i++) {
    if ((await page.getByRole('heading', { name: 'Name it' }).count()) > 0) break;
    await later.click();
  }
  await expect(target).toHaveText(/N\s*I\s*G\s*H\s*T\s*␣\s*L\s*O\s*C\s*K/);
});
