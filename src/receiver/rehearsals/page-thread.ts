import { randomBytes } from 'node:crypto'
import { parentPort, workerData } from 'node:worker_threads'
import { spellId } from '#core/ids'
import { makeProof, NoAnswer } from '#core/rehearsal'
import type { FromPageThread, RehearsalTask, Remote, RemoteCall, ToPageThread } from './threaded-proof'

/**
 * The thread in which a rehearsal reads pages: whatever a page is made of, sign-ups are taken meanwhile. What it needs
 * of the world it asks of the thread that began it, which ends it where it thinks for too long.
 */
const { subject, cases, code, facts, zone, mailPatienceMs, hasFirefox } = workerData as RehearsalTask
const waiting = new Map<number, { resolve(result: unknown): void; reject(reason: unknown): void }>()
let asked = 0
const say = (message: FromPageThread) => parentPort!.postMessage(message)

parentPort!.on('message', ({ n, result, noAnswer, failed }: ToPageThread) => {
  const call = waiting.get(n)
  waiting.delete(n)
  if (noAnswer !== undefined) call?.reject(new NoAnswer(noAnswer))
  else if (failed !== undefined) call?.reject(new Error(failed))
  else call?.resolve(result)
})

const ask =
  <Name extends Remote>(name: Name) =>
  (...args: RemoteCall<Name>['args']): RemoteCall<Name>['result'] =>
    new Promise((resolve, reject) => {
      const n = (asked += 1)
      waiting.set(n, { resolve, reject })
      say({ kind: 'ask', n, name, args })
    }) as RemoteCall<Name>['result']

try {
  const proof = await makeProof(
    subject,
    cases,
    {
      now: () => performance.now(),
      code,
      unique: () => spellId(randomBytes(16)),
      fetch: ask('fetch'),
      send: ask('send'),
      member: ask('member'),
      mails: ask('mails'),
      download: ask('download'),
      handOn: ask('handOn'),
      expire: ask('expire'),
      // Told, so that resting is not taken for thinking.
      pause: ask('pause'),
      today: () => Date.now(),
      ...(mailPatienceMs !== undefined && { mailPatienceMs }),
      browser:
        zone === null
          ? null
          : { kind: 'visits', zone, hasFirefox: hasFirefox === true, visit: ask('visit'), read: ask('read') },
    },
    facts,
  )
  say({ kind: 'done', proof })
} catch (error) {
  say({ kind: 'failed', message: error instanceof Error ? error.message : String(error) })
}
parentPort!.close()
