/** Unit tests stand beside the code; the screens are tested by Playwright (playwright.config.ts). */
export default {
  testEnvironment: 'node',
  // Beside what else is kept between runs.
  cacheDirectory: '<rootDir>/node_modules/.cache/jest',
  // Property tests share two cores with whatever else runs.
  // Nothing here waits for a time: a machine ten times slower passes as well.
  testTimeout: 240_000,
  setupFilesAfterEnv: ['<rootDir>/scripts/retry-process-tests.mjs'],
  testMatch: [
    '<rootDir>/src/**/*.test.ts',
    '<rootDir>/demo/**/*.test.ts',
    '<rootDir>/scripts/*.test.ts',
    '<rootDir>/tests/bench/*.test.ts',
  ],
  transform: {
    '^.+\\.ts$': ['@swc/jest', { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' } }],
    '^.+\\.m?js$': ['@swc/jest', { jsc: { target: 'es2022' } }],
  },
  // These packages are published as ES modules only; Jest runs CommonJS, so they are translated like our own code.
  transformIgnorePatterns: [
    '/node_modules/(?!(parse5|entities|tr46|pinia|nostics|css-select|css-what|boolbase|nth-check|domutils|domhandler|domelementtype|dom-serializer|urlpattern-polyfill|caniemail|htmlparser2|onetime|mimic-function|dot-prop|split-lines|style-to-object|inline-style-parser|mailauth|@bramus|@noble|url-template|oauth4webapi)/)',
  ],
  moduleNameMapper: {
    '^fast-check$': '<rootDir>/tests/fast-check.ts',
    // Exported for imports alone.
    '^@bramus/specificity/core$': '<rootDir>/node_modules/@bramus/specificity/src/core/index.js',
    '^(\\.{1,2}/.*)\\.js$': '$1',
  },
}
