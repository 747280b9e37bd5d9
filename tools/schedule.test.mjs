import { addReports, countJest, countPlaywright, slowest } from './reports.mjs';
import { runAll } from './schedule.mjs';

/** A task that ends when it is told to; what has begun and ended is written down. */
const bench = () => {
  const log = [];
  const ends = new Map();
  const task = (name, more = {}) => ({
    name,
    ...more,
    run: (say, signal) => {
      log.push(`+${name}`);
      say(`${name} says\n`);
      return new Promise((done) => {
        let over = false;
        const end = (code) => {
          if (over) return;
          over = true;
          log.push(`-${name}`);
          done(code);
        };
        ends.set(name, end);
        signal.addEventListener('abort', () => end(128));
      });
    },
  });
  const soon = () => new Promise((done) => setImmediate(done));
  const end = async (name, code = 0) => {
    ends.get(name)(code);
    for (let i = 0; i < 5; i++) await soon();
  };
  return { log, task, end, soon };
};
const quiet = { cores: 2, print: () => undefined };

describe('the schedule', () => {
  it('keeps both cores busy with the first that can begin', async () => {
    const { log, task, end, soon } = bench();
    const all = runAll(
      [task('a'), task('b', { needs: ['a'] }), task('c'), task('d', { needs: ['b'], cores: 2 })],
      quiet,
    );
    await soon();
    expect(log).toEqual(['+a', '+c']);
    await end('a');
    expect(log).toEqual(['+a', '+c', '-a', '+b']);
    await end('b');
    // What wants both cores waits for the last of them.
    expect(log.at(-1)).toBe('-b');
    await end('c');
    expect(log.at(-1)).toBe('+d');
    await end('d');
    const { failed, times } = await all;
    expect([failed, times.map((t) => t.name)]).toEqual([null, ['a', 'b', 'c', 'd']]);
  });

  it('ends everything at the first that fails, and begins nothing more', async () => {
    const { log, task, end, soon } = bench();
    const printed = [];
    const all = runAll([task('a'), task('b'), task('c', { needs: ['a'] })], {
      cores: 2,
      print: (text) => printed.push(text),
    });
    await soon();
    await end('a', 1);
    const { failed } = await all;
    expect(failed).toBe('a');
    expect(log).toEqual(['+a', '+b', '-a', '-b']);
    expect(printed).toEqual([expect.stringMatching(/^── a: FAILED after .* s\na says\n$/)]);
  });

  it('says when nothing can begin', async () => {
    const { task } = bench();
    await expect(runAll([task('a', { needs: ['nobody'] })], quiet)).rejects.toThrow(/can begin: a/);
  });
});

describe('reports', () => {
  it('of Jest count tests, and files that could not be run as failures', () => {
    const assertionResults = [
      { fullName: 'adds', ancestorTitles: [], duration: 1500 },
      { fullName: 'fails', ancestorTitles: [], duration: null },
    ];
    const count = countJest({
      numPassedTests: 1,
      numFailedTests: 1,
      numRuntimeErrorTestSuites: 2,
      testResults: [{ name: '/x/a.test.ts', assertionResults }],
    });
    expect([count.passed, count.failed]).toEqual([1, 3]);
    expect(slowest(count.tests, 1)[0]).toMatch(/^ +1\.5 s .*a\.test\.ts: adds$/);
  });

  it('name the file of a test that ran in a group of files', () => {
    const ancestorTitles = ['core/src/b.test.ts', 'sums'];
    const fullName = 'core/src/b.test.ts sums add';
    const assertionResults = [{ fullName, ancestorTitles, duration: 100 }];
    const [test] = countJest({
      numPassedTests: 1,
      numFailedTests: 0,
      numRuntimeErrorTestSuites: 0,
      testResults: [{ name: '/x/group-1.test.mjs', assertionResults }],
    }).tests;
    expect(test.name).toBe('core/src/b.test.ts: sums add');
  });

  it('of Playwright count what needed a second try as failed', () => {
    const spec = { file: 'a.spec.ts', title: 'works', tests: [{ results: [{ duration: 2000 }] }] };
    const count = countPlaywright({
      stats: { expected: 4, flaky: 1, unexpected: 2 },
      errors: [],
      suites: [{ specs: [], suites: [{ specs: [spec] }] }],
    });
    expect([count.passed, count.failed, count.tests]).toEqual([
      4,
      3,
      [{ name: 'e2e/a.spec.ts: works', seconds: 2 }],
    ]);
  });

  it('that were never written count nothing', () => {
    expect(addReports([{ path: '/nowhere.json', count: countJest }])).toEqual({
      passed: 0,
      failed: 0,
      tests: [],
    });
  });
});
