import { cpSync, createWriteStream, existsSync, mkdirSync, renameSync, rmSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { fail, ownersSide } from './owners-side.mjs'
import { root } from './ready.mjs'

/**
 * `npm run backup -- <folder>`: a whole, consistent copy of a running receiver's store and its gifts, in a folder of its own
 * named after the moment. Settings as for the receiver: ASKBOX_DATA, ASKBOX_PORT, ASKBOX_HOST, ASKBOX_KEY.
 */
const [target] = process.argv.slice(2)
if (target === undefined) fail('Say where the copy is to go: npm run backup -- /path/to/folder')
const data = resolve(process.env.ASKBOX_DATA || join(root, 'data/receiver'))
const { ask } = ownersSide(data)
process.umask(0o077)

const folder = join(resolve(target), `askbox-${new Date().toISOString().slice(0, 19).replaceAll(':', '-')}`)
if (existsSync(folder)) fail(`${folder} is there already.`)
const unfinished = `${folder}.unfinished`
try {
  mkdirSync(unfinished, { recursive: true })
  const response = await ask('GET', '/api/backup')
  await pipeline(Readable.fromWeb(response.body), createWriteStream(join(unfinished, 'askbox.sqlite')))
  // Gifts are named after their bytes and never change, so they can be copied beside a running receiver.
  if (existsSync(join(data, 'gifts'))) cpSync(join(data, 'gifts'), join(unfinished, 'gifts'), { recursive: true })
  renameSync(unfinished, folder)
  console.log(`Copied to ${folder}`)
} catch (error) {
  rmSync(unfinished, { recursive: true, force: true })
  fail(error.message)
}
