import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { root, tool } from './ready.mjs'

/**
 * `npm run types`: each room by itself, with the declarations of those that it may import; what is known of a room is kept
 * below `node_modules/.cache/types`, so that a change is checked in seconds. Screens need `vue-tsc`, which runs on the
 * TypeScript before the native one.
 */
const native = join(root, 'node_modules/typescript-7/bin/tsc')
const rooms = [['src/core'], ['src/runtime', 'src/standins', 'src/receiver'], ['src/workshop'], ['tests']]
for (const together of rooms) {
  const codes = await Promise.all(together.map(check))
  if (codes.some((code) => code !== 0)) process.exit(1)
}

function check(room) {
  const checker = room === 'src/workshop' ? tool('vue-tsc') : native
  const child = spawn(checker, ['-p', join(root, room)], { cwd: root, stdio: 'inherit' })
  return new Promise((resolve) => child.once('close', resolve))
}
