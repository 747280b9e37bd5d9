// SQLite's binary asks for a newer Node than some systems have: there, one is fetched from the npm registry, once.
import { spawn } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { delimiter, dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const NEEDED = 22;
const folder = join(dirname(fileURLToPath(import.meta.url)), 'runtime');
const name = `node-${process.platform}-${process.arch}`;
const bin = join(folder, 'node_modules', name, 'bin');

/** Whether a version of Node is too old to run what uses the library. */
export const isOld = (version = process.versions.node) => parseInt(version, 10) < NEEDED;

/** The one that is fetched, or undefined where none is known for this machine. */
const { [name]: version } = JSON.parse(
  readFileSync(join(folder, 'package.json'), 'utf8'),
).optionalDependencies;

const fetchNode = () =>
  new Promise((done) => {
    const args = ['ci', '--ignore-scripts', '--no-audit', '--no-fund', '--loglevel=error'];
    const child = spawn('npm', args, { cwd: folder, stdio: ['ignore', 'ignore', 'inherit'] });
    child.on('error', done);
    child.on('exit', done);
  });

/** The one that is asked for, whole: another is fetched anew. */
function isThere() {
  const about = join(bin, '..', 'package.json');
  return existsSync(about) && JSON.parse(readFileSync(about, 'utf8')).version === version;
}

/** Runs a command in this one's place: what comes from outside reaches it, and this one ends as it does. */
export function runInstead(command, args) {
  const child = spawn(command, args, { stdio: 'inherit' });
  // A terminal tells both; who stops this one alone means the other.
  const signals = ['SIGINT', 'SIGTERM', 'SIGHUP'];
  for (const signal of signals) process.on(signal, () => child.kill(signal));
  return new Promise(() => {
    child.on('exit', (code, signal) => {
      for (const each of signals) process.removeAllListeners(each);
      if (signal) process.kill(process.pid, signal);
      else process.exit(code ?? 1);
    });
  });
}

/**
 * What is started from now on finds a Node that is new enough: where this one is not, one is fetched.
 * @throws Error that says what to do where none is known for this machine, or it could not be had
 */
export async function ensureNode() {
  if (!isOld()) return;
  if (version && !isThere()) {
    console.log(`Fetching Node ${version}: this machine has ${process.versions.node}`);
    await fetchNode();
  }
  if (!version || !isThere()) {
    const tried = version
      ? 'None could be fetched from the npm registry: try again with a network, or install'
      : 'Install';
    throw new Error(
      `Hurrel needs Node ${NEEDED} or newer, and this is ${process.versions.node}. ${tried} a newer one.`,
    );
  }
  if (!process.env.PATH.startsWith(bin)) process.env.PATH = `${bin}${delimiter}${process.env.PATH}`;
}

/** Goes no further under an old Node: runs what was called again under a newer one, and ends as that ends. */
export async function underNewerNode() {
  if (!isOld()) return;
  await ensureNode();
  await runInstead('node', [...process.execArgv, ...process.argv.slice(1)]);
}
