// npm run bench: measured figures, each with its goal. `--json` prints them as an array and nothing else; names pick some.
import './under-newer-node.mjs';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { gzipSync } from 'node:zlib';
import { build } from 'esbuild';
import { withApp } from './app.mjs';
import {
  describeKeys,
  outlineKeys,
  largePanelKeys,
  largePanelScroll,
  libraryTime,
  patternKeys,
  playingKeys,
} from './bench-large.mjs';
import { setTick, stageKey } from './bench-stage.mjs';
import { carryStall, carryThousand, exportThousand, importThousand } from './bench-thousand.mjs';
import { ensureBuilt, fail, root } from './lib.mjs';

const json = process.argv.includes('--json');
const wanted = process.argv.slice(2).filter((a) => !a.startsWith('--'));
// With --json whatever else is said goes to the error channel.
if (json)
  process.stdout.write = (
    (write) =>
    (text, ...rest) =>
      write.call(process.stderr, text, ...rest)
  )(process.stdout.write);
const print = (text) => (json ? undefined : console.log(text));

/** How both sets of benchmarks are bundled. */
const bundle = (name, more) =>
  build({
    entryPoints: [join(root, `tools/${name}.ts`)],
    bundle: true,
    logLevel: 'error',
    alias: { '@hurrel/core': join(root, 'core/src/index.ts') },
    nodePaths: [join(root, 'node_modules')],
    ...more,
  });

/** @param instance another one is loaded anew: code that has run nothing else yet */
async function inNode(name, instance = '') {
  const outfile = join(root, '.cache', `${name}.mjs`);
  await bundle(name, { outfile, platform: 'node', format: 'esm' });
  return import(pathToFileURL(outfile).href + instance);
}
const coreBench = () => inNode('bench-core');
const soundBench = () => inNode('bench-sound');
const sequenceBench = () => inNode('bench-sequence');

/** An expression over the sound benchmarks, worked out in a page. */
const inChromium = (expression) =>
  withApp(async ({ browser }) => {
    const { outputFiles } = await bundle('bench-sound', {
      write: false,
      format: 'iife',
      globalName: 'bench',
      minify: true,
    });
    const page = await browser.newPage();
    await page.goto('about:blank');
    await page.addScriptTag({ content: outputFiles[0].text });
    return page.evaluate(expression);
  });

/** The panel of the walk through describing one, typed. */
const describeWalk = async () =>
  describeKeys(/```text\n([\s\S]*?)```/.exec(readFileSync('docs/describing.md', 'utf8'))[1]);

setFlagsFromString('--expose_gc');
const collect = runInNewContext('gc');
const heapUsed = () => process.memoryUsage().heapUsed;

/** A single number made for the collector would be 16 bytes. */
const freshBytes = async () => (await inNode('bench-sound', '?fresh')).liveBytes(heapUsed);

/** How many times as fast as the browser's own nodes: medians of the same run. */
async function againstNative() {
  const { ours, native } = await inChromium('bench.monoAgainstNative()');
  print(
    `  ours ${ours.toFixed(1)} ms, the browser's own ${native.toFixed(1)} ms for 10 s of sound`,
  );
  return native / ours;
}

/** Scripts that the first page loads before anything lazy, compressed. */
async function initialScript() {
  await ensureBuilt();
  const folder = join(root, 'web/dist/browser');
  const seen = new Set();
  const page = readFileSync(join(folder, 'index.html'), 'utf8');
  const waiting = [...page.matchAll(/(?:src|href)="([^"]+\.js)"/g)].map((m) => m[1]);
  while (waiting.length > 0) {
    const name = waiting.pop();
    if (seen.has(name)) continue;
    seen.add(name);
    const text = readFileSync(join(folder, name), 'utf8');
    for (const [, file] of text.matchAll(/(?:from|import)\s*"\.\/([^"]+\.js)"/g))
      waiting.push(file);
  }
  const files = new Set(readdirSync(folder));
  return [...seen]
    .filter((n) => files.has(n))
    .reduce((sum, n) => sum + gzipSync(readFileSync(join(folder, n))).length / 1000, 0);
}

/** 95th percentile of the time from a key that turns the cutoff to the changed spectrum on the page. */
const pictureAfterTurn = () =>
  withApp(async ({ url, browser, idOf }) => {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${url}/patch/${idOf('Fog Signal horn')}/chart`);
    await page.locator('hur-plot path.trace[d]').nth(1).waitFor({ state: 'attached' });
    await page.locator('[data-control="cutoff"]').focus();
    const delays = await page.evaluate(async () => {
      const trace = document.querySelectorAll('hur-plot')[1].querySelector('path.trace');
      const control = document.activeElement;
      const turn = (key) =>
        new Promise((done) => {
          const since = performance.now();
          const watch = new MutationObserver(() => {
            watch.disconnect();
            done(performance.now() - since);
          });
          watch.observe(trace, { attributes: true, attributeFilter: ['d'] });
          control.dispatchEvent(
            new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }),
          );
        });
      const found = [];
      for (let i = 0; i < 110; i++) {
        found.push(await turn(i % 40 < 20 ? 'ArrowUp' : 'ArrowDown'));
        await new Promise((next) => setTimeout(next, 30));
      }
      return found.slice(10);
    });
    return delays.sort((a, b) => a - b)[Math.ceil(delays.length * 0.95) - 1];
  });

/** Keys besides the readings' own that a panel of exact readings takes, a control. */
const recordKeys = () =>
  withApp(async ({ url, browser }) => {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const made = await fetch(`${url}/api/v1/patches`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ from: 'nothing', instrument: 'oxbow-sluice', name: 'Bench' }),
    });
    const { id } = await made.json();
    await page.goto(`${url}/patch/${id}/chart`);
    await page.locator('[data-control]').first().waitFor();
    let extra = 0;
    const press = async (key) => (extra++, page.keyboard.press(key));
    for (const key of ['/', '1', 'a']) await press(key);
    const count = await page.locator('[data-control]').count();
    for (let i = 0; i < count; i++) {
      await page.keyboard.type('max');
      await press('Tab');
    }
    // Every one of them must have been taken down.
    await page.waitForFunction(
      (n) => document.querySelectorAll('[data-control][data-kind="set"]').length === n,
      count,
    );
    return extra / count;
  });

const figures = [
  ['picture-after-turn', 'ms, p95', '<=', 100, pictureAfterTurn],
  ['record-keys', 'keys a control', '<=', 4, recordKeys],
  ['initial-script', 'kB compressed', '<=', 350, initialScript],
  ['render-speed', 'x real time', '>=', 10, async () => (await coreBench()).renderSpeed()],
  ['prune-gain', 'x', '>=', 1.2, async () => (await coreBench()).pruneGain()],
  ['mono-against-native', 'x as fast', '>=', 3, againstNative],
  ['poly-speed', 'x real time', '>=', 10, () => inChromium('bench.polySpeed()')],
  ['modular-speed', 'x real time', '>=', 8, () => inChromium('bench.modularSpeed()')],
  ['live-share', '% of a stretch, p99', '<=', 33.3, async () => (await soundBench()).liveShare()],
  ['live-bytes', 'bytes a stretch', '<=', 16, freshBytes],
  [
    'hour-growth',
    'MB in an hour',
    '<=',
    0.5,
    async () => (await soundBench()).hourGrowth(() => (collect(), heapUsed())),
  ],
  ['weigh-100', 's, 50 controls on one core', '<=', 3, async () => (await coreBench()).weighTime()],
  ['check-time', 'ms', '<=', 20, async () => (await coreBench()).checkTime()],
  ['check-60', 'ms, p95', '<=', 30, async () => (await coreBench()).checkSixty()],
  ['events-16', 'ms for 10 minutes', '<=', 500, async () => (await sequenceBench()).eventsTime()],
  ['script-64', 'ms', '<=', 50, async () => (await sequenceBench()).scriptTime()],
  [
    'pattern-keys',
    'ms, p95',
    '<=',
    50,
    async () => patternKeys((await sequenceBench()).fullPattern(16)),
  ],
  ['outline-300', 'ms, p95', '<=', 50, outlineKeys],
  ['describe-keys', 'keys a control', '<=', 6, describeWalk],
  ['playing-keys', 'ms, p95', '<=', 50, playingKeys],
  ['large-panel-keys', 'ms, p95', '<=', 50, largePanelKeys],
  ['large-panel-frame', 'ms, p95', '<=', 34, largePanelScroll],
  ['set-40', 's', '<=', 1, async () => (await inNode('bench-set')).setForty()],
  ['set-tick', 's, p95', '<=', 1, setTick],
  ['stage-key', 'ms, p95', '<=', 50, stageKey],
  ['library-20000', 'ms, p95', '<=', 100, libraryTime],
  ['carry-1000', 's', '<=', 5, carryThousand],
  ['carry-stall', 'ms, the longest save', '<=', 100, carryStall],
  ['export-1000', 's', '<=', 10, exportThousand],
  ['import-1000', 's', '<=', 10, importThousand],
];

try {
  process.chdir(root);
  const unknown = wanted.filter((name) => !figures.some(([n]) => n === name));
  if (unknown.length > 0) {
    throw new Error(
      `There is no figure "${unknown[0]}". There are: ${figures.map(([n]) => n).join(', ')}.`,
    );
  }
  const results = [];
  for (const [name, unit, relation, limit, measure] of figures) {
    if (wanted.length > 0 && !wanted.includes(name)) continue;
    const value = Math.round((await measure()) * 100) / 100;
    const met = relation === '<=' ? value <= limit : value >= limit;
    const goal = `${relation} ${limit}`;
    results.push({ name, value, unit, goal, met });
    print(`${name}: ${value} ${unit} (goal ${goal}: ${met ? 'met' : 'not met'})`);
  }
  if (json)
    process.stdout.constructor.prototype.write.call(
      process.stdout,
      `${JSON.stringify(results, null, 2)}\n`,
    );
} catch (error) {
  fail(error);
}
