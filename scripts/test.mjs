import { spawn } from 'node:child_process'
import { randomInt } from 'node:crypto'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { specs } from '../tests/e2e/specs.mjs'
import { changedPaths, chosenTests, listedTests, testListLine } from './choose-tests.mjs'
import { build, findChromium, installDependencies, installPostgres, root, tool } from './ready.mjs'
import { summaryOf } from './test-report.mjs'

/**
 * `npm test`: types, lint, unit and end-to-end tests, of tables and of screens a share that the seed chooses;
 * `npm test -- --all` has all of them. The last line counts those that were run.
 */
const isWhole = process.argv.includes('--all')
installDependencies()
const chromium = findChromium()
installPostgres()
const seed = process.env.ASKBOX_SEED ?? String(randomInt(10_000))
console.log(`Seed ${seed}: ASKBOX_SEED=${seed} chooses the same parts${isWhole ? ' of the longest tables' : ''} again.`)
const reports = join(root, 'dist/reports')
mkdirSync(reports, { recursive: true })
const unitReport = join(reports, 'unit.json')
const e2eReport = join(reports, 'e2e.json')

// All at once: each fills what the others leave of two cores while they wait for something.
console.log('Building, and unit tests …')
const unit = start(tool('jest'), ['--maxWorkers=2', '--json', `--outputFile=${unitReport}`])
await build()
console.log('End-to-end tests, types and lint …')
const codes = await Promise.all([
  unit,
  // One less than alone: the units work beside them.
  start(tool('playwright'), ['test', '--workers=2', ...(isWhole ? [] : ['--test-list', await listOfThisRun()])], {
    CHROMIUM: chromium,
    ASKBOX_E2E_REPORT: e2eReport,
  }),
  start('nice', ['npm', 'run', '--silent', 'types']),
  start('nice', ['npm', 'run', '--silent', 'lint']),
])
if (codes[2] !== 0) console.error('The types do not hold.')
if (codes[3] !== 0) console.error('The linter found something.')

const units = JSON.parse(readFileSync(unitReport, 'utf8'))
const screens = JSON.parse(readFileSync(e2eReport, 'utf8'))
const { passed, failed, flaky, skipped } = summaryOf(units, screens)
// A command may fail where no test does: at types, at a report that could not be written.
if (codes.some((code) => code !== 0) || failed > 0 || passed === 0) process.exitCode = 1
if (flaky.length > 0) console.log(`Flaky, passed when tried again:\n${flaky.map((name) => `  ${name}`).join('\n')}`)
if (skipped.length > 0) console.log(`Not run here:\n${skipped.map((name) => `  ${name}`).join('\n')}`)
console.log(`${passed} passed, ${failed} failed`)

/** Runs a command beside others; resolves with its exit code. */
function start(command, args, environment = {}, output = 'inherit') {
  const child = spawn(command, args, {
    cwd: root,
    stdio: ['ignore', output, 'inherit'],
    env: { ...process.env, ASKBOX_SEED: seed, ...(isWhole && { ASKBOX_RUN: 'whole' }), ...environment },
  })
  return new Promise((resolve) => child.once('close', resolve))
}

/** Writes down which end-to-end tests this run has; resolves with the file. */
async function listOfThisRun() {
  const found = join(reports, 'e2e-list.json')
  const environment = { CHROMIUM: chromium, PLAYWRIGHT_JSON_OUTPUT_FILE: found }
  // It would print all of them.
  const code = await start(tool('playwright'), ['test', '--list', '--reporter=json'], environment, 'ignore')
  if (code !== 0) throw new Error('The end-to-end tests cannot be listed.')
  const all = listedTests(JSON.parse(readFileSync(found, 'utf8')))
  const chosen = chosenTests(all, Number(seed), changedPaths(root), specs)
  console.log(`${chosen.length} of ${all.length} end-to-end tests.`)
  const file = join(reports, 'e2e-chosen.txt')
  writeFileSync(file, chosen.map(testListLine).join('\n'))
  return file
}
