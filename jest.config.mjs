/** Core and server: plain TypeScript, compiled by swc (types are checked in a stage of their own). */
export default {
  roots: ['<rootDir>/core/src', '<rootDir>/server/src', '<rootDir>/tools'],
  testMatch: ['**/*.test.ts', '**/*.test.mjs'],
  testEnvironment: 'node',
  extensionsToTreatAsEsm: [],
  transform: {
    '^.+\\.(ts|mjs)$': [
      '@swc/jest',
      { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'commonjs' } },
    ],
  },
  moduleNameMapper: { '^@hurrel/core$': '<rootDir>/core/src/index.ts' },
  maxWorkers: 2,
};
