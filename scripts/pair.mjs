import { existsSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { fail, ownersSide } from './owners-side.mjs'
import { root } from './ready.mjs'

/**
 * `npm run pair`: prints an address that connects one more browser to the running receiver; it works once. Settings as for
 * the receiver: ASKBOX_DATA, ASKBOX_PORT, ASKBOX_HOST, ASKBOX_KEY.
 */
const folders = process.env.ASKBOX_DATA
  ? [process.env.ASKBOX_DATA]
  : ['data/receiver', 'data/demo'].map((one) => join(root, one))
const data = folders.find((folder) => existsSync(join(folder, 'owner.key'))) ?? folders[0]
try {
  const response = await ownersSide(resolve(data)).ask('POST', '/api/keys/pairing')
  console.log((await response.json()).address)
} catch (error) {
  fail(error.message)
}
