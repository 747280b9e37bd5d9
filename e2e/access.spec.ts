import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';
import type { run, RunOptions } from 'axe-core';
import { type Api, expect, test } from './app';

type Where = (api: Api) => Promise<string>;
const room =
  (patch: string, name: string): Where =>
  async (api) =>
    `/patch/${await api.idOf(patch)}/${name}`;
const first =
  (list: string, page: string, more = ''): Where =>
  async (api) => {
    const { items } = await api.get<{ items: { id: string }[] }>(list);
    return `${page}/${items[0]!.id}${more}`;
  };
const at = (path: string) => (): Promise<string> => Promise.resolve(path);

/** An instrument that is described in words, with a line that is wrong. */
const described: Where = async (api) => `/instrument/${await api.describe('Bittern')}`;

/** A set that is walked through, before its first movement. */
const walked: Where = async (api) => {
  const set = await first('/evenings', '/set', '/stage')(api);
  const { walk } = await api.post<{ walk: { id: string } }>(
    `/evenings/${set.split('/')[2]}/walks`,
    {
      kind: 'rehearsal',
      before: {},
    },
  );
  return `${set}?walk=${walk.id}`;
};

const ROOMS = 'chart path listen rebuild variations sequence history details'.split(' ');
const BASS = 'Winch Room bass';

/** Every page, by a name; those of one group are gone through in one window, as a user does. */
const PAGES: Record<string, [string, Where][]> = {
  'half of the rooms of a patch': ROOMS.slice(0, 4).map((name) => [name, room(BASS, name)]),
  'the other rooms of a patch': ROOMS.slice(4).map((name) => [name, room(BASS, name)]),
  'rooms of a patch with cables': ['chart', 'path', 'variations'].map((name) => [
    `${name} with cables`,
    room('Winch Room kit, kick', name),
  ]),
  'sequencers, and what is not of one patch': [
    ['tracks', room('Eel Run kit', 'sequence')],
    ['library', at('/library')],
    ['a line', room('Eel Run line', 'sequence')],
    ['files', at('/files')],
    ['voltage rows', room('Eel Run eight', 'sequence')],
    ['removed', at('/removed')],
    ['an arpeggio', room('Eel Run glass', 'sequence')],
  ],
  'recordings and instruments': [
    ['sessions', at('/sessions')],
    ['session', first('/sessions', '/session')],
    ['instruments', at('/instruments')],
    ['instrument', at('/instrument/marram-estuary')],
    ['unit', first('/units?instrument=marram-estuary', '/unit')],
    ['instrument in words', described],
    ['history of a unit', first('/units?instrument=marram-estuary', '/unit', '/history')],
  ],
  'sets, the stage and the door': [
    ['sets', at('/sets')],
    ['set', first('/evenings', '/set')],
    ['stage', first('/evenings', '/set', '/stage')],
    ['devices', at('/devices')],
    ['stage in a walk', walked],
    ['the door', at('/enter')],
  ],
};

/** What is put into the page: the small one takes a third of the time to get there. */
const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];
/** What depends on how wide the window is: all else holds at any width. */
const RULES_OF_WIDTH = ['target-size', 'scrollable-region-focusable'];
/** What depends on the light: all else holds in any. */
const RULES_OF_LIGHT = ['color-contrast', 'link-in-text-block', 'target-size'];

/** What axe finds in a page, and how far it sticks out sideways. Passes are not collected: that is most of axe's work. */
const faults = (page: Page, runOnly: RunOptions['runOnly']): Promise<string[]> =>
  page.evaluate(async (only) => {
    const { axe } = window as unknown as { axe: { run: typeof run } };
    const { violations } = await axe.run({
      runOnly: only,
      resultTypes: ['violations'],
      // Style sheets of other origins, of which there are none.
      preload: false,
    });
    const wide = document.documentElement.scrollWidth - window.innerWidth;
    return [
      ...violations.map((v) => `${v.id} at ${v.nodes[0]?.target.join(' ')} (${v.nodes.length})`),
      ...(wide > 0 ? [`${wide} px wider than the window`] : []),
    ];
  }, runOnly);

const lit = (page: Page, light: string): Promise<void> =>
  page.evaluate((l) => void (document.documentElement.dataset['light'] = l), light);

/** Looks at a page as it is now, in both lights, at 1280 and at 1024. */
async function passes(page: Page, what = ''): Promise<void> {
  await page.setViewportSize({ width: 1280, height: 800 });
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(AXE);
  const found: Record<string, string[]> = {};
  found['desk'] = await faults(page, { type: 'tag', values: RULES });
  await lit(page, 'stage');
  found['stage'] = await faults(page, { type: 'rule', values: RULES_OF_LIGHT });
  await page.setViewportSize({ width: 1024, height: 800 });
  const ofWidth = () => faults(page, { type: 'rule', values: RULES_OF_WIDTH });
  found['stage at 1024'] = await ofWidth();
  await lit(page, 'desk');
  found['desk at 1024'] = await ofWidth();
  expect(found, what).toEqual({ desk: [], stage: [], 'stage at 1024': [], 'desk at 1024': [] });
}

/** Goes to a page without leaving the application, and waits until what was there before has gone. */
async function goTo(page: Page, path: string): Promise<void> {
  await page.evaluate((to) => {
    const shown = [...document.querySelectorAll('router-outlet + *')];
    shown.at(-1)?.setAttribute('data-left', '');
    history.pushState({}, '', to);
    dispatchEvent(new PopStateEvent('popstate', { state: {} }));
  }, path);
  await expect(page.locator('[data-left]')).toHaveCount(0);
}

for (const [group, pages] of Object.entries(PAGES)) {
  test(`${group} pass axe in both lights, at 1280 and at 1024`, async ({ page, api }) => {
    // Colours change at once, so that none is looked at half way.
    await page.emulateMedia({ reducedMotion: 'reduce' });
    await page.goto('/');
    await expect(page.locator('h1').first()).toBeAttached();
    for (const [name, where] of pages)
      await test.step(name, async () => {
        await goTo(page, await where(api));
        await expect(page.locator('main').first()).toBeVisible();
        await expect(page.locator('h1').first()).toBeAttached();
        if (name.endsWith('walk')) await expect(page.getByTestId('target')).toBeVisible();
        if (name.startsWith('chart')) await page.locator('[data-control="cutoff"]').focus();
        await passes(page, name);
      });
  });
}

/** What is described beside the panel of one's own, with something of it open. */
const SIDES: Record<string, (page: Page) => Promise<void>> = {
  Layout: async (page) => {
    await page.locator('image.photograph').waitFor();
    await page.locator('[data-thing]').first().focus();
  },
  'What the controls do': async (page) => {
    await page.getByRole('button', { name: 'Try it by ear' }).click();
    await page.locator('[data-bound="filter-cutoff"]').click();
    await page.getByText('Measure it from recordings').click();
  },
  'The circuit': async (page) => page.locator('[data-module="filter"]').click(),
  Extras: async (page) => {
    await expect(page.getByRole('region', { name: 'Memory' })).toBeVisible();
  },
};
test('every side of an instrument passes axe in both lights, at 1280 and at 1024', async ({
  page,
}) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await page.goto('/instrument/saltpan-avocet');
  for (const [side, open] of Object.entries(SIDES))
    await test.step(side, async () => {
      await page.getByRole('button', { name: side, exact: true }).click();
      await open(page);
      await passes(page, side);
    });
});

test('a cabinet, whole and by its modules, passes axe in both lights, at 1280 and at 1024', async ({
  page,
  api,
}) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  const words = 'VCO: module\ntune -5..5\n> out\nVCF: module\ncutoff 0..10\n< in\n\n= VCO, VCF';
  await page.goto(`/instrument/${await api.describe('Egret, a cabinet', words)}`);
  await page.getByRole('button', { name: 'Layout' }).click();
  await page.locator('[data-thing="section:vco-1"]').focus();
  await passes(page);
  await page.getByRole('button', { name: 'What the controls do' }).click();
  await page.getByRole('button', { name: 'Give a circuit to each that has none' }).click();
  await page.getByLabel('What is looked at').selectOption({ label: 'module VCF' });
  await expect(page.getByLabel('Where in leads')).toBeVisible();
  await passes(page);
});

test('what else an instrument has, all of it said, passes axe', async ({ page, api }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  const id = await api.describe(
    'Curlew, own',
    'Row:\n4 x 0..10: 1, 2, 3, 4\nFilter:\ncutoff 0..10',
  );
  await page.goto(`/instrument/${id}`);
  await page.getByRole('button', { name: 'What the controls do' }).click();
  await page.getByRole('button', { name: /^One oscillator One/ }).click();
  await page.getByRole('button', { name: /^Accept \d+ proposal/ }).click();
  await page.getByRole('button', { name: 'Extras' }).click();
  for (const kind of [/^Line Pitches/, /^Voltage rows/, /^Tracks/, /^Arpeggio/])
    await page.getByRole('button', { name: kind }).click();
  await page.getByLabel('It keeps sounds by itself').check();
  await page.getByRole('button', { name: 'It has a matrix' }).click();
  await page.getByLabel('One more, called').fill('late');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'late' })).toBeVisible();
  await expect(page.getByTestId('save-state')).toContainText('Saved');
  await passes(page);
});

test('Tab walks the panel in working order', async ({ page, api }) => {
  await page.goto(`/patch/${await api.idOf('Winch Room bass')}/chart`);
  const controls = page.locator('[data-control]');
  await controls.first().focus();
  const order: string[] = [];
  for (let i = 0; i < (await controls.count()); i++) {
    order.push(
      await page.evaluate(() => document.activeElement!.getAttribute('data-control') ?? ''),
    );
    await page.keyboard.press('Tab');
  }
  expect(order.slice(0, 3)).toEqual(['level', 'velocity', 'osc1-shape']);
  expect(order.indexOf('mix-osc1')).toBeLessThan(order.indexOf('env1-attack'));
  expect(order.indexOf('env1-attack')).toBeLessThan(order.indexOf('cutoff'));
  expect(order.indexOf('cutoff')).toBeLessThan(order.indexOf('env2-attack'));
  expect(new Set(order).size).toBe(order.length);
});
