import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { root } from './ready.mjs'

/**
 * Starts one of the built programs and resolves with the address it says it is ready at. A program that
 * ends before is an error; one that ends later takes the others with it.
 */
export function startProgram(name, args, environment) {
  const child = spawn(process.execPath, [join(root, `dist/server/${name}.js`), ...args], {
    cwd: root,
    env: { ...process.env, ...environment },
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  let heard
  /** Which browser a receiver found for its rehearsals, in words. */
  const browser = new Promise((resolve) => (heard = resolve))
  const ready = new Promise((resolve, reject) => {
    let said = ''
    child.stdout.on('data', (chunk) => {
      said += chunk
      const address = /^ready (\S+)$/m.exec(said)?.[1]
      if (address) resolve(address)
      const found = /^browser (.+)$/m.exec(said)?.[1]
      if (found) heard(found)
    })
    child.once('exit', (code) => reject(Object.assign(new Error(`${name} ended`), { code: code ?? 1 })))
  })
  return { child, ready, browser }
}

/** Ends all programs when one of them ends or when somebody presses Ctrl+C. The first failure is the one that is told. */
export function endTogether(children) {
  let isEnding = false
  const end = (code) => {
    if (!isEnding) process.exitCode = code
    isEnding = true
    for (const child of children) child.kill('SIGTERM')
  }
  for (const child of children) child.once('exit', (code) => end(code ?? 1))
  process.once('SIGINT', () => end(0))
  process.once('SIGTERM', () => end(0))
}
