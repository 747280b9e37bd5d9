// npm test: every stage in order, up to the first that fails; the last line counts.
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import {
  ensureBuilt,
  ensureChromium,
  ensureInstalled,
  modules,
  root,
  run,
  withProgress,
} from './lib.mjs';

process.chdir(root);
const reports = join(root, '.cache', 'reports');
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });
const npx = (args, env) =>
  run('npx', ['--no-install', ...args], { env: { npm_config_loglevel: 'error', ...env } });
const npmRun = (script) => run('npm', ['run', '-s', script]);

let passed = 0;
let failed = 0;

/** Adds up a report of Jest's. */
function countJest(file) {
  const report = JSON.parse(readFileSync(join(reports, file), 'utf8'));
  passed += report.numPassedTests;
  failed += report.numFailedTests + report.numRuntimeErrorTestSuites;
}

/** Adds up a report of Playwright's. */
function countPlaywright(file) {
  const { stats } = JSON.parse(readFileSync(join(reports, file), 'utf8'));
  passed += stats.expected + stats.flaky;
  failed += stats.unexpected;
}

const jest = (config, file) => async () => {
  const code = await npx(
    ['jest', '--config', config, '--json', `--outputFile=${join(reports, file)}`],
    modules,
  );
  countJest(file);
  return code;
};

let chromium = '';
const stages = [
  ['Lint', () => npmRun('lint')],
  ['Type check', () => npmRun('typecheck')],
  ['Unit tests of core and server', jest('jest.config.mjs', 'core.json')],
  ['Unit tests of the interface', jest('web/jest.config.mjs', 'web.json')],
  ['Build', async () => (await ensureBuilt(), 0)],
  [
    'Browser tests',
    async () => {
      const code = await npx(['playwright', 'test', '-c', 'e2e'], {
        HURREL_CHROMIUM: chromium,
        HURREL_REPORT: join(reports, 'browser.json'),
      });
      countPlaywright('browser.json');
      return code;
    },
  ],
];

try {
  await ensureInstalled();
  chromium = await ensureChromium();
  for (const [name, stage] of stages) {
    const code = await withProgress(`── ${name}`, stage);
    if (code === 0) continue;
    if (failed === 0) failed = 1;
    console.log(`Stopped at: ${name}.`);
    break;
  }
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  failed = Math.max(1, failed);
}
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
