import { spawnSync } from 'node:child_process'
import { build, findChromium, installDependencies, installPostgres, root, tool } from './ready.mjs'

/**
 * `npm run endure`: what takes too long for any run of the tests, with its figures: programs killed a hundred times and
 * more, database servers crashed and replaced, all presses by all ways, a thousand invented pages. `-- kills pages` for
 * parts of it.
 */
installDependencies()
const environment = { CHROMIUM: findChromium(), ASKBOX_RUN: 'endure' }
installPostgres()

const screens = (...args) => [tool('playwright'), ['test', '--retries=0', '--workers=1', ...args]]
const parts = {
  kills: screens('several-receivers', 'hand-over-kills', 'mail.spec', 'start.spec', '--grep=killed|crashed'),
  crashes: [
    tool('jest'),
    ['--maxWorkers=2', 'crash.test', 'hand-over.test', 'postgres.test', 'embedded.test', '-t', 'ended at|killed|kills'],
  ],
  properties: [tool('jest'), ['--maxWorkers=2', '-t', 'property']],
  presses: screens('presses'),
  table: screens('verdicts'),
  pages: [tool('tsx'), ['tests/verdicts/judge.ts', '--pages', '1000', '--only-generated']],
}

const wanted = process.argv.slice(2)
const unknown = wanted.filter((name) => !(name in parts))
if (unknown.length > 0) {
  console.error(`There is no part ${unknown.join(', ')}. There are: ${Object.keys(parts).join(', ')}.`)
  process.exit(1)
}
await build()
const outcomes = []
for (const [name, [command, args]] of Object.entries(parts)) {
  if (wanted.length > 0 && !wanted.includes(name)) continue
  const startedAt = Date.now()
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...environment } })
  if (status !== 0) process.exitCode = 1
  const minutes = ((Date.now() - startedAt) / 60_000).toFixed(1)
  outcomes.push(`${name}: ${status === 0 ? 'held' : 'failed'}, ${minutes} minutes`)
}
console.log(outcomes.join('\n'))
