import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readdirSync, renameSync, rmSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'

/** A web server's program, the folder of its modules, and what it needs to find its libraries. */
export interface WebServer {
  program: string
  modules: string
  environment: Record<string, string>
}

const folder = resolve(import.meta.dirname, '../dist/web-servers')
const packages = ['nginx', 'apache2-bin', 'libapr1', 'libaprutil1', 'libapr1t64', 'libaprutil1t64']

/**
 * Debian's nginx or Apache: the one that is installed, or its package unpacked into a folder of ours, so that nothing is
 * installed and no service starts. Null where neither can be had.
 */
export function findWebServer(name: 'nginx' | 'apache2'): WebServer | null {
  const installed = `/usr/sbin/${name}`
  if (existsSync(installed)) return { program: installed, modules: '/usr/lib/apache2/modules', environment: {} }
  const unpacked = join(folder, 'usr/sbin', name)
  if (!existsSync(unpacked)) unpack()
  if (!existsSync(unpacked)) return null
  const libraries = join(folder, 'usr/lib')
  const own = existsSync(libraries) ? readdirSync(libraries).filter((one) => one.endsWith('-linux-gnu')) : []
  return {
    program: unpacked,
    modules: join(folder, 'usr/lib/apache2/modules'),
    environment: { LD_LIBRARY_PATH: own.map((one) => join(libraries, one)).join(':') },
  }
}

/** In a folder of its own first: another test may be starting a program just when it is written. */
function unpack(): void {
  mkdirSync(dirname(folder), { recursive: true })
  const made = mkdtempSync(`${folder}-`)
  const run = (command: string, ...args: string[]) =>
    spawnSync(command, args, { cwd: made, stdio: 'ignore' }).status === 0
  if (!run('apt-get', 'download', 'nginx', 'apache2-bin')) {
    // A fresh machine knows no packages yet.
    run('apt-get', 'update', '-qq')
  }
  // Releases name the libraries differently; those that are not there are passed over.
  for (const one of packages) run('apt-get', 'download', one)
  for (const file of readdirSync(made).filter((name) => name.endsWith('.deb'))) run('dpkg', '-x', file, '.')
  try {
    renameSync(made, folder)
  } catch {
    // Another test was quicker.
    rmSync(made, { recursive: true, force: true })
  }
}
