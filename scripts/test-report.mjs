/**
 * What Jest's and Playwright's reports come to. Flaky is a test that failed and passed when it was tried once more: it is
 * named, counts as passed, and fails nothing.
 *
 * @param units Jest's report, as `--json` writes it
 * @param screens Playwright's, as its JSON reporter writes it
 * @returns {{ passed: number, failed: number, flaky: string[], skipped: string[] }} numbers of tests, and the names of those that were flaky, or could not be run on this machine
 */
export function summaryOf(units, screens) {
  const { expected, unexpected, flaky } = screens.stats
  return {
    // Playwright counts its flaky ones apart, Jest among those that passed.
    passed: units.numPassedTests + expected + flaky,
    failed: units.numFailedTests + units.numRuntimeErrorTestSuites + unexpected + (screens.errors?.length ?? 0),
    flaky: [...flakyUnits(units), ...screensOf('flaky', screens.suites)],
    skipped: [
      ...units.testResults.flatMap(({ assertionResults }) =>
        assertionResults
          .filter(({ status }) => status === 'pending' || status === 'todo')
          .map(({ fullName }) => fullName),
      ),
      ...screensOf('skipped', screens.suites),
    ],
  }
}

function flakyUnits({ testResults }) {
  return testResults.flatMap(({ name, assertionResults }) =>
    assertionResults
      .filter(({ status, invocations }) => status === 'passed' && invocations > 1)
      .map(({ fullName }) => `${name.replace(/^.*?\/(?=(?:src|demo)\/)/, '')}: ${fullName}`),
  )
}

function screensOf(wanted, suites = []) {
  return suites.flatMap(({ specs = [], suites: inner }) => [
    ...specs
      .filter(({ tests }) => tests.some(({ status }) => status === wanted))
      .map(({ file, line, title }) => `tests/e2e/${file}:${line}: ${title}`),
    ...screensOf(wanted, inner),
  ])
}
