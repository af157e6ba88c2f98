import { readFileSync } from 'node:fs'
import { join } from 'node:path'

/**
 * The owner's side of the receiver that runs on this computer, for commands. Settings as for the receiver: ASKBOX_PORT,
 * ASKBOX_HOST, ASKBOX_KEY.
 *
 * @param {string} data its data folder, where the computer's own key lies
 */
export function ownersSide(data) {
  const key = process.env.ASKBOX_KEY || readKey(join(data, 'owner.key'))
  const host = process.env.ASKBOX_HOST || '127.0.0.1'
  const origin = `http://${host.includes(':') ? `[${host}]` : host}:${process.env.ASKBOX_PORT || 4310}`
  return {
    /** @throws Error in words, where it does not answer or says no */
    async ask(method, path, body) {
      const headers = { Authorization: `Bearer ${key}`, ...(body && { 'Content-Type': 'application/json' }) }
      const init = { method, headers, ...(body && { body: JSON.stringify(body) }) }
      const response = await fetch(origin + path, init).catch(() => null)
      if (response === null) throw new Error(`No receiver answers at ${origin}. It has to be running.`)
      if (!response.ok)
        throw new Error(`The receiver answered ${response.status}: ${(await response.json()).detail ?? ''}`)
      return response
    },
  }
}

function readKey(file) {
  try {
    return readFileSync(file, 'utf8').trim()
  } catch {
    return fail(`No key in ${file}. Set ASKBOX_DATA to the receiver’s data folder, or ASKBOX_KEY to its key.`)
  }
}

export function fail(message) {
  console.error(message)
  process.exit(2)
}
