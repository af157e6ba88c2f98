import { spawnSync } from 'node:child_process'
import { mkdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { build, findChromium, installDependencies, root, run } from './ready.mjs'

/** `npm test`: types, lint, unit and end-to-end tests. The last line counts them all. */
installDependencies()
const chromium = findChromium()
build()
console.log('Types and lint …')
run('npm', ['run', '--silent', 'types'])
run('npm', ['run', '--silent', 'lint'])

const reports = join(root, 'dist/reports')
mkdirSync(reports, { recursive: true })
const unitReport = join(reports, 'unit.json')
const e2eReport = join(reports, 'e2e.json')
const unit = spawn('npx', ['jest', '--json', `--outputFile=${unitReport}`])
const e2e = spawn('npx', ['playwright', 'test'], { CHROMIUM: chromium, ASKBOX_E2E_REPORT: e2eReport })

const units = JSON.parse(readFileSync(unitReport, 'utf8'))
const { stats } = JSON.parse(readFileSync(e2eReport, 'utf8'))
const passed = units.numPassedTests + stats.expected
const failed = units.numFailedTests + units.numRuntimeErrorTestSuites + stats.unexpected + stats.flaky
if (unit !== 0 || e2e !== 0 || failed > 0 || passed === 0) process.exitCode = 1
console.log(`${passed} passed, ${failed} failed`)

function spawn(command, args, environment = {}) {
  return spawnSync(command, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, ...environment } }).status
}
