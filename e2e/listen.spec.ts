import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, isSilent, pickPatch, sounds, tapSound, test } from './app';
import { sineWav } from './sine-wav';

const openListen = async (page: Page, id: string): Promise<void> => {
  await page.goto(`/patch/${id}/listen`);
  await expect(page.locator('.facts dl div').first()).toBeVisible();
};

test('keys, chords, latch and hold play; everything off is silence', async ({
  page,
  api,
  errors,
}) => {
  await tapSound(page);
  await openListen(page, await api.idOf('Ropewalk under'));
  const keys = page.locator('hur-keybed [data-note="60"]');
  await keys.hover({ position: { x: 10, y: 90 } });
  await page.mouse.down();
  await sounds(page, 0.005);
  await expect(keys).toHaveClass(/held/);
  await page.mouse.up();
  await isSilent(page);

  await page.getByRole('button', { name: 'Latch' }).click();
  await page.getByRole('button', { name: /C minor$/ }).click();
  await expect(page.locator('hur-keybed .held')).toHaveCount(3);
  await sounds(page, 0.005);
  await page.getByRole('button', { name: /A♭ major/ }).click();
  await expect(page.locator('hur-keybed [data-note="56"].held')).toHaveCount(1);
  await expect(page.locator('hur-keybed .held')).toHaveCount(3);
  await page.getByRole('button', { name: 'All off' }).click();
  await expect(page.locator('hur-keybed .held')).toHaveCount(0);
  await isSilent(page);
  expect(errors).toEqual([]);
});

test('another patch is heard beside this one, at matched level, known or not', async ({
  page,
  api,
}) => {
  await tapSound(page);
  await openListen(page, await api.idOf('Winch Room bass'));
  await pickPatch(page, 'Compare with', 'Ropewalk under');
  const compare = page.getByRole('region', { name: 'Compare' });
  await expect(compare).toContainText('Heard now: this patch');
  await expect(compare).toContainText(/by \d+\.\d LU/);
  await page.keyboard.press('F6');
  await expect(compare).toContainText('Heard now: Ropewalk under');
  await expect(page.locator('.facts .other').first()).toBeVisible();
  await compare.getByLabel('Do not tell me which is which').check();
  await expect(compare).toContainText('Heard now: X');
  await expect(compare).not.toContainText('LU');
  await page.keyboard.press('F6');
  await expect(compare).toContainText('Heard now: Y');
});

test('a recording is heard beside it; a file that is none is refused with the reason', async ({
  page,
  api,
}) => {
  await tapSound(page);
  await openListen(page, await api.idOf('Winch Room bass'));
  const file = page.locator('input[type=file]');
  await file.setInputFiles({
    name: 'notes.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from('hello'),
  });
  await expect(page.getByRole('alert')).toContainText('This is no WAV file');
  await file.setInputFiles({ name: 'tone.wav', mimeType: 'audio/wav', buffer: sineWav(330, 2) });
  await expect(page.getByRole('alert')).toBeHidden();
  await expect(page.getByRole('region', { name: 'Compare' })).toContainText(
    'tone.wav is by nature',
  );
  // Sound begins with the first key; the recording goes round and round by itself.
  await page.keyboard.press('F2');
  await page.keyboard.press('a');
  await page.keyboard.press('F6');
  await sounds(page, 0.005);
  await expect(page.locator('.facts .other').first()).toHaveText(/E4.*33\d\.\d Hz/);
});

test('a clock is followed, jitter and all', async ({ page, api }) => {
  await openListen(page, await api.idOf('Winch Room bass'));
  const midi = page.getByRole('region', { name: 'MIDI' });
  await midi.getByLabel(/clock at/i).fill('96');
  await midi.getByLabel(/clock at/i).press('Tab');
  await midi.getByRole('button', { name: 'Run' }).click();
  await expect(midi).toContainText(/Follows a clock at 9[4-8](\.\d)? bpm/);
  await midi.getByRole('button', { name: 'Stop' }).click();
  await expect(midi).toContainText('own 118 bpm');
});

test('the same patch gives the same samples in a worker and on the server', async ({
  page,
  api,
  request,
}) => {
  const id = await api.idOf('Winch Room bass');
  await openListen(page, id);
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'float' }).click();
  const file = await saved;
  expect(file.suggestedFilename()).toBe('winch-room-bass.wav');
  const { patch } = await api.get<{ patch: { phrase: { note: number }[] } }>(`/patches/${id}`);
  const answer = await request.post(`${api.url}/api/v1/render`, {
    data: {
      patchId: id,
      notes: [{ note: patch.phrase[0]!.note, start: 0, duration: 2.5, velocity: 100 }],
      seconds: 4,
      format: '32f',
    },
  });
  expect(answer.status()).toBe(200);
  expect(readFileSync(await file.path()).equals(await answer.body())).toBe(true);
});

test('drawings are saved as SVG and PNG', async ({ page, api }) => {
  await openListen(page, await api.idOf('Winch Room bass'));
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Spectrum SVG' }).click();
  const svg = readFileSync(await (await waiting).path(), 'utf8');
  expect(svg).toContain('<title>Winch Room bass: spectrum</title>');
  const next = page.waitForEvent('download');
  await page.getByRole('button', { name: 'PNG' }).first().click();
  const png = readFileSync(await (await next).path());
  expect([...png.subarray(0, 4)]).toEqual([0x89, 0x50, 0x4e, 0x47]);
  expect(png.readUInt32BE(16)).toBe(1920);
});

test('a tuner reads what sounds, and what it found is kept as a place to listen', async ({
  page,
  api,
}) => {
  // A copy: what is kept with it would be met on stage.
  const id = await api.copyOf('Winch Room bass');
  await page.goto(`/patch/${id}/listen`);
  const tuner = page.locator('hur-tuner');
  await tuner.getByRole('button', { name: 'Listen' }).click();
  await page.keyboard.press('F2');
  await page.keyboard.down('KeyA');
  await expect(tuner.locator('svg')).toHaveAccessibleName(/^[A-G]#?\d, [+−]?\d+ cents$/);
  await expect(tuner.getByRole('status')).toContainText('semitones from the key held');
  await tuner.getByRole('button', { name: 'Record it' }).click();
  await expect(page.locator('hur-toasts')).toContainText('Kept as a place to listen');
  // Where it is first heard in a rebuild: oscillators alone pass no mixer that is down.
  const places = async () =>
    (await api.get<{ patch: { checkpoints: { after: string }[] } }>(`/patches/${id}`)).patch
      .checkpoints;
  await expect
    .poll(async () => (await places()).map((p) => p.after))
    .toEqual(['mix', 'env2', 'mix']);
});
