/** @type {import('jest').Config} */
export default {
  testEnvironment: 'node',
  roots: ['<rootDir>/src', '<rootDir>/tests', '<rootDir>/cli'],
  testMatch: ['**/*.test.ts'],
  testPathIgnorePatterns: ['/node_modules/', '<rootDir>/tests/browser/'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
  transform: { '^.+\\.tsx?$': '<rootDir>/tests/support/fast-globals.cjs' },
  globalSetup: '<rootDir>/tests/support/begin-run.ts',
  globalTeardown: '<rootDir>/tests/support/end-run.ts',
  testSequencer: '<rootDir>/tests/support/longest-first.cjs',
  maxWorkers: 2,
  testTimeout: 120000,
};
