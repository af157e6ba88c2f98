import { existsSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { fail, ownersSide } from './owners-side.mjs'
import { root } from './ready.mjs'

/**
 * `npm run pair`: prints an address that connects one more browser to the running receiver; it works once. Settings as for
 * the receiver: ASKBOX_DATA, ASKBOX_PORT, ASKBOX_HOST, ASKBOX_KEY.
 *
 * `npm run pair -- --name Anna --right editor` (or `reader`, with `--people` to show names and addresses) says whose it is
 * and what it allows; without, everything.
 */
const { values } = parseArgs({
  options: {
    name: { type: 'string', default: '' },
    right: { type: 'string', default: 'owner' },
    people: { type: 'boolean', default: false },
  },
})
if (!['owner', 'editor', 'reader'].includes(values.right)) fail('--right must be owner, editor or reader.')
const grant = { name: values.name, right: values.right, seesPeople: values.people || values.right !== 'reader' }
const usual = ['data/receiver', 'data/demo'].map((one) => join(root, one))
const named = process.env.ASKBOX_DATA ? [process.env.ASKBOX_DATA] : usual
// The key of whichever runs: a computer may have data of both.
const withKey = named.filter((folder) => existsSync(join(folder, 'owner.key')))
let problem = null
for (const folder of withKey.length > 0 ? withKey : named.slice(0, 1)) {
  try {
    const response = await ownersSide(resolve(folder)).ask('POST', '/api/keys/pairing', grant)
    console.log((await response.json()).address)
    process.exit(0)
  } catch (error) {
    problem = error
  }
}
fail(problem.message)
