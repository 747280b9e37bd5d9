import type { Page } from '@playwright/test';
import { expect, sounds, tapSound, test } from './app';

const WORDS = `Keyboard: module
glide 0..10
> pitch, pitch V/oct
> gate, gate
VCO: module
wave saw/pulse/tri
fine
< pitch, pitch V/oct
> out
VCA: module
level 0..10
< in, audio
< cv
> out
Envelope: module
| attack 0..10
| sustain 0..10
< gate
> out
Way out: module
level 0..10
< in, audio

= Keyboard, VCO, VCA
= Envelope, Way out`;

const CABLES = [
  ['keyboard-1-keyboard-pitch-out', 'vco-1-vco-pitch-in'],
  ['vco-1-vco-out-out', 'vca-1-vca-in-in'],
  ['keyboard-1-keyboard-gate-out', 'envelope-1-envelope-gate-in'],
  ['envelope-1-envelope-out-out', 'vca-1-vca-cv-in'],
  ['vca-1-vca-out-out', 'way-out-1-way-out-in-in'],
];

const side = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).click();
const thing = (page: Page, name: string) => page.locator(`[data-thing="${name}"]`);

interface Stored {
  outline: string;
  rack?: {
    placed: { id: string; row: number; at: number }[];
    types: { id: string; controls: { name: string; place: { x: number } }[]; modules: unknown[] }[];
  };
}
const NONE = { placed: [], types: [] };

test('a cabinet is described by its modules, given circuits, cabled and heard', async ({
  page,
  api,
  errors,
}) => {
  await tapSound(page);
  await page.goto('/instruments');
  await page.getByLabel('Name', { exact: true }).fill('Heron cabinet');
  await page.getByLabel('Maker').fill('Saltpan');
  await page.keyboard.press('Enter');
  const words = page.getByLabel('The panel in words');
  await expect(words).toBeFocused();
  await page.keyboard.press('Control+End');
  await page.keyboard.insertText(`\n${WORDS}`);
  await expect(page.getByText('5 sections, 7 controls, 10 jacks')).toBeVisible();
  const id = /instrument\/([^/]+)/.exec(page.url())![1]!;
  const rack = async () => (await api.get<Stored>(`/instruments/${id}`)).rack ?? NONE;

  await side(page, 'What the controls do');
  await page.getByRole('button', { name: 'Give a circuit to each that has none' }).click();
  await expect(page.getByText('5 modules have a circuit now')).toBeVisible();
  await expect(page.getByRole('list', { name: 'What works' })).not.toContainText('not yet heard');
  // One module by itself: what is said of it holds wherever one stands.
  await page.getByLabel('What is looked at').selectOption({ label: 'module VCO' });
  await page.locator('[data-bound="vco-fine"]').click();
  await expect(page.getByLabel('Where pitch leads')).toHaveValue('osc.pitch');
  await expect
    .poll(async () => (await rack()).types.map((t) => t.modules.length))
    .toEqual([1, 3, 3, 2, 1]);

  await page.getByRole('button', { name: 'Record a patch' }).click();
  await expect(page).toHaveURL(/\/patch\/.*\/chart/);
  const patch = /patch\/([^/]+)/.exec(page.url())![1]!;
  const stored = await api.get(`/patches/${patch}`);
  const settings = {
    'envelope-1-envelope-sustain': { kind: 'set', value: 0.9 },
    'way-out-1-way-out-level': { kind: 'set', value: 0.9 },
  };
  const cables = CABLES.map(([from, to], i) => ({ id: `c${i + 1}`, from, to }));
  expect(await api.put(stored, { ...stored.patch, settings, cables } as never)).toBe(200);
  await page.goto(`/patch/${patch}/chart`);
  await expect(page.locator('g[hurCable]')).toHaveCount(5);
  await page.keyboard.press('Space');
  await sounds(page, 0.005);
  expect(errors).toEqual([]);
});

test('modules are moved along their rows and into others; what stands on one is moved on all', async ({
  page,
  api,
}) => {
  const id = await api.describe('Egret', WORDS);
  const stored = () => api.get<Stored>(`/instruments/${id}`);
  const rack = async () => (await stored()).rack ?? NONE;
  const placed = async () => (await rack()).placed.map((p) => [p.id, p.row]);
  await page.goto(`/instrument/${id}`);
  await expect(page.getByLabel('The panel in words')).toBeVisible();
  await side(page, 'Layout');
  const vco = thing(page, 'section:vco-1');
  await vco.focus();
  const before = (await rack()).placed.find((p) => p.id === 'vca-1')!.at;
  await page.keyboard.press('ArrowRight');
  // Its neighbour gives way.
  await expect
    .poll(async () => (await rack()).placed.find((p) => p.id === 'vca-1')!.at)
    .toBeGreaterThan(before);
  await page.getByLabel('From above', { exact: true }).fill('400');
  await page.getByLabel('From above', { exact: true }).press('Enter');
  await expect.poll(placed).toEqual([
    ['keyboard-1', 0],
    ['vca-1', 0],
    ['envelope-1', 1],
    ['way-out-1', 1],
    ['vco-1', 1],
  ]);
  expect((await stored()).outline).toContain('= Keyboard, VCA\n= Envelope, Way out, VCO');

  await page.getByLabel('Kind of module').selectOption({ label: 'VCO' });
  await page.getByLabel('Row', { exact: true }).selectOption({ label: 'a new row' });
  await page.getByRole('button', { name: 'Stand one more' }).click();
  await expect.poll(async () => (await placed()).at(-1)).toEqual(['vco-2', 2]);

  await page.getByLabel('What is looked at').selectOption({ label: 'module VCO' });
  const fine = thing(page, 'control:vco-fine');
  await fine.focus();
  const x = async () => (await rack()).types[1]!.controls.find((c) => c.name === 'fine')!.place.x;
  const was = await x();
  await page.keyboard.press('Shift+ArrowLeft');
  await expect.poll(x).toBe(was - 1);

  await page.getByLabel('What is looked at').selectOption({ label: 'the whole cabinet' });
  await thing(page, 'section:vco-1').focus();
  await page.getByRole('button', { name: 'Take away' }).click();
  await expect.poll(async () => (await placed()).map(([one]) => one)).not.toContain('vco-1');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect.poll(async () => (await placed()).map(([one]) => one)).toContain('vco-1');
});
