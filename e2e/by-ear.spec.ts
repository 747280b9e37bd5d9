import { instrumentSchema } from '../core/src/instrument';
import { control, expect, sounds, tapSound, test } from './app';
import { sineWav } from './sine-wav';

test('what is described is tried by ear, beside a recording, and its tapers are measured', async ({
  page,
  api,
  errors,
}) => {
  await tapSound(page);
  const id = await api.describe('Dunlin');
  await page.goto(`/instrument/${id}`);
  await page.getByRole('button', { name: 'What the controls do' }).click();
  await expect(page.getByRole('button', { name: 'Try it by ear' })).toBeDisabled();
  await page.getByRole('button', { name: /^One oscillator One/ }).click();
  await page.getByRole('button', { name: /^Accept \d+ proposals/ }).click();
  await page.getByRole('button', { name: 'Try it by ear' }).click();
  // It begins from the circuit as it is described: it sounds.
  await expect(control(page, 'filter-cutoff')).toHaveAttribute('aria-valuetext', /10/);
  await page.getByRole('button', { name: 'Again', exact: true }).click();
  await control(page, 'filter-cutoff').focus();
  await page.keyboard.press('Space');
  await sounds(page, 0.005);
  // Turned while it plays: nothing is recorded of it.
  await page.keyboard.press('ArrowDown');
  await expect(control(page, 'filter-cutoff')).not.toHaveAttribute('aria-valuetext', /^10\b/);
  await expect(page.getByTestId('save-state')).toContainText('Saved');

  // Beside a recording of the real one.
  await page.getByLabel('Beside a recording').setInputFiles({
    name: 'real.wav',
    mimeType: 'audio/wav',
    buffer: sineWav(440, 2),
  });
  await expect(page.getByText('goes between this and real.wav')).toBeVisible();
  await page.keyboard.press('F6');
  await expect(page.getByRole('button', { name: /^Other/ })).toHaveClass(/on/);
  await page.keyboard.press('F6');

  // Three whistles, and the taper through them.
  const editor = page.locator('hur-binding-editor');
  await editor.getByText('Measure it from recordings').click();
  for (const [place, hz] of [
    ['0', 40],
    ['5', 900],
    ['10', 12000],
  ] as const) {
    await editor.getByLabel('It stood at').fill(place);
    await editor.getByLabel('Measure a WAV').setInputFiles({
      name: `${place}.wav`,
      mimeType: 'audio/wav',
      buffer: sineWav(hz, 2),
    });
    await expect(editor.getByText(`${place} is`, { exact: false }).last()).toContainText(
      'the whistle',
    );
  }
  await expect(editor.getByLabel('What it comes to')).toHaveValue(
    '0 is 40 Hz, 5 is 900 Hz, 10 is 12 kHz',
  );
  await editor.getByRole('button', { name: /through the places measured/ }).click();
  const taper = async (): Promise<unknown> => {
    const stored = instrumentSchema.parse(await api.get(`/instruments/${id}`));
    return stored.controls.find((c) => c.id === 'filter-cutoff')!.bindings[0];
  };
  await expect.poll(taper).toMatchObject({ taper: { kind: 'table', unit: 'Hz' } });

  // No recording at all is told, and nothing is written.
  await editor.getByLabel('It stood at').fill('3');
  await editor.getByLabel('Measure a WAV').setInputFiles({
    name: 'no.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from('this is no sound'),
  });
  await expect(editor.getByRole('alert')).toContainText('no.wav');
  await page.getByRole('link', { name: 'Instruments', exact: true }).click();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByRole('toolbar', { name: 'Transport' })).toBeHidden();
  expect(errors).toEqual([]);
});
