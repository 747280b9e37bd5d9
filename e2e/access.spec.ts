import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { type Api, expect, test } from './app';

const ROOMS = [
  'chart',
  'path',
  'listen',
  'rebuild',
  'variations',
  'sequence',
  'history',
  'details',
];

/** Every page, by a name: of a patch all rooms, of one with cables those that show them. */
async function pages(api: Api): Promise<[string, string][]> {
  const bass = await api.idOf('Winch Room bass');
  const corded = await api.idOf('Winch Room kit, kick');
  const { items } = await api.get<{ items: { id: string }[] }>('/units?instrument=marram-estuary');
  const sequenced = await Promise.all(
    ['Eel Run kit', 'Eel Run line', 'Eel Run eight', 'Eel Run glass'].map((n) => api.idOf(n)),
  );
  const sessions = await api.get<{ items: { id: string }[] }>('/sessions');
  return [
    ['library', '/library'],
    ...ROOMS.map((room): [string, string] => [room, `/patch/${bass}/${room}`]),
    ['chart with jacks', `/patch/${corded}/chart`],
    ['path', `/patch/${corded}/path`],
    ['variations', `/patch/${corded}/variations`],
    ...['Eel Run kit', 'Eel Run line', 'Eel Run eight', 'Eel Run glass'].map(
      (name, i): [string, string] => [`sequence of ${name}`, `/patch/${sequenced[i]}/sequence`],
    ),
    ['sessions', '/sessions'],
    ['session', `/session/${sessions.items[0]!.id}`],
    ['instruments', '/instruments'],
    ['unit', `/unit/${items[0]!.id}`],
  ];
}

const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];
/** What depends on how wide the window is: all else holds at any width. */
const RULES_OF_WIDTH = ['target-size', 'scrollable-region-focusable'];

/** What axe finds in a page, and how far it sticks out sideways. */
async function faults(page: Page, axe: AxeBuilder): Promise<string[]> {
  const { violations } = await axe.analyze();
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
  return [
    ...violations.map((v) => `${v.id} at ${v.nodes[0]?.target.join(' ')} (${v.nodes.length})`),
    ...(wide > 0 ? [`${wide} px wider than the window`] : []),
  ];
}

for (const light of ['desk', 'stage']) {
  test(`every page passes axe in ${light} light, at 1280 and at 1024`, async ({ page, api }) => {
    // Some twenty pages one after the other take what they take.
    test.slow();
    await page.addInitScript((l) => localStorage.setItem('hurrel.light', l), light);
    for (const [name, path] of await pages(api)) {
      await page.setViewportSize({ width: 1280, height: 800 });
      await page.goto(path);
      await expect(page.locator('main').first()).toBeVisible();
      await expect(page.locator('h1').first()).toBeAttached();
      if (name.startsWith('chart')) await page.locator('[data-control="cutoff"]').focus();
      const desk = await faults(page, new AxeBuilder({ page }).withTags(RULES));
      expect([name, ...desk]).toEqual([name]);
      await page.setViewportSize({ width: 1024, height: 800 });
      const narrow = await faults(page, new AxeBuilder({ page }).withRules(RULES_OF_WIDTH));
      expect([`${name} at 1024`, ...narrow]).toEqual([`${name} at 1024`]);
    }
  });
}

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
