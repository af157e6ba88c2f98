import { resolve } from 'node:path'
import { createInterface } from 'node:readline/promises'
import { Writable } from 'node:stream'
import { fail, ownersSide } from './owners-side.mjs'

/**
 * `npm run move -- <from> <to>`: moves the store of the running receiver to the other engine, while sign-ups go on. Each is a
 * data folder, or the address of a PostgreSQL database (`postgres://…`) without its password, which PGPASSWORD holds, or which
 * is asked for: what stands on a command line can be read by every user of the computer. Settings as for the receiver:
 * ASKBOX_PORT, ASKBOX_HOST, ASKBOX_KEY. Afterwards start it with the new setting; what was left stays where it is, as it was.
 */
const [from, to] = process.argv.slice(2)
if (from === undefined || to === undefined)
  fail('Say from where and to where: npm run move -- /var/lib/askbox postgres://user@host/database')
const hasPassword = (place) => /^[a-z]+:\/\/[^/?#@]*:[^/?#@]*@/.test(place) || /[?&]password=/i.test(place)
/** Several hosts are no URL, so the password is put in as text. An address without a user has none. */
async function withPassword(address) {
  const [, beginning, rest] = /^([a-z]+:\/\/[^/?#@:]+)(@.*)$/.exec(address) ?? []
  if (beginning === undefined) return address
  const password = process.env.PGPASSWORD ?? (await typedPassword())
  return password === '' ? address : `${beginning}:${encodeURIComponent(password)}${rest}`
}
/** Not shown while it is typed; a line of standard input where nobody types. */
async function typedPassword() {
  if (process.stdin.isTTY) process.stdout.write('Password of the database (empty for none): ')
  const unseen = new Writable({ write: (_, __, done) => done() })
  const lines = createInterface({ input: process.stdin, output: unseen, terminal: process.stdin.isTTY === true })
  const line = await new Promise((done) => lines.once('line', done).once('close', () => done('')))
  lines.close()
  if (process.stdin.isTTY) process.stdout.write('\n')
  return line
}
const isAddress = (place) => /^postgres(ql)?:\/\//.test(place)
if (isAddress(from) === isAddress(to)) fail('One of both is a data folder, the other the address of a database.')
if ([from, to].some((place) => isAddress(place) && hasPassword(place)))
  fail(
    'Leave the password out of the address: every user of this computer could read it. Put it into PGPASSWORD, or type it when you are asked.',
  )
const { ask } = ownersSide(isAddress(from) ? resolve(to) : resolve(from))
try {
  await ask('POST', '/api/move', { to: isAddress(to) ? await withPassword(to) : resolve(to) })
  let said = ''
  for (;;) {
    const state = await (await ask('GET', '/api/move')).json()
    if (state.state === 'failed') fail(`Not moved, and nothing is changed: ${state.said}`)
    if (state.state === 'moved') {
      const seconds = (ms) => (ms / 1000).toFixed(1)
      console.log(
        `Moved to ${state.to} in ${seconds(state.tookMs)} s; writes were held up for ${seconds(state.heldMs)} s. Both journals have the same marks.`,
      )
      console.log(
        isAddress(to)
          ? 'The receiver works with it from now on. Set DATABASE_URL and ASKBOX_KEY before it is started the next time.'
          : 'The receiver works with it from now on. Set ASKBOX_DATA to that folder and take DATABASE_URL away before it is started the next time.',
      )
      break
    }
    const line = state.state === 'moving' ? `${state.doing} ${state.table} ${state.rows}`.trim() : state.state
    if (line !== said && process.stdout.isTTY) console.log(line)
    said = line
    await new Promise((done) => setTimeout(done, 200))
  }
} catch (error) {
  fail(error.message)
}
