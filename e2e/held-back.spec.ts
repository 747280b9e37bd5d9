import { chromiumArgs } from './playwright.config';
import { expect, sounds, tapSound, test } from './app';
import { plugIn, sends } from './plugged-in';

// As a browser comes: it lets no sound out before a hand was on the page.
test.use({
  launchOptions: {
    executablePath: process.env['HURREL_CHROMIUM'] ?? '/usr/bin/chromium',
    args: chromiumArgs.filter((arg) => !arg.startsWith('--autoplay')),
  },
});

/** Plays a key as soon as it is heard, and tells what the page says of it. What is asked of a page counts as a hand on it. */
const playsByItself = `
  const plays = setInterval(() => {
    if (!input.onmidimessage || !document.querySelector('[data-control]')) return;
    clearInterval(plays);
    window.sends(0x90, 57, 100);
    const looks = setInterval(() => {
      const says = document.querySelector('hur-transport-bar .saying .bad')?.textContent.trim();
      if (!says) return;
      clearInterval(looks);
      console.info('It says: ' + says);
    }, 50);
  }, 50);
`;

test('keys that are played before a hand was on the page say why nothing is heard, until one is', async ({
  page,
  api,
}) => {
  await page.context().grantPermissions(['midi']);
  await page.addInitScript(plugIn + playsByItself);
  await tapSound(page);
  const said = page.waitForEvent('console', (message) => message.text().startsWith('It says'));
  await page.goto(`/patch/${await api.idOf('Low Tide haze')}/chart`);
  expect((await said).text()).toContain('holds sound back: click on this page');
  await page.mouse.click(640, 10);
  await sounds(page, 0.01);
  await expect(page.getByText('holds sound back')).toHaveCount(0);
  await sends(page, [0x80, 57, 0]);
});
