// Figures of the stage view: two devices on one walk.
import { withApp } from './app.mjs';

const p95 = (all) => [...all].sort((a, b) => a - b)[Math.ceil(all.length * 0.95) - 1];

/** A walk of the demo set, open on a page for everybody. */
async function onStage({ url, browser }, how) {
  const read = async (path, data) =>
    (
      await fetch(`${url}/api/v1${path}`, {
        ...(data
          ? {
              method: 'POST',
              headers: { 'content-type': 'application/json' },
              body: JSON.stringify(data),
            }
          : {}),
      })
    ).json();
  const { items } = await read('/evenings');
  const { walk } = await read(`/evenings/${items[0].id}/walks`, { kind: 'rehearsal', before: {} });
  const open = async (who) => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    await page.goto(`${url}/set/${items[0].id}/stage?walk=${walk.id}${who}`);
    await page.getByTestId('target').waitFor();
    await page.getByText('with the others').waitFor();
    return page;
  };
  return how(open);
}
const done = (page) =>
  page.evaluate(() => Number(document.querySelector('.bar').getAttribute('aria-valuenow')));

/** 95th percentile of the time from a tick on one device to the same on another, in s. */
export const setTick = () =>
  withApp((app) =>
    onStage(app, async (open) => {
      const [one, other] = [await open(''), await open('')];
      // Both clocks are this machine's.
      const told = other.evaluate(
        (count) =>
          new Promise((all) => {
            const seen = [];
            const named = document.querySelector('main');
            let last = document.querySelector('.now h2, .now .to')?.textContent;
            new MutationObserver(() => {
              const now = document.querySelector('.now')?.textContent;
              if (now === last) return;
              last = now;
              seen.push(Date.now());
              if (seen.length >= count) all(seen);
            }).observe(named, { subtree: true, childList: true, characterData: true });
          }),
        40,
      );
      const ticked = [];
      const before = await done(one);
      for (let i = 0; i < 40; i++) {
        ticked.push(Date.now());
        await one.keyboard.press('Space');
        await one.waitForTimeout(150);
      }
      if ((await done(one)) <= before) throw new Error('Nothing was ticked.');
      const seen = await told;
      return p95(ticked.map((at, i) => (seen[i] - at) / 1000));
    }),
  );

/** 95th percentile of the time from the key to the next movement on the page, in ms. */
export const stageKey = () =>
  withApp((app) =>
    onStage(app, async (open) => {
      const page = await open('');
      const delays = await page.evaluate(async () => {
        const found = [];
        for (let i = 0; i < 60; i++) {
          const since = performance.now();
          const before = document.querySelector('.now').textContent;
          window.dispatchEvent(new KeyboardEvent('keydown', { key: ' ', code: 'Space' }));
          await new Promise((next) => {
            const look = () =>
              document.querySelector('.now')?.textContent === before
                ? requestAnimationFrame(look)
                : next();
            look();
          });
          await new Promise((drawn) => requestAnimationFrame(drawn));
          found.push(performance.now() - since);
          await new Promise((rest) => setTimeout(rest, 60));
        }
        return found;
      });
      return p95(delays);
    }),
  );
