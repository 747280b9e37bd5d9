import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { type Api, expect, pickPatch, test } from './app';

test.use({ viewport: { width: 1280, height: 800 } });

/** The room of sequences, over a copy of a patch. */
const room = async (page: Page, api: Api, name: string): Promise<void> => {
  await page.goto(`/patch/${await api.copyOf(name)}/sequence`);
  await page.locator('nav.patterns').waitFor();
};
const standing = (page: Page) => page.locator('.standing');
const saved = (page: Page) => expect(page.getByTestId('save-state')).toContainText('Saved');

const transport = (page: Page) => page.getByRole('toolbar', { name: 'Transport' });

test('a line is typed, told as presses, undone, and refused where the box cannot', async ({
  page,
  api,
}) => {
  await room(page, api, 'Eel Run line');
  const typed = page.getByLabel('Typed, a word a step');
  await typed.fill('c2 - . h2');
  await expect(page.locator('#typed-says')).toContainText('"h2" is none of');
  await typed.fill("c2 - . d#2'~ c3 .");
  await expect(page.locator('#typed-says')).toContainText('6 steps: 3 notes');
  await typed.press('Enter');
  await page.getByRole('button', { name: 'Presses' }).click();
  const entry = page.locator('hur-entry-panel');
  await expect(entry.locator('li').first()).toContainText('to A1');
  await expect(entry.locator('li').nth(1)).toContainText('C2 D#2 C3');
  await expect(entry.locator('li').nth(2)).toContainText('note tie rest note note rest');
  await expect(entry.locator('li').nth(3)).toContainText('4 accent and slide');
  await expect(entry.locator('li').nth(4)).toContainText('store into A1');
  await expect(entry).toContainText('25 presses');
  await typed.fill('c6');
  await typed.press('Enter');
  await expect(page.locator('.refused')).toContainText('C6 is out of its reach, C0 to B4');
  await page.getByRole('button', { name: 'Take the nearest' }).click();
  await expect(entry.locator('li').nth(1)).toContainText('C4');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(typed).toHaveValue(/^f2 f2 f3'~ f2 \./);
  await saved(page);
});

test('from one pattern to the next only what differs is pressed', async ({ page, api }) => {
  await room(page, api, 'Eel Run line');
  await page.getByRole('button', { name: 'Presses' }).click();
  await page.getByLabel('In the place now').selectOption({ label: 'Bar two' });
  await expect(page.locator('hur-entry-panel')).toContainText('Over Bar two: only what differs.');
});

test('a drum pattern is played from the keyboard: struck, marked, copied, muted, heard', async ({
  page,
  api,
}) => {
  await room(page, api, 'Ropewalk steps');
  const grid = page.locator('.tracks');
  await grid.focus();
  await page.keyboard.press('ArrowDown');
  await expect(standing(page)).toHaveText(/^snare, step 1 of 16: silent/);
  for (const key of ['ArrowRight', 'ArrowRight', 'Enter', "'", ']']) await page.keyboard.press(key);
  await expect(standing(page)).toHaveText(/^snare, step 3 of 16: D3, velocity 127/);
  await page.keyboard.press('Control+c');
  for (const key of ['ArrowRight', 'ArrowRight', 'Control+v']) await page.keyboard.press(key);
  await expect(standing(page)).toHaveText(/^snare, step 5 of 16: D3, velocity 127/);
  await page.getByLabel('Sounds').selectOption('fill');
  await expect(standing(page)).toContainText('only in fill');
  await page
    .getByLabel('Give a control a value of its own')
    .selectOption({ label: '2 Snare, D3 decay' });
  await page.getByLabel('2 Snare, D3 decay', { exact: true }).fill('2.5');
  await page.getByLabel('2 Snare, D3 decay', { exact: true }).press('Enter');
  await expect(standing(page)).toContainText('decay 2.5');
  await page.getByRole('button', { name: 'Mute kick' }).click();
  await expect(page.getByRole('button', { name: 'Mute kick' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await saved(page);
  await page.getByRole('button', { name: /^Play space/ }).click();
  await expect(page.locator('.where')).toHaveText(/bar [1-9]/);
  await page.getByRole('button', { name: /^Fill/ }).dispatchEvent('pointerdown');
  await expect(page.getByRole('button', { name: /^Fill/ })).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: /^Stop/ }).click();
  await expect(page.locator('.where')).toHaveCount(0);
});

test('tools count for one: three against sixteen, a riser in the instrument’s own numbers', async ({
  page,
  api,
}) => {
  await room(page, api, 'Eel Run kit');
  await page.getByRole('button', { name: 'shaker', exact: true }).click();
  await page.getByRole('button', { name: 'Tools' }).click();
  const tools = page.locator('hur-tools-panel');
  await tools.getByLabel('Steps between hits').fill('5');
  await expect(tools).toContainText(
    'Meets the bar again after 5 bars, 80 steps. The track becomes 5 steps long.',
  );
  await tools.getByLabel('Steps between hits').fill('3');
  await tools.getByLabel('First hit').fill('2');
  await tools.getByRole('button', { name: 'Lay', exact: true }).first().click();
  await expect(standing(page)).toContainText('of 48');
  await expect(tools).toContainText('LFO');
  await tools.getByRole('button', { name: 'Set on the panel' }).click();
  await expect(tools.getByRole('status')).toHaveText('Set on the panel.');
  await tools.getByRole('button', { name: /^In fills alone/ }).click();
  await expect(tools.getByRole('status')).toContainText('in fills alone');
});

test('rows of voltages are typed as notes and told with their errors', async ({ page, api }) => {
  await room(page, api, 'Eel Run eight');
  const second = page.getByLabel('Volts or note of upper row step 2');
  await second.fill('b4');
  await second.press('Enter');
  await expect(second).toHaveValue('0.92');
  await expect(page.locator('hur-entry-panel')).toContainText('2: 0.9');
  await expect(page.locator('hur-rows-editor')).toContainText('The path makes of an octave 1200');
});

test('chords are typed by name, named from keys, and run through', async ({ page, api }) => {
  await room(page, api, 'Eel Run glass');
  const first = page.getByLabel('Keys of chord 1');
  await first.fill('Am7');
  await first.press('Enter');
  await expect(first).toHaveValue('A3 C4 E4 G4');
  await expect(page.locator('hur-arpeggio-editor')).toContainText('A minor 7');
  await first.fill('H');
  await first.press('Enter');
  await expect(page.getByRole('alert')).toContainText('Notes as C3 E3 G3');
});

test('a wanted chord becomes type, inversion and key of the chord oscillator', async ({
  page,
  api,
}) => {
  await room(page, api, 'Eel Run spark');
  await page.getByRole('button', { name: 'Tools' }).click();
  const tools = page.locator('hur-tools-panel');
  await tools.getByLabel('Chord that the oscillator shall play').fill('C/E');
  await expect(tools).toContainText(/major, inversion first, hold C3/);
  await tools.getByRole('button', { name: 'Set on the panel' }).last().click();
  await expect(tools.getByRole('status')).toContainText('Set on the panel: major');
});

test('patterns leave and come back as MIDI and JSON; what is wrong is refused with its place', async ({
  page,
  api,
}) => {
  await room(page, api, 'Eel Run kit');
  await page.getByRole('button', { name: 'Files' }).click();
  const files = page.locator('hur-files-panel');
  await expect(files).toContainText('Conditions are written as they came out');
  const save = async (button: string): Promise<string> => {
    const waiting = page.waitForEvent('download');
    await files.getByRole('button', { name: button, exact: true }).click();
    return (await waiting).path();
  };
  const midi = readFileSync(await save('MIDI, type 1'));
  expect(midi.subarray(0, 4).toString()).toBe('MThd');
  const json = JSON.parse(readFileSync(await save('JSON'), 'utf8')) as { name: string };
  expect(json.name).toBe('Run, three against four');
  expect(readFileSync(await save('Steps as CSV'), 'utf8')).toMatch(/^track,step,notes/);
  const open = files.locator('input[type=file]');
  await open.setInputFiles({
    name: 'cut.mid',
    mimeType: 'audio/midi',
    buffer: midi.subarray(0, 40),
  });
  await expect(files.getByRole('alert')).toContainText('cut.mid: The chunk at byte');
  await open.setInputFiles({ name: 'back.mid', mimeType: 'audio/midi', buffer: midi });
  await expect(files.locator('.waiting')).toContainText('back.mid');
  await files.getByRole('button', { name: 'Take it as a new pattern' }).click();
  await expect(page.locator('nav.patterns')).toContainText('back');
  await saved(page);
});

test('sound of so many rounds is rendered to a file', async ({ page, api }) => {
  await room(page, api, 'Winch Room pawl');
  await page.getByRole('button', { name: 'Files' }).click();
  const files = page.locator('hur-files-panel');
  await files.getByLabel('rounds').fill('1');
  const waiting = page.waitForEvent('download');
  await files.getByRole('button', { name: 'WAV' }).click();
  const wav = readFileSync(await (await waiting).path());
  expect(wav.subarray(0, 4).toString()).toBe('RIFF');
  // A bar at 118 bpm and two seconds of tail, stereo, 24 bits.
  expect(wav.length / (48000 * 6)).toBeCloseTo((4 * 60) / 118 + 2, 1);
});

test('what a sequencer holds is part of the rebuild', async ({ page, api }) => {
  await page.goto(`/patch/${await api.copyOf('Eel Run line')}/rebuild`);
  const now = page.locator('.now');
  const done = page.locator('.bar[role=progressbar] span');
  await expect(now).toBeVisible();
  // A tick is drawn before the next one is given, or the movement that is looked for is ticked too.
  while (!(await now.innerText()).includes('Bar one into A1, pitches')) {
    const before = (await done.getAttribute('style')) ?? '';
    await page.keyboard.press('Space');
    await expect(done).not.toHaveAttribute('style', before);
  }
  await expect(now).toContainText('F2');
});

test('a patch without patterns says what one is and begins one', async ({ page, api }) => {
  await page.goto(`/patch/${await api.copyOf('Winch Room bass')}/sequence`);
  await expect(page.getByRole('heading', { name: 'No pattern yet' })).toBeVisible();
  await page.getByRole('button', { name: 'Begin with the phrase' }).click();
  await expect(page.locator('nav.patterns')).toContainText('Phrase');
  await expect(page.locator('hur-track-row')).toHaveCount(1);
});

test('other instruments play along, and a listening one hears notes and clock', async ({
  page,
  api,
}) => {
  await room(page, api, 'Eel Run line');
  await page.getByRole('button', { name: 'Band' }).click();
  const along = page.locator('hur-along-panel');
  await pickPatch(along, 'Patch that plays along', 'Eel Run kit');
  await expect(along.locator('li')).toContainText('Run, three against four');
  await pickPatch(along, 'Patch that plays along', 'Fog Signal horn');
  await expect(along.getByRole('alert')).toContainText('Fog Signal horn has no pattern');
  await along
    .getByLabel('Instrument that listens')
    .selectOption({ label: 'to a simulated instrument' });
  const heard = along.getByRole('status').filter({ hasText: 'It has heard' });
  await page.getByRole('button', { name: /^Play space/ }).click();
  await expect(heard).toContainText(/[1-9]\d* notes/);
  await expect(heard).toContainText(/12[567](\.\d)? bpm/);
  await page.getByLabel('Tempo in bpm').fill('90');
  await page.getByLabel('Tempo in bpm').press('Enter');
  await expect(heard).toContainText(/(89|90|91)(\.\d)? bpm/);
  // Who joins while it runs comes in at the next bar, who leaves is gone.
  await pickPatch(along, 'Patch that plays along', 'Eel Run glass');
  await expect(along.locator('li')).toHaveCount(2);
  await along.getByLabel('Leave Eel Run kit out').click();
  await expect(along.locator('li')).toHaveCount(1);
  await expect(transport(page).locator('.bad')).toHaveCount(0);
  await page.getByRole('button', { name: /^Stop/ }).click();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
});

test('another pattern waits for the bar', async ({ page, api }) => {
  await room(page, api, 'Eel Run kit');
  await page.getByRole('button', { name: /^Play space/ }).click();
  await expect(page.locator('.where')).toHaveText(/bar [1-9]/);
  await page.getByRole('button', { name: /Turn, with ghosts/ }).click();
  await page.getByRole('button', { name: 'This one at the bar' }).click();
  await expect(
    page.getByRole('button', { name: /Turn, with ghosts/ }).getByLabel('plays'),
  ).toBeVisible();
  await page.getByRole('button', { name: /^Stop/ }).click();
});

test('a clock that comes in starts, leads and stops; when it goes its tempo stays', async ({
  page,
  api,
}) => {
  await room(page, api, 'Eel Run line');
  await page.getByRole('button', { name: 'Band' }).click();
  const clock = page.getByRole('group', { name: 'Simulated clock' });
  const told = page.locator('hur-midi-in').getByRole('status');
  await clock.getByLabel(/clock at/i).fill('97');
  await clock.getByLabel(/clock at/i).press('Tab');
  await clock.getByRole('button', { name: 'Run' }).click();
  await expect(transport(page)).toContainText(/clock 9[67](\.\d)?/);
  await expect(transport(page)).toContainText(/bar 1\.[2-4]/);
  await clock.getByRole('button', { name: 'Pull its cable' }).click();
  await expect(told).toContainText(/The clock has gone: it goes on at 9[67](\.\d)? bpm/);
  await expect(transport(page)).toContainText(/bar [2-9]/);
  await told.getByRole('button', { name: /Back to \d+ bpm/ }).click();
  await expect(told).toContainText('until a clock comes');
  await clock.getByRole('button', { name: 'Run' }).click();
  await expect(transport(page)).toContainText('bar 1.');
  await clock.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByRole('button', { name: /^Play space/ })).toBeVisible();
});

test('a whole pattern is read and written as text, with its line where it is wrong', async ({
  page,
  api,
}) => {
  await room(page, api, 'Winch Room riser');
  await page.getByRole('button', { name: 'Text', exact: true }).click();
  const text = page.getByLabel('The pattern as text');
  const before = await text.inputValue();
  expect(before).toMatch(/^pattern \S+: Riser, only in fill\nfor /);
  await text.fill(before.replace(/^bars \d+$/m, 'bars many'));
  await expect(page.locator('#whole-says')).toContainText('Line 4: "many" is no number.');
  await text.fill(before.replace(/^bars \d+$/m, 'bars 5'));
  await expect(page.locator('#whole-says')).toContainText(/^\s*Understood: \d+ tracks/);
  await text.press('Control+Enter');
  await expect(page.getByLabel('Bars')).toHaveValue('5');
  await page.getByRole('button', { name: 'Files' }).click();
  const files = page.locator('hur-files-panel');
  const saving = page.waitForEvent('download');
  await files.getByRole('button', { name: 'Text', exact: true }).click();
  const file = await (await saving).path();
  expect(readFileSync(file, 'utf8')).toBe(before.replace(/^bars \d+$/m, 'bars 5'));
  const open = page.locator('hur-files-panel input[type=file]');
  await open.setInputFiles({
    name: 'bad.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from('pattern a: A\ntrack t: T\nc2 h2'),
  });
  await expect(page.getByRole('alert')).toContainText('bad.txt, line 3: "h2" is none of');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByLabel('Bars')).not.toHaveValue('5');
});

test('who gets which note is told, and what stays silent is crossed out', async ({ page, api }) => {
  await room(page, api, 'Night Lock sluice line');
  await page.getByRole('button', { name: 'from outside' }).click();
  const typed = page.getByLabel('Typed, a word a step');
  await typed.fill('c3+e3+g3 . . .');
  await typed.press('Enter');
  await page.getByRole('button', { name: 'Step', exact: true }).click();
  const told = page.locator('hur-step-panel .shared');
  await expect(told).toContainText('C3 stays silent: the last key wins.');
  await expect(told).toContainText('G3 is played.');
  await expect(page.locator('hur-track-row .lost')).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
});
