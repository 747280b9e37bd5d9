import './tools/newer-node.mjs';

/**
 * Core and server: plain TypeScript, compiled by swc (types are checked in a stage of their own). As real modules: bindings
 * between CommonJS modules go through getters, which makes the sound engine ten times slower.
 */
const project = (displayName, folders, rest) => ({
  displayName,
  roots: folders.map((folder) => `<rootDir>/${folder}`),
  testMatch: ['**/*.test.ts', '**/*.test.mjs'],
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
