import { readFileSync } from 'node:fs'
import { complain } from '../log'
import type { IncomingMessage, Server, ServerResponse } from 'node:http'

/** Descriptors for the store, mail, pages that are fetched, files that are read, and Node itself. */
const KEPT_BACK = 100
/** An answer is heard before its connection ends. */
const UNREAD_LASTS_MS = 1_000
const UNREAD_BYTES = 2 * 1024 * 1024
const SAID_AGAIN_AFTER_MS = 60_000

/**
 * Keeps connections within what this process may have open: more are shed at once, before they cost anything, and
 * the log says what to raise. A body that nobody reads ends with its answer, whatever its method.
 *
 * @param descriptors how many the process may have; null where that cannot be told
 */
export function guardConnections(
  http: Server,
  descriptors: number | null = openFileLimit(),
  say: (line: string) => void = complain,
): void {
  // An upload of the owner's may be large and slow; a sign-up has a shorter time of its own (see read-body.ts).
  http.requestTimeout = 120_000
  http.headersTimeout = 15_000
  if (descriptors !== null) http.maxConnections = Math.max(10, descriptors - KEPT_BACK)
  let saidAt = -Infinity
  http.on('drop', () => {
    if (performance.now() - saidAt < SAID_AGAIN_AFTER_MS) return
    saidAt = performance.now()
    say(
      `${http.maxConnections} connections are open, as many as ${descriptors} open files allow: more are turned away. Raise the limit of open files (LimitNOFILE= of the service, or ulimit -n).`,
    )
  })
  http.on('request', (incoming: IncomingMessage, outgoing: ServerResponse) => {
    if (incoming.headers['transfer-encoding'] === undefined && !(Number(incoming.headers['content-length']) > 0)) return
    outgoing.once('close', () => {
      if (incoming.complete) return
      // Node reads on to nowhere, and tells of no data; so it is looked how much came.
      const { socket } = incoming
      const [begun, before] = [performance.now(), socket.bytesRead]
      const timer = setInterval(() => {
        const isOver = performance.now() - begun > UNREAD_LASTS_MS || socket.bytesRead - before > UNREAD_BYTES
        if (isOver && !incoming.complete) socket.destroy()
        if (isOver || incoming.complete) clearInterval(timer)
      }, 20)
      timer.unref()
    })
  })
}

/** How many descriptors this process may have, where the system tells (Linux, proc(5)). */
function openFileLimit(): number | null {
  try {
    const limit = /^Max open files\s+(\d+)/m.exec(readFileSync('/proc/self/limits', 'utf8'))?.[1]
    return limit === undefined ? null : Number(limit)
  } catch {
    return null
  }
}
