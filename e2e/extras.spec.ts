import { instrumentSchema } from '../core/src/instrument';
import { expect, test } from './app';

const ROWS = `Upper row:
8 x -5..5 knob: 1, 2, 3, 4, 5, 6, 7, 8
Sequencer clock:
rate 1..10
last step 1/2/3/4/5/6/7/8
direction forward/back
Filter:
cutoff 0..10
resonance 0..10
Loudness envelope:
4 x 0..10 slider: attack, decay, sustain, release
Output:
volume 0..10`;

test('sequencers, memory, a matrix and revisions are said in forms, and used at once', async ({
  page,
  api,
  errors,
}) => {
  const id = await api.describe('Godwit', ROWS);
  await page.goto(`/instrument/${id}`);
  await page.getByRole('button', { name: 'Extras' }).click();
  await page.getByRole('button', { name: /^Voltage rows/ }).click();
  const rows = page.getByRole('region', { name: 'voltage rows' });
  await expect(rows).toContainText('Upper row 8 steps');
  await expect(rows.getByLabel('Last step', { exact: true }).locator('option:checked')).toHaveText(
    'Sequencer clock last step',
  );
  await page.getByRole('button', { name: /^Line Pitches/ }).click();
  const line = page.getByRole('region', { name: 'line', exact: true });
  await line.getByLabel('slides').uncheck();
  await line.getByLabel('Banks of places').fill('2');
  await page.keyboard.press('Enter');
  await line.getByLabel('Highest note').fill('C6');
  await page.keyboard.press('Enter');
  await page.getByLabel('It keeps sounds by itself').check();
  await page.getByLabel('Letters of a name').fill('8');
  await page.keyboard.press('Enter');
  await page.getByLabel('It says over MIDI which place').check();
  await page.getByLabel('Programs are counted').selectOption('through all banks');
  await page.getByLabel('A bank is selected by').selectOption('controller 32');
  // Without a circuit there is nothing to join, and that is said.
  await page.getByRole('button', { name: 'It has a matrix' }).click();
  await expect(page.getByText('nothing that moves')).toBeVisible();

  await page.getByRole('button', { name: 'What the controls do' }).click();
  await page.getByRole('button', { name: /^One oscillator One/ }).click();
  await page.getByRole('button', { name: /^Accept \d+ proposals/ }).click();
  await page.getByRole('button', { name: 'Extras' }).click();
  await page.getByRole('button', { name: 'It has a matrix' }).click();
  const matrix = page.getByRole('region', { name: 'Matrix' });
  await expect(matrix.getByLabel('Name of filter envelope')).toBeVisible();
  await matrix.getByRole('button', { name: 'Leave out velocity of keys' }).click();
  await expect(matrix.getByLabel('Name of velocity of keys')).toBeHidden();
  await page.getByLabel('One more, called').fill('late');
  await page.keyboard.press('Enter');
  const late = page.getByRole('region', { name: 'late' });
  await late.getByLabel('filter is', { exact: true }).selectOption({ index: 1 });
  const read = async () => instrumentSchema.parse(await api.get(`/instruments/${id}`));
  await expect.poll(async () => (await read()).revisions[0]?.modules).toHaveLength(1);
  const stored = await read();
  expect(stored.sequencers.map((s) => s.kind)).toEqual(['rows', 'two-pass']);
  expect(stored.sequencers[1]).toMatchObject({
    can: { slide: false, notes: { from: 12, to: 84 } },
    places: { banks: 2, slots: 16 },
  });
  expect(stored.memory).toMatchObject({
    kind: 'slots',
    nameLength: 8,
    programs: { counted: 'through', select: 'fine' },
  });
  expect(stored.matrix!.rows).toBe(8);

  // What was said is there in a patch: its boxes, its matrix, its revision.
  await page.getByRole('button', { name: 'Record a patch' }).click();
  await expect(page).toHaveURL(/\/chart/);
  await page.getByRole('link', { name: 'Sequence', exact: true }).click();
  await expect(page.getByRole('main')).toContainText('voltage rows');
  expect(errors).toEqual([]);
});
