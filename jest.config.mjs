const swc = [
  '@swc/jest',
  { jsc: { parser: { syntax: 'typescript', tsx: true }, target: 'es2022', transform: { react: { runtime: 'automatic' } } }, module: { type: 'es6' } },
];

export default {
  testEnvironment: 'node',
  // Simulated hours run slowly inside Jest's module sandbox; no test is about time.
  testTimeout: 120_000,
  testMatch: ['<rootDir>/src/**/*.test.ts', '<rootDir>/tests/reference/**/*.test.ts'],
  transform: { '^.+\\.tsx?$': swc },
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
};
