// Describes the demo library's own instrument as a person would: from a blank sheet, in the running application. Writes
// library/described/avocet.json: its two descriptions, and a patch on the first and carried over to the second; and beside it
// the picture that lies beneath its panel.
import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { withApp } from './app.mjs';
import { CORNERS, photographOf } from './panel-photograph.mjs';
import { fail, root } from './lib.mjs';

const WORDS = `Oscillator 1:
wave saw/pulse/triangle
octave 16'/8'/4' = 8'
Oscillator 2:
wave saw/pulse/triangle
octave 16'/8'/4' = 8'
fine
Mixer:
3 x 0..10 slider: osc 1, osc 2, noise
Filter:
cutoff 0..10
resonance 0..10
env amount 0..10
key track off/half/full
Filter envelope:
4 x 0..10 slider: attack, decay, sustain, release
Loudness envelope: as Filter envelope
LFO:
rate 0..10
shape triangle/square
to pitch 0..10
Output:
volume 0..10
glide 0..10
lamp off/on
> line out`;

/** What a stopwatch and a tuner said of four knobs, at three places each. */
const MEASURED = {
  'filter-cutoff': '0 is 24 Hz, 5 is 640 Hz, 10 is 17k',
  'filter-envelope-decay': '0 is 6 ms, 5 is 310 ms, 10 is 14 s',
  'loudness-envelope-attack': '0 is 1.5 ms, 5 is 120 ms, 10 is 9 s',
  'lfo-rate': '0 is 0.1 Hz, 5 is 1.9 Hz, 10 is 34 Hz',
};
const READINGS = {
  'output-volume': '7',
  'output-glide': '0',
  'oscillator-1-wave': 'saw',
  'oscillator-2-wave': 'pulse',
  'oscillator-2-fine': '~1:00 until it beats once a second',
  'mixer-osc-1': '8',
  'mixer-osc-2': '6',
  'filter-cutoff': '4 to 5 best 4.5',
  'filter-resonance': '3',
  'filter-env-amount': '4',
  'filter-envelope-decay': '5',
  'filter-envelope-sustain': '2',
  'loudness-envelope-sustain': '8',
  'loudness-envelope-release': '3.5',
};

const file = join(root, 'library/described/avocet.json');
const picture = join(root, 'library/described/avocet.jpg');

/** Lays a picture of the panel beneath it, its corners drawn onto the panel's by hand. */
async function layPhotograph(page, instrument) {
  await page.getByLabel('Lay a photograph beneath').setInputFiles({
    name: 'avocet.jpg',
    mimeType: 'image/jpeg',
    buffer: await photographOf(instrument),
  });
  for (const [i, name] of ['Upper left', 'Upper right', 'Lower right', 'Lower left'].entries()) {
    const handle = page.getByRole('slider', { name: `${name} corner of the panel` });
    const image = await page.locator('hur-photograph-corners image').boundingBox();
    const ring = await handle.locator('circle').last().boundingBox();
    const [x, y] = CORNERS[i];
    await page.mouse.move(ring.x + ring.width / 2, ring.y + ring.height / 2);
    await page.mouse.down();
    await page.mouse.move(image.x + x * image.width, image.y + y * image.height, { steps: 5 });
    await page.mouse.up();
  }
  await page.getByRole('button', { name: 'Its corners are right' }).click();
  await page.locator('image.photograph').waitFor();
  await page.getByLabel(/^As wide as/).fill(String(instrument.panel.width));
  await page.keyboard.press('Enter');
}

try {
  // A library that has it already would call the new one otherwise.
  rmSync(file, { force: true });
  await withApp(async ({ url, browser }) => {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const get = async (path) => (await fetch(`${url}/api/v1${path}`)).json();
    const saved = () => page.getByText(/Saved .* version/).waitFor();
    const rest = () => page.waitForTimeout(900);

    await page.goto(`${url}/instruments`);
    await page.getByLabel('Name', { exact: true }).fill('Avocet');
    await page.getByLabel('Maker').fill('Saltpan');
    await page.keyboard.press('Enter');
    const words = page.getByLabel('The panel in words');
    await words.fill(`Avocet by Saltpan\n\n${WORDS}`);
    await page.locator('[data-control="output-lamp"]').waitFor();
    await rest();
    await page.getByRole('button', { name: 'What the controls do' }).click();
    await page.getByRole('button', { name: /^Two oscillators Two/ }).click();
    await page.getByRole('button', { name: /^Accept/ }).click();
    for (const [control, places] of Object.entries(MEASURED)) {
      await page.locator(`[data-bound="${control}"]`).click();
      await page.getByLabel('What it comes to').fill(places);
      await page.getByLabel('What it comes to').press('Enter');
      await page.locator(`[data-bound="${control}"]`).click();
    }
    await page.locator('[data-bound="output-lamp"]').click();
    await page.getByLabel('It does nothing that is heard').check();
    await page.getByLabel('Where line out leads').selectOption({ label: 'out of output' });
    await rest();
    await saved();
    const id = page.url().split('/').pop();
    const first = (await get(`/instruments/${id}/stored`)).instrument;

    await page.getByRole('button', { name: 'Record a patch' }).click();
    await page.waitForURL(/chart/);
    for (const [control, reading] of Object.entries(READINGS)) {
      await page.locator(`[data-control="${control}"]`).focus();
      await page.keyboard.type(reading);
      await page.keyboard.press('Enter');
    }
    await rest();
    await saved();
    const patch = /patch\/([^/]+)/.exec(page.url())[1];
    await page.goto(page.url().replace('chart', 'details'));
    await page.getByLabel('Name', { exact: true }).fill('Saltpan reed');
    await page.getByLabel('Song', { exact: true }).fill('Low Tide');
    await page
      .getByLabel(/What it is for/)
      .fill('A reed that speaks late and stays soft, for the second verse.');
    await rest();
    await saved();
    // What is typed in the rooms of every patch: a phrase, a note, a place to listen.
    const recorded = await get(`/patches/${patch}`);
    await fetch(`${url}/api/v1/patches/${patch}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json', 'if-match': `"${recorded.version}"` },
      body: JSON.stringify({
        ...recorded.patch,
        role: 'lead',
        notes: { 'section:filter': 'The reed is all in the contour: leave the cutoff low.' },
        phrase: [
          { beat: 0, length: 1.5, note: 55, velocity: 90 },
          { beat: 2, length: 1, note: 58, velocity: 84 },
          { beat: 3, length: 3, note: 62, velocity: 96 },
        ],
        checkpoints: [
          { after: 'mixer', note: 55, hear: 'Two saws and a hollow pulse that beat slowly' },
        ],
      }),
    });
    const before = (await get(`/patches/${patch}`)).patch;

    // The resonance is printed to 5 after all, and its name is another.
    await page.goto(`${url}/instrument/${id}`);
    await words.fill((await words.inputValue()).replace('resonance 0..10', 'emphasis 0..5'));
    await page.getByRole('button', { name: 'What becomes of it' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Carry over' }).click();
    await page.getByRole('dialog').waitFor({ state: 'detached' });
    await page.getByRole('button', { name: 'Where they stand' }).click();
    await page.locator('[data-thing="section:output"]').focus();
    for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight');
    await rest();
    await saved();
    await layPhotograph(page, (await get(`/instruments/${id}/stored`)).instrument);
    await rest();
    await saved();
    const second = (await get(`/instruments/${id}/stored`)).instrument;
    const after = (await get(`/patches/${patch}`)).patch;
    const text = JSON.stringify(
      { descriptions: [first, second], patch: { before, after } },
      null,
      2,
    );
    writeFileSync(file, `${text}\n`);
    const photograph = await fetch(`${url}/api/v1/photographs/${second.panel.photograph.id}`);
    writeFileSync(picture, Buffer.from(await photograph.arrayBuffer()));
    console.log('library/described/avocet.json');
  });
} catch (error) {
  fail(error);
}
