// Runs what has to be done on as many cores as there are, each thing as soon as what it needs is there.
import { spawn } from 'node:child_process';
import { root } from './lib.mjs';

/**
 * @typedef {object} Task
 * @property {string} name
 * @property {string[]} [needs] Names of what must have ended well before.
 * @property {number} [cores] How many it keeps busy; 1 unless told otherwise.
 * @property {(say: (text: string) => void, signal: AbortSignal) => Promise<number>} run Resolves to an exit code.
 */

/** Runs a command; what it says goes to `say` in pieces. Resolves to its exit code. */
export const command =
  (name, args, env = {}, cwd = root) =>
  (say, signal) =>
    new Promise((done) => {
      const child = spawn(name, args, {
        cwd,
        // A group of its own, so that what it started ends with it.
        detached: true,
        stdio: ['ignore', 'pipe', 'pipe'],
        env: { ...process.env, npm_config_loglevel: 'error', ...env },
      });
      const end = () => {
        try {
          process.kill(-child.pid, 'SIGTERM');
        } catch {
          // Gone already.
        }
      };
      signal.addEventListener('abort', end, { once: true });
      child.stdout.on('data', (data) => say(data.toString()));
      child.stderr.on('data', (data) => say(data.toString()));
      child.on('error', (error) => (say(`${error.message}\n`), done(127)));
      child.on('close', (code, ended) => {
        signal.removeEventListener('abort', end);
        done(code ?? (ended ? 128 : 1));
      });
    });

const seconds = (since) => Math.round((Date.now() - since) / 100) / 10;

/**
 * Runs tasks, the first of the list that can begin first. What one says is printed as a whole when it has ended, so that two
 * never talk into each other. The first that fails ends all others. Gives each one's time and whether all went well.
 *
 * @param {Task[]} tasks
 * @param {{ cores: number, print?: (text: string) => void }} options
 */
export async function runAll(tasks, { cores, print = (text) => process.stdout.write(text) }) {
  const began = Date.now();
  const times = [];
  const done = new Set();
  const running = new Map();
  const waiting = [...tasks];
  const abort = new AbortController();
  let free = cores;
  let failed = null;
  const ticker = setInterval(() => {
    const now = [...running.values()].map((r) => `${r.name} ${Math.round(seconds(r.since))} s`);
    if (now.length > 0) print(`  … ${now.join(', ')}\n`);
  }, 15_000);

  const begin = (task) => {
    const need = Math.min(task.cores ?? 1, cores);
    free -= need;
    let said = '';
    const since = Date.now();
    const work = Promise.resolve()
      .then(() => task.run((text) => (said += text), abort.signal))
      .catch((error) => ((said += `${error.stack ?? error}\n`), 1))
      .then((code) => {
        free += need;
        running.delete(task.name);
        if (abort.signal.aborted && failed !== task.name) return;
        times.push({
          name: task.name,
          began: seconds(began) - seconds(since),
          seconds: seconds(since),
        });
        print(`── ${task.name}: ${code === 0 ? '' : 'FAILED after '}${seconds(since)} s\n${said}`);
        if (code === 0) return void done.add(task.name);
        failed = task.name;
        abort.abort();
      });
    running.set(task.name, { name: task.name, since, work });
  };

  try {
    while (failed === null && (waiting.length > 0 || running.size > 0)) {
      for (let i = 0; i < waiting.length;) {
        const task = waiting[i];
        const ready = (task.needs ?? []).every((n) => done.has(n));
        if (!ready || free < Math.min(task.cores ?? 1, cores)) i++;
        else {
          waiting.splice(i, 1);
          begin(task);
        }
      }
      if (running.size === 0) throw new Error(`Nothing can begin: ${waiting.map((t) => t.name)}`);
      await Promise.race([...running.values()].map((r) => r.work));
    }
    await Promise.all([...running.values()].map((r) => r.work));
  } finally {
    clearInterval(ticker);
  }
  return { failed, times, seconds: seconds(began) };
}
