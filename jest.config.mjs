export default {
  testEnvironment: 'node',
  roots: ['<rootDir>/src', '<rootDir>/tests', '<rootDir>/cli'],
  testMatch: ['**/*.test.ts'],
  testPathIgnorePatterns: ['/node_modules/', '<rootDir>/tests/browser/'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
  transform: {
    '^.+\\.tsx?$': [
      '@swc/jest',
      {
        jsc: { target: 'es2022', parser: { syntax: 'typescript', tsx: true } },
        module: { type: 'es6' },
      },
    ],
  },
  globalSetup: '<rootDir>/tests/support/begin-run.ts',
  globalTeardown: '<rootDir>/tests/support/end-run.ts',
  maxWorkers: 2,
  testTimeout: 120000,
};
