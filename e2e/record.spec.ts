import type { Page } from '@playwright/test';
import { control, expect, openChart, saveState, test } from './app';

/** A panel read aloud, in working order: control, reading, and what it comes to. */
const PANEL: [string, string, unknown][] = [
  ['level', '7.5', { kind: 'set', value: 0.75 }],
  ['velocity', 'on', { kind: 'set', value: 'on' }],
  ['osc1-shape', 'pu', { kind: 'set', value: 'pulse' }],
  ['osc1-octave', '16', { kind: 'set', value: 'f16' }],
  ['osc1-width', '18%', { kind: 'set', value: 0.18 }],
  ['osc1-pwm', '2-4', { kind: 'range', from: 0.2, to: 0.4, best: 0.3 }],
  ['osc2-shape', 'sa', { kind: 'set', value: 'saw' }],
  ['osc2-octave', '#3', { kind: 'set', value: 'f8' }],
  ['osc2-sync', 'off', { kind: 'set', value: 'off' }],
  ['osc2-interval', '6st', { kind: 'set', value: 0.75 }],
  [
    'osc2-fine',
    '~2:30 until the beat stops',
    { kind: 'ear', near: 0.75, target: 'until the beat stops' },
  ],
  ['osc2-width', '*', { kind: 'any' }],
  ['osc2-sweep', 'min', { kind: 'set', value: 0 }],
  ['mix-osc1', '9', { kind: 'set', value: 0.9 }],
  ['mix-osc2', '6.5-7.5 best 7.2', { kind: 'range', from: 0.65, to: 0.75, best: 0.72 }],
  ['mix-ring', '0', { kind: 'set', value: 0 }],
  ['mix-noise', '?', undefined],
  ['drive', '40%', { kind: 'set', value: 0.4 }],
  ['env1-attack', '1ms', { kind: 'set', value: 0 }],
  ['env1-decay', '100 ms', { kind: 'set', value: 0.5 }],
  ['env1-sustain', '6', { kind: 'set', value: 0.6 }],
  ['env1-release', 'max', { kind: 'set', value: 1 }],
  ['cutoff', '9:00', { kind: 'set', value: 0.2 }],
  ['resonance', '.5', { kind: 'set', value: 0.05 }],
  ['filter-amount', '-3', { kind: 'set', value: 0.2 }],
  ['tracking', 'h', { kind: 'set', value: 'half' }],
  ['filter-lfo', '0', { kind: 'set', value: 0 }],
  ['high-pass', '16Hz', { kind: 'set', value: 0 }],
  ['env2-attack', '2', { kind: 'set', value: 0.2 }],
  ['env2-decay', '3', { kind: 'set', value: 0.3 }],
  ['env2-sustain', '4', { kind: 'set', value: 0.4 }],
  ['env2-release', '5', { kind: 'set', value: 0.5 }],
  ['lfo1-rate', '50 Hz', { kind: 'set', value: 1 }],
  ['lfo1-shape', 'ra', undefined],
  ['lfo1-fade', '1s', { kind: 'set', value: 0.5 }],
  ['lfo1-pitch', '0', { kind: 'set', value: 0 }],
  ['lfo2-rate', 'quarter past nine', { kind: 'set', value: 0.225 }],
  ['lfo2-shape', 'third', { kind: 'set', value: 'ramp' }],
  ['lfo2-width', '2', { kind: 'set', value: 0.2 }],
  ['glide', '10:30', { kind: 'set', value: 0.35 }],
  ['tune', 'noon', { kind: 'set', value: 0.5 }],
  ['note', 'tw', { kind: 'set', value: 'two' }],
  ['strokes', 'leg', { kind: 'set', value: 'legato' }],
  ['wheel', '0%', { kind: 'set', value: 0 }],
  ['wheel-depth', '3', { kind: 'set', value: 0.3 }],
  ['pedal', '100%', { kind: 'set', value: 1 }],
  ['pedal-depth', '4', { kind: 'set', value: 0.4 }],
];

const settings = (): Record<string, unknown> =>
  Object.fromEntries(PANEL.filter(([, , s]) => s !== undefined).map(([id, , s]) => [id, s]));

/** Types, counting every key that is not part of a reading. */
function typist(page: Page) {
  let extra = 0;
  return {
    read: (text: string) => page.keyboard.type(text),
    press: async (key: string) => {
      extra++;
      await page.keyboard.press(key);
    },
    extra: () => extra,
  };
}

test('a whole panel is read in with the keyboard, one key between readings', async ({
  page,
  api,
  errors,
}) => {
  const { id } = await api.create('nothing', 'Read aloud');
  await openChart(page, id);
  const { read, press, extra } = typist(page);
  await press('/');
  await press('1');
  await press('a');
  for (const [i, [name, text]] of PANEL.entries()) {
    await expect(control(page, name)).toBeFocused();
    // Ambiguous: the panel says so and keeps the focus, and one letter more is enough.
    if (name === 'lfo1-shape') {
      await read('ra');
      await press('Tab');
      await expect(page.locator('#reading-says')).toContainText('ramp or random');
      await expect(control(page, name)).toBeFocused();
      await read('n');
    } else await read(text);
    await press(i === PANEL.length - 1 ? 'Enter' : 'Tab');
  }
  await expect(saveState(page)).toContainText('Saved');
  await expect
    .poll(async () => (await api.get(`/patches/${id}`)).patch.settings)
    .toEqual({
      ...settings(),
      'lfo1-shape': { kind: 'set', value: 'random' },
    });
  expect(extra() / PANEL.length).toBeLessThanOrEqual(4);
  expect(errors).toEqual([]);
});

test('a list in any order costs three keys a control', async ({ page, api }) => {
  const { id } = await api.create('nothing', 'In any order');
  await openChart(page, id);
  const { read, press, extra } = typist(page);
  // Codes as they stand on the panel once the jump has begun.
  await press('/');
  const codes = new Map<string, string>();
  const listed = await page.locator('.code text').allTextContents();
  const ids = await page
    .locator('[data-control]')
    .evaluateAll((all) => all.map((c) => c.getAttribute('data-control')!));
  ids.forEach((name, i) => codes.set(name, listed[i]!));
  await page.keyboard.press('Escape');
  const shuffled = PANEL.filter(([name]) => name !== 'lfo1-shape').map(
    (_entry, i, all) => all[(i * 17) % all.length]!,
  );
  let before = '';
  for (const [name, text] of shuffled) {
    // The words of a target may hold any letter: Enter ends them.
    if (before.includes('~')) await press('Enter');
    before = text;
    await press('/');
    for (const key of codes.get(name)!) await press(key);
    await expect(control(page, name)).toBeFocused();
    await read(text);
  }
  await press('Enter');
  await expect
    .poll(async () => (await api.get(`/patches/${id}`)).patch.settings)
    .toEqual(settings());
  expect(extra() / shuffled.length).toBeLessThanOrEqual(4);
});

test('undo and redo are exact, over readings, drags, notes and mends', async ({ page, api }) => {
  const { id } = await api.create('init', 'Undone');
  await openChart(page, id);
  const reads = (name: string, reading: string | RegExp) =>
    expect(control(page, name)).toHaveAttribute('aria-valuetext', reading);
  await control(page, 'cutoff').focus();
  await page.keyboard.type('3.5');
  await page.keyboard.press('Enter');
  await expect(control(page, 'resonance')).toBeFocused();
  const box = (await control(page, 'drive').boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + 30];
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let i = 1; i <= 8; i++) await page.mouse.move(x, y - 10 * i);
  await page.mouse.up();
  await reads('drive', /^[3-6](\.\d)?$/);
  const dragged = (await control(page, 'drive').getAttribute('aria-valuetext'))!;
  await control(page, 'osc1-shape').getByText('sine').click({ force: true });
  await reads('osc1-shape', 'sine');
  await page.getByRole('textbox', { name: 'Why here' }).fill('round');
  await control(page, 'osc1-shape').focus();
  // Back, one step after the other: the note, the shape, the whole drag, the reading.
  await page.keyboard.press('Control+z');
  await reads('osc1-shape', 'sine');
  await page.keyboard.press('Control+z');
  await reads('osc1-shape', 'saw');
  await reads('drive', dragged);
  await page.keyboard.press('Control+z');
  await reads('drive', '0');
  await reads('cutoff', '3.5');
  await page.keyboard.press('Control+z');
  await reads('cutoff', '10');
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+Shift+z');
  await reads('cutoff', '3.5');
  await reads('drive', dragged);
  await reads('osc1-shape', 'sine');
  await expect
    .poll(async () => (await api.get(`/patches/${id}`)).patch.notes)
    .toEqual({ 'control:osc1-shape': 'round' });
});

test('arrows, wheel and touch turn controls by what the panel resolves', async ({ page, api }) => {
  const { id } = await api.create('init', 'Turned');
  await openChart(page, id);
  const reads = (name: string, reading: string | RegExp) =>
    expect(control(page, name)).toHaveAttribute('aria-valuetext', reading);
  await control(page, 'cutoff').focus();
  await page.keyboard.press('ArrowDown');
  await reads('cutoff', '9.9');
  await page.keyboard.press('Home');
  await reads('cutoff', '0');
  await control(page, 'osc1-shape').focus();
  await page.keyboard.press('ArrowDown');
  await reads('osc1-shape', 'pulse');
  await control(page, 'level').hover();
  await page.mouse.wheel(0, 100);
  await reads('level', '6.7');
  const box = (await control(page, 'mix-noise').boundingBox())!;
  const touch = (type: string, dy: number) =>
    control(page, 'mix-noise').dispatchEvent(type, {
      pointerId: 5,
      pointerType: 'touch',
      button: 0,
      isPrimary: true,
      clientX: box.x + box.width / 2,
      clientY: box.y + box.height / 2 - dy,
    });
  // A synthetic pointer cannot be captured: the moves are sent to the control itself.
  await page.evaluate(() => (Element.prototype.setPointerCapture = () => undefined));
  await touch('pointerdown', 0);
  await touch('pointermove', 30);
  await touch('pointerup', 30);
  await reads('mix-noise', /^[2-4](\.\d)?$/);
});

test('a pasted line of notes shows what was understood before it is applied', async ({
  page,
  api,
  errors,
}) => {
  const { id } = await api.create('init', 'Jotted');
  await openChart(page, id);
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', 'cutoff 3.5-4, res 2; osc 2 fine 2:30; flux 3');
    document.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  const dialog = page.getByRole('dialog');
  await expect(
    dialog.getByRole('row', { name: 'Filter cutoff 10 3.5–4, best 3.75' }),
  ).toBeVisible();
  await expect(dialog.getByText('No control is called "flux"')).toBeVisible();
  expect((await api.get(`/patches/${id}`)).version).toBe(1);
  await dialog.getByRole('button', { name: 'Record 3 controls' }).click();
  await expect(control(page, 'osc2-fine')).toHaveAttribute('aria-valuetext', '2:30');
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(control(page, 'cutoff')).toHaveAttribute('aria-valuetext', '10');
  expect(errors).toEqual([]);
});
