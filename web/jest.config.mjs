import '../tools/under-newer-node.mjs';
import { groupsOf } from '../tools/jest-groups.mjs';
import presets from 'jest-preset-angular/presets/index.js';

const groups = groupsOf('web', ['web/src/**/*.test.ts']);

export default {
  ...presets.createEsmPreset({ tsconfig: '<rootDir>/tsconfig.spec.json' }),
  rootDir: import.meta.dirname ?? new URL('.', import.meta.url).pathname,
  roots: ['<rootDir>/src', ...(groups ? [groups] : [])],
  testMatch: [groups ? `${groups}/*.test.mjs` : '<rootDir>/src/**/*.test.ts'],
  setupFilesAfterEnv: ['<rootDir>/src/testing/setup.ts'],
  globalSetup: '<rootDir>/../tools/jest-packages.mjs',
  resolver: '<rootDir>/../tools/jest-packages-resolver.cjs',
  moduleNameMapper: { '^@hurrel/core$': '<rootDir>/../.cache/jest/core.mjs' },
  // What hangs is ended; a slow machine is not.
  testTimeout: 60_000,
  maxWorkers: 2,
};
