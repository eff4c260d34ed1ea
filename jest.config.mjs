/** One project a kind of test; `tools/test.ts` runs them all. @type {import('jest').Config} */
const shared = {
  testEnvironment: 'node',
  transform: {
    '^.+\\.ts$': ['@swc/jest', { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'commonjs' } }],
  },
  extensionsToTreatAsEsm: [],
  modulePathIgnorePatterns: ['<rootDir>/.data/', '<rootDir>/build/'],
}

export default {
  projects: [
    { ...shared, displayName: 'core', testMatch: ['<rootDir>/{core,contract,interchange,demo,tools}/**/*.test.ts'] },
    { ...shared, displayName: 'web', testMatch: ['<rootDir>/web/**/*.test.ts'] },
    { ...shared, displayName: 'server', testMatch: ['<rootDir>/server/**/*.test.ts'] },
    { ...shared, displayName: 'e2e', testMatch: ['<rootDir>/e2e/**/*.test.ts'] },
  ],
}
