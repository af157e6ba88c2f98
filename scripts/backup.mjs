import {
  cpSync,
  createWriteStream,
  existsSync,
  mkdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs'
import { join, resolve } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { root } from './ready.mjs'

/**
 * `npm run backup -- <folder>`: a whole, consistent copy of a running receiver's store, its key and its gifts, in a folder of its own
 * named after the moment. Settings as for the receiver: ASKBOX_DATA, ASKBOX_PORT, ASKBOX_HOST, ASKBOX_KEY.
 */
const [target] = process.argv.slice(2)
if (target === undefined) fail('Say where the copy is to go: npm run backup -- /path/to/folder')
const data = resolve(process.env.ASKBOX_DATA || join(root, 'data/receiver'))
const key = process.env.ASKBOX_KEY || readKey(join(data, 'owner.key'))
const host = process.env.ASKBOX_HOST || '127.0.0.1'
const address = `http://${host.includes(':') ? `[${host}]` : host}:${process.env.ASKBOX_PORT || 4310}/api/backup`
process.umask(0o077)

const folder = join(resolve(target), `askbox-${new Date().toISOString().slice(0, 19).replaceAll(':', '-')}`)
if (existsSync(folder)) fail(`${folder} is there already.`)
const unfinished = `${folder}.unfinished`
try {
  mkdirSync(unfinished, { recursive: true })
  const response = await fetch(address, { headers: { Authorization: `Bearer ${key}` } }).catch(() => null)
  if (response === null) throw new Error(`No receiver answers at ${address}. It has to be running.`)
  if (!response.ok) throw new Error(`The receiver answered ${response.status}: ${(await response.json()).detail ?? ''}`)
  await pipeline(Readable.fromWeb(response.body), createWriteStream(join(unfinished, 'askbox.sqlite')))
  writeFileSync(join(unfinished, 'owner.key'), `${key}\n`)
  // Gifts are named after their bytes and never change, so they can be copied beside a running receiver.
  if (existsSync(join(data, 'gifts'))) cpSync(join(data, 'gifts'), join(unfinished, 'gifts'), { recursive: true })
  renameSync(unfinished, folder)
  console.log(`Copied to ${folder}`)
} catch (error) {
  rmSync(unfinished, { recursive: true, force: true })
  fail(error.message)
}

function readKey(file) {
  try {
    return readFileSync(file, 'utf8').trim()
  } catch {
    return fail(`No key in ${file}. Set ASKBOX_DATA to the receiver’s data folder, or ASKBOX_KEY to its key.`)
  }
}

function fail(message) {
  console.error(message)
  process.exit(2)
}
