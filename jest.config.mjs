import './tools/under-newer-node.mjs';
import { groupsOf } from './tools/jest-groups.mjs';

/** Files of tests, or the groups they are dealt into. */
function foundIn(name, folders) {
  const roots = folders.map((folder) => `<rootDir>/${folder}`);
  const groups = groupsOf(
    name,
    folders.map((folder) => `${folder}/**/*.test.{ts,mjs}`),
  );
  return groups
    ? { roots: [...roots, groups], testMatch: [`${groups}/*.test.mjs`] }
    : { roots, testMatch: ['**/*.test.ts', '**/*.test.mjs'] };
}

/**
 * Core and server: plain TypeScript, compiled by swc (types are checked in a stage of their own). As real modules: bindings
 * between CommonJS modules go through getters, which makes the sound engine ten times slower.
 */
const project = (displayName, folders, rest) => ({
  displayName,
  ...foundIn(displayName, folders),
  testEnvironment: '<rootDir>/tools/jest-plain-context.cjs',
  extensionsToTreatAsEsm: ['.ts'],
  setupFiles: ['<rootDir>/core/src/testing/seed.ts'],
  transform: {
    '^.+\\.ts$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript' },
          target: 'es2022',
          experimental: { keepImportAttributes: true },
        },
        module: { type: 'es6' },
      },
    ],
  },
  ...rest,
});

export default {
  projects: [
    project('core', ['core/src', 'tools'], {}),
    project('server', ['server/src'], {
      globalSetup: '<rootDir>/tools/jest-server.mjs',
      globalTeardown: '<rootDir>/tools/jest-server-end.mjs',
      moduleNameMapper: { '^@hurrel/core$': '<rootDir>/.cache/jest/core.mjs' },
    }),
  ],
  // What hangs is ended; a slow machine is not.
  testTimeout: 60_000,
  maxWorkers: 2,
};
