import { defineConfig } from '@playwright/test'
import { chromiumLaunch } from './tests/chromium'
// Named once, before there are workers.
import './tests/e2e/seeds-folder'

const LONG =
  /\/(?:several-receivers|going-online|hand-over|hand-over-kills|any-service|dev|presses|rehearsal|verdicts|lists|mail)\.spec\.ts$/

/** End-to-end tests: the real screens in Chromium against the real receiver and stand-ins, as built. */
export default defineConfig({
  testDir: 'tests/e2e',
  outputDir: 'dist/test-results',
  globalTeardown: './tests/e2e/seeds-folder.ts',
  // On two cores. With four the whole took as long, and rehearsals, which have a browser of their own, ran late.
  workers: 3,
  fullyParallel: true,
  // The longest begin first, so that none is waited for alone at the end.
  projects: [
    { name: 'long', testMatch: LONG },
    { name: 'others', testIgnore: LONG },
  ],
  // What passes only then is listed as flaky: scripts/test-report.mjs.
  retries: 1,
  timeout: 240_000,
  // Nothing waits this long; a machine busy with other work may.
  expect: { timeout: 60_000 },
  reporter: process.env.ASKBOX_E2E_REPORT
    ? [['line'], ['json', { outputFile: process.env.ASKBOX_E2E_REPORT }]]
    : 'line',
  use: {
    actionTimeout: 60_000,
    viewport: { width: 1280, height: 800 },
    // The workshop's would fetch all of it at each first visit; a test of it lets it in.
    serviceWorkers: 'block',
    // Nothing is waited for that only moves.
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: chromiumLaunch,
    screenshot: 'only-on-failure',
  },
})
