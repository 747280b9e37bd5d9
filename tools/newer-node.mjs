// SQLite's binary asks for a newer Node than some systems have. There, one is fetched from the npm registry, once, and what was
// called runs again under it, and all that it starts. Imported first by whatever does more than install packages.
import { spawn, spawnSync } from 'node:child_process';
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

function fetchNode() {
  console.log(`Fetching Node ${version}: this machine has ${process.versions.node}`);
  const args = ['ci', '--ignore-scripts', '--no-audit', '--no-fund', '--loglevel=error'];
  const { status } = spawnSync('npm', args, {
    cwd: folder,
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  return status === 0 && isThere();
}

/** The one that is asked for, whole: another is fetched anew. */
function isThere() {
  const about = join(bin, '..', 'package.json');
  return existsSync(about) && JSON.parse(readFileSync(about, 'utf8')).version === version;
}

/** Runs a command in this one's place: what comes from outside reaches it, and this one ends as it does. */
export function runInstead(command, args, env = process.env) {
  const child = spawn(command, args, { stdio: 'inherit', env });
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

if (isOld()) {
  if (!version || (!isThere() && !fetchNode())) {
    console.error(
      `Hurrel needs Node ${NEEDED} or newer, and this is ${process.versions.node}. Install a newer one, and start again.`,
    );
    process.exit(1);
  }
  await runInstead(join(bin, 'node'), [...process.execArgv, ...process.argv.slice(1)], {
    ...process.env,
    PATH: `${bin}${delimiter}${process.env.PATH}`,
  });
}
