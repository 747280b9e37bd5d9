// What the reports of Jest and Playwright say: how many passed and failed, how long each took, what was told of failures.
import { existsSync, readFileSync } from 'node:fs';
import { relative } from 'node:path';
import { root } from './lib.mjs';

/** @typedef {{ passed: number, failed: number, tests: { name: string, seconds: number }[] }} Count */

/** A test's file and name; in a group of files its own file stands above it. */
function nameOf(test, file) {
  const [top = ''] = test.ancestorTitles;
  return /\.test\.\w+$/.test(top)
    ? `${top}: ${test.fullName.slice(top.length + 1)}`
    : `${relative(root, file)}: ${test.fullName}`;
}

/** @returns {Count} */
export function countJest(report) {
  const tests = report.testResults.flatMap((file) =>
    file.assertionResults.map((t) => ({
      name: nameOf(t, file.name),
      seconds: (t.duration ?? 0) / 1000,
    })),
  );
  return {
    passed: report.numPassedTests,
    failed: report.numFailedTests + report.numRuntimeErrorTestSuites,
    tests,
  };
}

/** @returns {Count} */
export function countPlaywright(report) {
  const tests = [];
  const walk = (suite) => {
    for (const spec of suite.specs ?? []) {
      const results = spec.tests.flatMap((t) => t.results);
      tests.push({
        name: `e2e/${spec.file}: ${spec.title}`,
        seconds: results.reduce((sum, r) => sum + r.duration, 0) / 1000,
      });
    }
    (suite.suites ?? []).forEach(walk);
  };
  report.suites.forEach(walk);
  const { expected, flaky, unexpected } = report.stats;
  return { passed: expected, failed: unexpected + flaky + report.errors.length, tests };
}

/** Reads reports that were written, adds them up. @returns {Count} */
export function addReports(files) {
  const counts = files
    .filter(({ path }) => existsSync(path))
    .map(({ path, count }) => count(JSON.parse(readFileSync(path, 'utf8'))));
  return {
    passed: counts.reduce((sum, c) => sum + c.passed, 0),
    failed: counts.reduce((sum, c) => sum + c.failed, 0),
    tests: counts.flatMap((c) => c.tests),
  };
}

/** The slowest tests, slowest first, a line each. */
export const slowest = (tests, count) =>
  [...tests]
    .sort((a, b) => b.seconds - a.seconds)
    .slice(0, count)
    .map((t) => `${t.seconds.toFixed(1).padStart(7)} s  ${t.name}`);
