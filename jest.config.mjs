export default {
  testEnvironment: 'node',
  // Simulated hours take a while; no test is about time.
  testTimeout: 120_000,
  testMatch: ['<rootDir>/src/**/*.test.ts', '<rootDir>/tests/reference/**/*.test.ts'],
  setupFiles: ['<rootDir>/scripts/jest-setup.mjs'],
  transform: { '^.+\\.tsx?$': '<rootDir>/scripts/jest-transform.mjs' },
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
};
