// What the npm scripts share. Runs on bare Node: nothing here may need node_modules.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ensureNode, underNewerNode } from './newer-node.mjs';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

/** Lets Jest run ES modules as they are. */
export const modules = { NODE_OPTIONS: '--experimental-vm-modules --no-warnings' };

/** Seed of this run's property tests: the one that is named, or another each time. */
export const propertySeed = () =>
  Number(process.env.HURREL_SEED ?? Math.floor(Math.random() * 0x7fffffff));

/** Runs a command in the project's folder; resolves to its exit code. Output goes where `stdio` says. */
export const run = (command, args, { env = {}, stdio = 'inherit', cwd = root } = {}) =>
  new Promise((done) => {
    const child = spawn(command, args, { cwd, stdio, env: { ...process.env, ...env } });
    child.on('error', () => done(127));
    child.on('exit', (code, signal) => done(code ?? (signal ? 128 : 1)));
  });

/** Tells that something is under way, every two seconds until it has ended, when nothing else would tell. */
export async function withProgress(label, work) {
  const since = Date.now();
  process.stdout.write(`${label}\n`);
  const timer = setInterval(
    () =>
      process.stdout.write(
        `  … ${label.toLowerCase()}: ${Math.round((Date.now() - since) / 1000)} s\n`,
      ),
    10_000,
  );
  try {
    return await work();
  } finally {
    clearInterval(timer);
  }
}

const age = (path) => (existsSync(path) ? statSync(path).mtimeMs : 0);

/** Newest change of any file below the folders, generated ones left out. */
export function newest(folders) {
  let latest = 0;
  const walk = (path) => {
    const stat = statSync(path, { throwIfNoEntry: false });
    if (!stat) return;
    if (!stat.isDirectory()) {
      latest = Math.max(latest, stat.mtimeMs);
      return;
    }
    for (const name of readdirSync(path)) {
      if (['node_modules', 'dist', '.angular', '.cache'].includes(name)) continue;
      walk(join(path, name));
    }
  };
  folders.forEach((folder) => walk(join(root, folder)));
  return latest;
}

const stamp = join(root, 'node_modules', '.package-lock.json');
/** What building and serving need is there, of the lock file. */
const hasPackagesToRun = () => age(stamp) > 0 && age(stamp) >= age(join(root, 'package-lock.json'));
/** All packages are there, those for checks and tests too. */
export const hasPackages = () =>
  hasPackagesToRun() && existsSync(join(root, 'node_modules/@playwright/test'));

export const installPackages = ['ci', '--ignore-scripts', '--no-audit', '--no-fund'];
/** Without what only checks and tests need: three fifths of the packages. */
const installToRun = [...installPackages, '--workspaces', '--include-workspace-root=false'];

/** Installs when node_modules is missing or older than the lock file. */
export async function ensurePackages(there = hasPackages, install = installPackages) {
  if (there()) return;
  const code = await withProgress('Installing packages', () => run('npm', install));
  if (code !== 0) throw new Error(`npm ${install[0]} failed: see its message above.`);
}

/** All that a server needs to start, and goes on under a Node that can load it. */
export async function ensureReady() {
  await Promise.all([ensureNode(), ensurePackages(hasPackagesToRun, installToRun)]);
  await ensureBuilt({ firstUnchecked: true });
  await underNewerNode();
}

const SOURCES = [
  'core',
  'server',
  'web',
  'library',
  'tools/build.mjs',
  'tools/build-server.mjs',
  'package-lock.json',
];

export const isBuilt = () => {
  const outputs = ['server/dist/main.js', 'web/dist/browser/index.html'].map((p) =>
    age(join(root, p)),
  );
  return Math.min(...outputs) >= newest(SOURCES);
};

/** In a build whose types nobody checked. */
export const unchecked = join(root, 'web/dist/types-unchecked');

/** Built, and its types and templates were checked on the way. */
export const isBuiltAndChecked = () => isBuilt() && !existsSync(unchecked);

/**
 * Builds when any source is newer than the build.
 * @param firstUnchecked a first build is made without checking types, in half the time: nobody has changed anything yet
 */
export async function ensureBuilt({ firstUnchecked = false } = {}) {
  if (isBuilt()) return;
  const first = !existsSync(join(root, 'web/dist'));
  const env = firstUnchecked && first ? { NG_BUILD_TYPE_CHECK: '0' } : {};
  const code = await withProgress('Building', () => run('node', ['tools/build.mjs'], { env }));
  if (code !== 0) throw new Error('The build failed: see its message above.');
}

/** Chromium without its window: the same engine, and a third less work for every page. */
const SHELL = '/usr/bin/chromium-headless-shell';
const CANDIDATES = [
  SHELL,
  '/usr/bin/chromium',
  '/usr/bin/chromium-browser',
  '/usr/bin/google-chrome',
  '/usr/bin/google-chrome-stable',
  '/snap/bin/chromium',
];

export const findChromium = () =>
  [process.env.HURREL_CHROMIUM, ...CANDIDATES].find((path) => path && existsSync(path));

const install = (...packages) =>
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], {
    env: { DEBIAN_FRONTEND: 'noninteractive' },
    stdio: 'ignore',
  });

/** A browser for the tests: the shell, which Debian has as a package, else whatever Chromium there is. */
export async function ensureChromium() {
  if (process.env.HURREL_CHROMIUM && !existsSync(process.env.HURREL_CHROMIUM)) {
    throw new Error(
      `HURREL_CHROMIUM names "${process.env.HURREL_CHROMIUM}", and there is no such file.`,
    );
  }
  const mayInstall = process.getuid?.() === 0 && spawnSync('which', ['apt-get']).status === 0;
  if (!process.env.HURREL_CHROMIUM && !existsSync(SHELL) && mayInstall) {
    await withProgress('Installing Chromium (Debian package)', async () => {
      await run('apt-get', ['update', '-qq'], { stdio: 'ignore' });
      if ((await install('chromium-headless-shell')) !== 0 && !findChromium()) {
        await install('chromium');
      }
    });
  }
  const found = findChromium();
  if (found) return found;
  throw new Error(
    'The browser tests need Chromium. Install it (Debian: sudo apt-get install chromium-headless-shell), ' +
      'or set HURREL_CHROMIUM to the path of a Chromium or Chrome.',
  );
}

/** Ends with a plain message instead of a stack. */
export function fail(error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}
