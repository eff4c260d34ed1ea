/** One project a kind of test; `tools/test.ts` runs them all. */

/** @type {[string, object]} */
const swc = ['@swc/jest', { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'commonjs' } }]

/** @type {import('jest').Config} */
const shared = {
  testEnvironment: 'node',
  transform: { '^.+\\.ts$': swc },
  // Tests run as CommonJS; D3 names its ECMAScript modules first, and its scripts beside them.
  moduleNameMapper: { '^(d3-[a-z-]+)$': '<rootDir>/node_modules/$1/dist/$1.js', '^internmap$': '<rootDir>/node_modules/internmap/dist/internmap.js' },
  modulePathIgnorePatterns: ['<rootDir>/.data/', '<rootDir>/build/'],
}

const project = (/** @type {string} */ displayName, /** @type {string} */ rooms) => ({ ...shared, displayName, testMatch: [`<rootDir>/${rooms}/**/*.test.ts`] })

/** @type {import('jest').Config} */
export default {
  projects: [
    project('core', '{core,contract,interchange,cli,demo}'),
    // Its stores come as ECMAScript modules alone.
    { ...project('web', 'web'), transform: { ...shared.transform, '(pinia|nostics|devtools).+\\.m?js$': swc }, transformIgnorePatterns: ['/node_modules/(?!(pinia|nostics|@vue/devtools-[a-z]+)/)'] },
    // Threads take their time to start on a busy machine.
    { ...project('server', '{server,tools,faults}'), setupFilesAfterEnv: ['<rootDir>/server/testing/patience.ts'] },
    // A browser, a server and a database take their time on a busy machine.
    { ...project('e2e', 'e2e'), setupFilesAfterEnv: ['<rootDir>/e2e/testing/patience.ts'] },
  ],
}
