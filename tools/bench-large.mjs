// Figures of size: a panel of 300 controls and 120 jacks, a library of 20,000 patches.
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { withApp, withLibrary } from './app.mjs';
import { root } from './lib.mjs';

const p95 = (values) => [...values].sort((a, b) => a - b)[Math.ceil(values.length * 0.95) - 1];

const CONTROLS = 300;
const JACKS = 120;
const GROUP = 20;

/** An instrument of 15 sections of 20 knobs and 8 jacks, each section a voice of its own. */
function largeInstrument() {
  const sections = [];
  const controls = [];
  const jacks = [];
  const modules = [
    { id: 'keys', kind: 'keyboard' },
    { id: 'out', kind: 'output' },
  ];
  const wires = [];
  const kinds = ['osc', 'filter', 'amp', 'env'];
  for (let s = 0; s < CONTROLS / GROUP; s++) {
    const [x, y] = [(s % 5) * 330, Math.floor(s / 5) * 340];
    const section = `s${s}`;
    sections.push({
      id: section,
      name: `Voice ${s + 1}`,
      stage: 'oscillators',
      x,
      y,
      width: 320,
      height: 330,
    });
    modules.push(
      { id: `osc${s}`, kind: 'oscillator' },
      { id: `filter${s}`, kind: 'low-pass-24' },
      { id: `amp${s}`, kind: 'amplifier' },
      { id: `env${s}`, kind: 'envelope' },
    );
    wires.push(
      { from: 'keys.pitch1', to: `osc${s}.pitch` },
      { from: `osc${s}.out`, to: `filter${s}.in` },
      { from: `filter${s}.out`, to: `amp${s}.in` },
      { from: 'keys.gate', to: `env${s}.gate` },
      { from: `env${s}.out`, to: `amp${s}.cv` },
      { from: `amp${s}.out`, to: 'out.in' },
    );
    const params = [
      [`osc${s}`, 'fine', -50, 50, 'cents'],
      [`filter${s}`, 'cutoff', 20, 20000, 'Hz'],
      [`filter${s}`, 'resonance', 0, 1, ''],
      [`env${s}`, 'attack', 0.001, 10, 's'],
      [`env${s}`, 'decay', 0.002, 10, 's'],
    ];
    for (let c = 0; c < GROUP; c++) {
      const bound = params[c];
      controls.push({
        id: `c${s}-${c}`,
        section,
        kind: 'knob',
        name: `knob ${c + 1}`,
        place: { x: x + 34 + (c % 5) * 62, y: y + 60 + Math.floor(c / 5) * 56, size: 34 },
        rest: 0.5,
        bindings: bound
          ? [
              {
                module: bound[0],
                param: bound[1],
                taper: {
                  kind: bound[2] > 0 ? 'exponential' : 'linear',
                  lo: bound[2],
                  hi: bound[3],
                  unit: bound[4],
                },
              },
            ]
          : [],
      });
    }
    const ports = [
      'osc.out',
      'filter.out',
      'env.out',
      'amp.out',
      'osc.fm',
      'filter.cutoff',
      'amp.cv',
      'env.gate',
    ];
    ports.forEach((port, j) => {
      const [module, name] = port.split('.');
      const out = j < 4;
      jacks.push({
        id: `j${s}-${j}`,
        section,
        name: `${kinds.includes(module) ? module : ''} ${name} ${s + 1}`,
        signal: out && module !== 'env' ? 'audio' : name === 'gate' ? 'gate' : 'modulation',
        direction: out ? 'out' : 'in',
        place: { x: x + 24 + j * 38, y: y + 300, size: 16 },
        port: `${module}${s}.${name}`,
      });
    });
  }
  return {
    format: 'hurrel-instrument',
    version: 1,
    id: 'bench-large',
    maker: 'Bench',
    name: 'Large',
    summary: `${controls.length} controls, ${jacks.length} jacks.`,
    panel: { width: 1660, height: 1030 },
    sections,
    controls,
    jacks: jacks.slice(0, JACKS),
    circuit: { modules, wires },
    memory: { kind: 'none' },
    start: { note: '', settings: {} },
    init: { note: '', settings: {} },
  };
}

async function post(url, path, body) {
  const answer = await fetch(`${url}/api/v1${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  if (!answer.ok) throw new Error(`${path}: ${await answer.text()}`);
  return answer.json();
}

/** Opens a chart of the large panel with sixty cables in it. */
export async function openLarge({ url, browser }) {
  await post(url, '/instruments', largeInstrument());
  const made = await post(url, '/patches', {
    from: 'init',
    instrument: 'bench-large',
    name: 'Bench',
  });
  const cables = Array.from({ length: 60 }, (_, i) => ({
    id: `c${i}`,
    from: `j${i % 15}-${Math.floor(i / 15)}`,
    to: `j${(i * 7 + 3) % 15}-${4 + Math.floor(i / 15)}`,
  }));
  await fetch(`${url}/api/v1/patches/${made.id}`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json', 'if-match': '"1"' },
    body: JSON.stringify({ ...made.patch, cables }),
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}/patch/${made.id}/chart`);
  await page.locator('[data-jack]').last().waitFor();
  await page.waitForTimeout(2000);
  return page;
}

/** Watches how long keys take to the frame that shows what they did, as the browser itself tells it. */
const watchKeys = (page) =>
  page.evaluate(() => {
    window.took = [];
    new PerformanceObserver((list) => {
      for (const e of list.getEntries()) if (e.name === 'keydown') window.took.push(e.duration);
    }).observe({ type: 'event', durationThreshold: 16 });
  });

/** 95th percentile of so many keys; what is quicker than 16 ms is not told. */
async function keyTimes(page, keys) {
  await page.waitForTimeout(200);
  const told = await page.evaluate(() => window.took);
  if (process.env.BENCH_VERBOSE) console.error(told.join(' '));
  return p95([...told, ...Array(Math.max(0, keys - told.length)).fill(16)]);
}

/** The same in a pattern of 16 tracks of 64 steps, all of them shown. */
export const patternKeys = (pattern) =>
  withApp(async ({ url, browser }) => {
    const made = await post(url, '/patches', {
      from: 'init',
      instrument: 'marram-shoal',
      name: 'Bench',
    });
    const put = await fetch(`${url}/api/v1/patches/${made.id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json', 'if-match': '"1"' },
      body: JSON.stringify({ ...made.patch, patterns: [pattern] }),
    });
    if (!put.ok) throw new Error((await put.text()).slice(0, 300));
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${url}/patch/${made.id}/sequence`);
    await page.getByLabel('Show 64 steps').click();
    await page.locator('.tracks').focus();
    await page.waitForTimeout(1000);
    await watchKeys(page);
    const keys = 120;
    const all = ['ArrowRight', 'Enter', 'ArrowDown', ']', 'ArrowRight', "'"];
    for (let i = 0; i < keys; i++) {
      await page.keyboard.press(all[i % all.length]);
      await page.waitForTimeout(60);
    }
    return keyTimes(page, keys);
  });

/** The same on a panel whose eight voices play meanwhile, with effects. */
export const playingKeys = () =>
  withApp(async ({ url, browser }) => {
    const { items } = await (await fetch(`${url}/api/v1/patches`)).json();
    const { id } = items.find((p) => p.name === 'Low Tide haze');
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${url}/patch/${id}/chart`);
    await page.locator('[data-control]').last().waitFor();
    await page.getByRole('button', { name: 'Latch' }).click();
    await page.keyboard.press('F2');
    for (const key of 'asdfghjk') await page.keyboard.press(key);
    await page.keyboard.press('F2');
    const level = page.getByRole('meter', { name: 'Level' });
    const loud = (of) => Number(of.getAttribute('aria-valuenow')) > 20;
    await page.waitForFunction(loud, await level.elementHandle());
    await page.locator('[data-control]').first().focus();
    await page.waitForTimeout(200);
    await watchKeys(page);
    const keys = 120;
    for (let i = 0; i < keys; i++) {
      await page.keyboard.press(['ArrowUp', 'PageUp', 'ArrowDown', 'Tab', 'PageDown'][i % 5]);
      await page.waitForTimeout(60);
    }
    return keyTimes(page, keys);
  });

/** A panel in words: thirty sections of ten controls. */
const longOutline = () =>
  [
    'Bench',
    ...Array.from({ length: 30 }, (_, s) => [
      `Part ${s + 1}:`,
      ...Array.from({ length: 8 }, (_, c) => `knob ${c + 1} 0..10`),
      'mode off/half/full',
      '| level 0..10',
    ]).flat(),
  ].join('\n');

/** The same while a panel of 300 controls is typed in words: parsed, laid out and drawn after each key. */
export const outlineKeys = () =>
  withApp(async ({ url, browser }) => {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${url}/instruments`);
    await page.getByLabel('Name', { exact: true }).fill('Bench');
    await page.keyboard.press('Enter');
    const words = page.getByLabel('The panel in words');
    await words.fill(longOutline());
    await page.locator('[data-control]').nth(299).waitFor();
    await page.waitForTimeout(1500);
    await words.press('ControlOrMeta+End');
    await watchKeys(page);
    const typed = '\ncutoff 20..20k Hz\nwave saw/pulse\n| attack 0..10\nfine';
    for (const key of typed) {
      await page.keyboard.press(key === '\n' ? 'Enter' : key);
      await page.waitForTimeout(60);
    }
    return keyTimes(page, typed.length);
  });

/** Keys a control that a panel in words takes, beyond the names, scales and positions that stand on its list. */
export function describeKeys(text) {
  const lines = text.trim().split('\n').filter(Boolean).slice(1);
  let [keys, controls] = [0, 0];
  const inSection = new Map();
  let section = '';
  for (const line of lines) {
    const as = /^(.+): as (.+)$/.exec(line);
    const row = /^(\d+) x (\S+) (\S+): (.+)$/.exec(line);
    // Enter, and all that is neither a name nor printed.
    if (as) {
      keys += 1 + line.length - as[1].length;
      controls += inSection.get(as[2]);
      continue;
    }
    if (line.endsWith(':')) {
      section = line.slice(0, -1);
      inSection.set(section, 0);
      keys += 2;
      continue;
    }
    const count = row ? Number(row[1]) : /^[<>]/.test(line) ? 0 : 1;
    const listed = row
      ? row[4].replaceAll(', ', '').length + row[2].length
      : line.replace(/^[<>|+] /, '').replace(/ (?=\S+$)/, '').length;
    keys += 1 + line.length - listed;
    controls += count;
    inSection.set(section, inSection.get(section) + count);
  }
  return keys / controls;
}

/** From a key to the frame that shows what it did: 95th percentile, as the browser itself tells it. */
export const largePanelKeys = () =>
  withApp(async (app) => {
    const page = await openLarge(app);
    await watchKeys(page);
    const keys = 120;
    for (let i = 0; i < keys; i++) {
      if (i % 10 === 0) {
        await page.locator(`[data-control="c${i % 15}-1"]`).focus();
        // What focusing by script costs is not the key's.
        await page.waitForTimeout(60);
      }
      await page.keyboard.press(['ArrowUp', 'PageUp', 'ArrowDown', 'Tab', 'PageDown'][i % 5]);
      // Sixteen keys a second: faster than anyone reads a panel aloud.
      await page.waitForTimeout(60);
    }
    return keyTimes(page, keys);
  });

/** Frames while the large panel is made larger and scrolled: 95th percentile of the time between two. */
export const largePanelScroll = () =>
  withApp(async (app) => {
    const page = await openLarge(app);
    for (let i = 0; i < 4; i++) await page.getByLabel('Larger').click();
    return page.evaluate(
      () =>
        new Promise((done) => {
          const area = document.querySelector('.face');
          const gaps = [];
          let last = performance.now();
          let n = 0;
          const step = (now) => {
            gaps.push(now - last);
            last = now;
            area.scrollTop = 300 + 300 * Math.sin(n / 12);
            area.scrollLeft = 300 + 300 * Math.cos(n / 15);
            if (++n < 180) requestAnimationFrame(step);
            else done(gaps.slice(5).sort((a, b) => a - b)[Math.ceil(175 * 0.95) - 1]);
          };
          requestAnimationFrame(step);
        }),
    );
  });

const WORDS = ['fog', 'tide', 'lamp', 'winch', 'rope', 'eel', 'ownValue', 'gate', 'reed', 'barge'];

/** Copies the demo patches until there are twenty thousand, each with words of its own. */
function fillLibrary(file) {
  const Database = createRequire(join(root, 'server/package.json'))('better-sqlite3');
  const db = new Database(file);
  const patches = db.prepare('SELECT * FROM patch').all();
  const versions = new Map(
    db
      .prepare('SELECT * FROM patch_version')
      .all()
      .map((v) => [v.patch_id, v]),
  );
  const put = db.prepare(
    'INSERT INTO patch VALUES (@id, @instrument_id, @name, @song, @role, @about, @recorded, @head, @created_at, @updated_at, @deleted_at)',
  );
  const write = db.prepare(
    'INSERT INTO patch_version VALUES (@patch_id, @number, @document, @origin, @created_at)',
  );
  db.transaction(() => {
    for (let i = patches.length; i < 20000; i++) {
      const from = patches[i % patches.length];
      const [a, b] = [WORDS[i % 10], WORDS[Math.floor(i / 10) % 10]];
      const id = `bench-${i}`;
      put.run({ ...from, id, name: `${from.name} ${a} ${i}`, song: `${from.song} ${b}`, head: 1 });
      write.run({ ...versions.get(from.id), patch_id: id, number: 1 });
    }
  })();
  db.close();
}

/** Lists, filters and searches of 20,000 patches: 95th percentile of the whole answer, the way through HTTP included. */
export const libraryTime = () =>
  withLibrary(fillLibrary, async (url) => {
    const queries = [
      '',
      '?page=40',
      '?song=Eel%20Run%20lamp',
      '?role=bass',
      '?instrument=oxbow-sluice&role=lead',
      '?q=winch',
      '?q=barge%20engine',
      '?q=gate&role=drum',
      '?q=nothing%20like%20it',
    ];
    const took = [];
    for (let i = 0; i < 15 * queries.length; i++) {
      const since = performance.now();
      const answer = await fetch(`${url}/api/v1/patches${queries[i % queries.length]}`);
      await answer.json();
      if (i >= queries.length) took.push(performance.now() - since);
    }
    return p95(took);
  });
