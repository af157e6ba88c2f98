import { copyFileSync, cpSync, existsSync, mkdirSync, renameSync, rmSync } from 'node:fs'
import { join, resolve } from 'node:path'
import Database from 'libsql'
import { root } from './ready.mjs'

/**
 * `npm run restore -- <folder of a backup>`: puts a copy in the place of a receiver's store. The receiver has to be
 * stopped. What was there is moved aside, never taken away.
 */
const [source] = process.argv.slice(2)
if (source === undefined) fail('Say which copy: npm run restore -- /path/to/askbox-2026-01-02T03-04-05')
const from = resolve(source)
const data = resolve(process.env.ASKBOX_DATA || join(root, 'data/receiver'))
process.umask(0o077)
if (!existsSync(join(from, 'askbox.sqlite'))) fail(`${from} has no askbox.sqlite: it is no backup.`)
// Older copies have the key of the computer that they were made on. Without one, a start makes one; browsers have theirs in the store.
const files = ['askbox.sqlite', 'owner.key', 'newest.json'].filter((name) => existsSync(join(from, name)))
const count = checked(join(from, 'askbox.sqlite'))

const file = join(data, 'askbox.sqlite')
if (existsSync(file) && isInUse(file)) fail(`The receiver with the data folder ${data} is running. Stop it first.`)
const aside = existsSync(data) ? `${data}.before-${new Date().toISOString().slice(0, 19).replaceAll(':', '-')}` : null
if (aside !== null) renameSync(data, aside)
try {
  mkdirSync(data, { recursive: true })
  for (const name of files) copyFileSync(join(from, name), join(data, name))
  if (existsSync(join(from, 'gifts'))) cpSync(join(from, 'gifts'), join(data, 'gifts'), { recursive: true })
} catch (error) {
  rmSync(data, { recursive: true, force: true })
  if (aside !== null) renameSync(aside, data)
  fail(`The copy could not be put there: ${error.message}. What was there stands there still.`)
}
console.log(
  `${count} entries restored to ${data}.${aside === null ? '' : ` What was there is in ${aside}.`} Browsers that were connected then are so still; a start prints an address for another.`,
)

/** How many entries a whole copy has. */
function checked(copy) {
  let database
  try {
    database = new Database(copy, { readonly: true })
    const [{ integrity_check: verdict }] = database.prepare('PRAGMA integrity_check').all([])
    if (verdict !== 'ok') throw new Error(verdict)
    return database.prepare('SELECT count(*) AS count FROM journal').get([]).count
  } catch (error) {
    return fail(`The copy is damaged: ${error.message}.`)
  } finally {
    database?.close()
  }
}

/** A running receiver holds its store alone. */
function isInUse(store) {
  let database
  try {
    database = new Database(store)
    database.exec('BEGIN IMMEDIATE; ROLLBACK;')
    return false
  } catch (error) {
    return error.code === 'SQLITE_BUSY'
  } finally {
    database?.close()
  }
}

function fail(message) {
  console.error(message)
  process.exit(2)
}
