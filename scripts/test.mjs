import { spawn } from 'node:child_process'
import { mkdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { build, findChromium, installDependencies, root } from './ready.mjs'

/** `npm test`: types, lint, unit and end-to-end tests. The last line counts them all. */
installDependencies()
const chromium = findChromium()
build()
const reports = join(root, 'dist/reports')
mkdirSync(reports, { recursive: true })
const unitReport = join(reports, 'unit.json')
const e2eReport = join(reports, 'e2e.json')

console.log('Types, lint and unit tests …')
const [types, lint, unit] = await Promise.all([
  start('npm', ['run', '--silent', 'types']),
  start('npm', ['run', '--silent', 'lint']),
  start('npx', ['jest', '--maxWorkers=2', '--json', `--outputFile=${unitReport}`]),
])
if (types !== 0 || lint !== 0) {
  console.error(types !== 0 ? 'The types do not hold.' : 'The linter found something.')
  process.exit(1)
}
const e2e = await start('npx', ['playwright', 'test'], { CHROMIUM: chromium, ASKBOX_E2E_REPORT: e2eReport })

const units = JSON.parse(readFileSync(unitReport, 'utf8'))
const { stats } = JSON.parse(readFileSync(e2eReport, 'utf8'))
const passed = units.numPassedTests + stats.expected
const failed = units.numFailedTests + units.numRuntimeErrorTestSuites + stats.unexpected + stats.flaky
if (unit !== 0 || e2e !== 0 || failed > 0 || passed === 0) process.exitCode = 1
console.log(`${passed} passed, ${failed} failed`)

/** Runs a command beside others; resolves with its exit code. */
function start(command, args, environment = {}) {
  const child = spawn(command, args, {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...environment },
  })
  return new Promise((resolve) => child.once('close', resolve))
}
