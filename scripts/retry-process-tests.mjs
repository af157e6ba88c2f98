// Tests of processes, sockets and files depend on the machine: they are tried once more. What passes only then is listed
// as flaky (scripts/test-report.mjs). Computation passes at once or is wrong.
if (/\/src\/(?:receiver|standins)\//.test(expect.getState().testPath ?? ''))
  jest.retryTimes(1, { logErrorsBeforeRetry: true })
