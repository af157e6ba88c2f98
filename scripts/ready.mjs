import { spawn, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { once } from 'node:events'
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'

/** Everything here needs nothing but Node: it runs before anything is installed. */
export const root = resolve(import.meta.dirname, '..')

/** Installs the dependencies when the lock file has changed since they were last installed. */
export function installDependencies() {
  const stamp = join(root, 'node_modules/.askbox-installed')
  const wanted = digest([join(root, 'package-lock.json')])
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return
  console.log('Installing what Ask Box needs (once) …')
  // Building needs them too, also on a server where NODE_ENV says production.
  run('npm', ['install', '--include=dev', '--no-audit', '--no-fund', '--loglevel=error'])
  writeFileSync(stamp, wanted)
}

/** Builds workshop and servers when a source has changed since the last build. */
export async function build() {
  const stamp = join(root, 'dist/.askbox-built')
  const configurations = ['', 'server.', 'visitors.', 'fetched.'].map((name) => join(root, `vite.${name}config.ts`))
  const wanted = digest([
    ...filesBelow(join(root, 'src')).filter((file) => !file.endsWith('.test.ts')),
    // The help is built in, with its pictures.
    ...filesBelow(join(root, 'docs/help')),
    ...filesBelow(join(root, 'docs/screenshots')),
    join(root, 'package-lock.json'),
    ...configurations,
  ])
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return
  console.log('Building …')
  rmSync(stamp, { force: true })
  const [workshop, server, visitors, fetched] = configurations.map(
    (file) =>
      (mode = 'production') =>
        runBeside(tool('vite'), ['build', '--config', file, '--mode', mode, '--logLevel', 'warn']),
  )
  // What is fetched lies beside the visitors' script, in a folder that this one empties.
  const besideScript = () => Promise.all([fetched(), fetched('rules'), fetched('place')])
  await Promise.all([workshop(), server(), visitors().then(besideScript)])
  mkdirSync(join(root, 'dist'), { recursive: true })
  writeFileSync(stamp, wanted)
}

/** Path of a Chromium that is there, or that was just installed from Debian's packages. */
export function findChromium() {
  // The headless shell is the same Chromium without windows around its pages: it takes three quarters of the time.
  const found = () =>
    [
      process.env.CHROMIUM,
      '/usr/bin/chromium-headless-shell',
      '/usr/bin/chromium',
      '/usr/bin/chromium-browser',
      '/usr/bin/google-chrome',
    ].find((path) => path && existsSync(path))
  if (found() === undefined) {
    console.log('Installing Chromium from Debian’s packages (once) …')
    updatePackages()
    // Not every release has it apart; where it has, the whole browser is not needed.
    spawnSync(...installCommand('chromium-headless-shell'), { cwd: root, stdio: 'ignore', ...withoutQuestions })
    if (found() === undefined) run(...installCommand('chromium'), withoutQuestions)
  }
  const path = found()
  if (path === undefined) throw new Error('No Chromium found. Install it, or set CHROMIUM to its path.')
  return path
}

/** Installs Debian's `postgresql` where it is missing: tests of the store start a server of their own from it. */
export function installPostgres() {
  const isThere = () => existsSync(POSTGRES_VERSIONS) && readdirSync(POSTGRES_VERSIONS).length > 0
  if (isThere()) return
  console.log('Installing PostgreSQL from Debian’s packages (once) …')
  updatePackages()
  run(...installCommand('postgresql'), withoutQuestions)
  if (!isThere()) throw new Error(`No PostgreSQL found below ${POSTGRES_VERSIONS}.`)
}

const POSTGRES_VERSIONS = '/usr/lib/postgresql'

const withoutQuestions = { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } }

const sudo = process.getuid?.() === 0 ? [] : ['sudo']

function updatePackages() {
  run(...asCommand([...sudo, 'apt-get', 'update', '-qq']), withoutQuestions)
}

function installCommand(name) {
  return asCommand([...sudo, 'apt-get', 'install', '-y', '-qq', '--no-install-recommends', name])
}

/** Path of a program that was installed with the dependencies; asking npm to start it takes longer than some of them run. */
export const tool = (name) => join(root, 'node_modules/.bin', name)

/** Runs a command in the project's folder and stops everything when it fails. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'], ...options })
  if (error) throw error
  if (status !== 0) giveUp(command, args, status)
}

/** The same, beside others. */
async function runBeside(command, args) {
  const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] })
  const [status] = await once(child, 'close')
  if (status !== 0) giveUp(command, args, status)
}

function giveUp(command, args, status) {
  console.error(`“${command} ${args.join(' ')}” failed.`)
  process.exit(status ?? 1)
}

function asCommand([command, ...args]) {
  return [command, args]
}

function digest(files) {
  const hash = createHash('sha256')
  for (const file of files.sort()) hash.update(file.slice(root.length)).update('\0').update(readFileSync(file))
  return hash.digest('hex')
}

function filesBelow(folder) {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    return statSync(path).isDirectory() ? filesBelow(path) : [path]
  })
}
