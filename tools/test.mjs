// npm test: everything there is to test, two things at a time where nothing stands against it; the last line counts.
import { mkdirSync, rmSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import {
  ensureChromium,
  hasPackages,
  installPackages,
  isBuiltAndChecked,
  modules,
  propertySeed,
  root,
} from './lib.mjs';
import { ensureNode } from './newer-node.mjs';
import { addReports, countJest, countPlaywright, slowest } from './reports.mjs';
import { command, runAll } from './schedule.mjs';

process.chdir(root);
const reports = join(root, '.cache', 'reports');
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });
const seed = propertySeed();
const cores = Math.min(2, availableParallelism());

const npx = (args, env) => command('npx', ['--no-install', ...args], env);
const npm = (args, env) => command('npm', args, env);
const report = (name) => join(reports, `${name}.json`);
const nothing = async () => 0;

/** How many groups the files of a project are dealt into: each group loads the framework once. */
const GROUPS = 3;
/** Jest in one process: another task has the other core. */
const jest = (name, config, ...args) =>
  npx(
    ['jest', '--config', config, '--ci', '-i', '--json', `--outputFile=${report(name)}`, ...args],
    { ...modules, HURREL_SEED: String(seed), HURREL_GROUPS: String(GROUPS) },
  );
const inFolder = (folder, shard = '1/1') => [
  '--selectProjects',
  folder,
  ...(shard === '1/1' ? [] : ['--shard', shard]),
];
/** One group each. */
const CORE_SHARDS = GROUPS;
const shards = Array.from({ length: CORE_SHARDS }, (_, i) => `${i + 1}/${CORE_SHARDS}`);

/**
 * What is written in Go takes every core and collects its garbage early: on the one core that a task has here, half of that
 * is lost.
 */
const onOneCore = { GOMAXPROCS: '1', GOGC: '400' };

const ready = ['Node', 'Packages'];

/** The first that can begin does. The longest stand first: the browser needs both cores, and one would idle before it. */
const tasks = [
  {
    name: 'Node',
    run: async () => (await ensureNode(), 0),
  },
  {
    name: 'Packages',
    run: hasPackages() ? nothing : npm(installPackages),
  },
  {
    name: 'Build',
    needs: ready,
    run: (say, signal) =>
      isBuiltAndChecked() ? nothing() : command('node', ['tools/build.mjs'])(say, signal),
  },
  {
    name: 'Chromium',
    run: async () => (await ensureChromium(), 0),
  },
  {
    name: 'Server',
    needs: ['Build'],
    run: jest('server', 'jest.config.mjs', ...inFolder('server')),
  },
  { name: 'Lint', needs: ready, run: npm(['run', '-s', 'lint'], onOneCore) },
  { name: 'Interface', needs: ready, run: jest('web', 'web/jest.config.mjs') },
  ...shards.map((shard) => ({
    name: `Core ${shard}`,
    needs: ready,
    run: jest(`core-${shard[0]}`, 'jest.config.mjs', ...inFolder('core', shard)),
  })),
  { name: 'Types', needs: ready, run: npm(['run', '-s', 'typecheck'], onOneCore) },
  {
    name: 'Browser',
    needs: ['Build', 'Chromium'],
    cores: 2,
    run: async (say, signal) =>
      npx(['playwright', 'test', '-c', 'e2e'], {
        HURREL_CHROMIUM: await ensureChromium(),
        HURREL_REPORT: report('browser'),
      })(say, signal),
  },
];

let trouble = null;
let result = { failed: null, times: [], seconds: 0 };
try {
  result = await runAll(tasks, { cores });
  if (result.failed !== null) trouble = `Stopped at: ${result.failed}.`;
} catch (error) {
  trouble = error instanceof Error ? error.message : String(error);
}

const jests = [...shards.map((s) => `core-${s[0]}`), 'server', 'web'];
const { passed, failed, tests } = addReports([
  ...jests.map((name) => ({ path: report(name), count: countJest })),
  { path: report('browser'), count: countPlaywright },
]);
const line = (t) =>
  `${t.seconds.toFixed(1).padStart(7)} s  ${t.name}, begun at ${t.began.toFixed(0)} s`;
console.log(`\n── Times: ${result.seconds} s in all`);
console.log(result.times.map(line).join('\n'));
console.log('── The ten slowest tests');
console.log(slowest(tests, 10).join('\n'));
console.log(`Property tests ran with HURREL_SEED=${seed}`);
if (trouble) console.log(trouble);
const failures = trouble === null ? failed : Math.max(1, failed);
console.log(`${passed} passed, ${failures} failed`);
process.exit(failures === 0 ? 0 : 1);
