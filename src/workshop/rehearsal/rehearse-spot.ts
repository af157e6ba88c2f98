import type { ProofId } from '#core/ids'
import type { Proof, RehearsalCase, Step, ViewerId } from '#core/proof'
import type { RehearsalSubject } from '#core/rehearsal'
import { clientFor, type Pairing } from '../client'
import { newId, now } from '../clock'
import type { FromRehearsal, ToRehearsal } from '../workers/rehearsal'
import { framesIn } from './frames'

/** More than the waits of a step in a frame add up to. */
const STEP_MS = 60_000
/** A step that goes on is waited for so long after “Stop”. */
const STOP_MS = 8_000

export interface SpotRehearsal {
  /** Rejects where it could not go on. */
  proof: Promise<Proof>
  /** After the step that is going on; what was seen until then is kept. */
  stop(): void
}

export interface Listener {
  /** With whether the receiver's browser opens its pages; else frames of this one do. */
  begun(hasBrowser: boolean): void
  step(step: Step): void
  /** A page is shown in a frame here. */
  framed(): void
  /** What the receiver's browser was shown last, as an address. */
  picture(viewer: ViewerId, address: string): void
}

/** Rehearses one spot in a worker of its own. */
export function rehearseSpot(
  { subject, cases, pairing }: { subject: RehearsalSubject; cases: RehearsalCase[]; pairing: Pairing },
  host: () => HTMLElement | null,
  tell: Listener,
): SpotRehearsal {
  const worker = new Worker(new URL('../workers/rehearsal.ts', import.meta.url), { type: 'module' })
  const send = (message: ToRehearsal) => worker.postMessage(message)
  let code = ''
  let stopping: ReturnType<typeof setTimeout> | undefined
  let giveUp = () => {}
  const browser = framesIn(
    host,
    () => code,
    () => subject.receiver,
  )
  const proof = new Promise<Proof>((resolve, reject) => {
    giveUp = () => reject(new Error('It was stopped in the middle of a step, so nothing of it is kept.'))
    worker.addEventListener('error', ({ message }) => reject(new Error(message || 'The rehearsal could not go on.')))
    worker.addEventListener('message', ({ data }: MessageEvent<FromRehearsal>) => {
      switch (data.kind) {
        case 'begun':
          code = data.code
          tell.begun(data.hasBrowser)
          break
        case 'step':
          tell.step(data.step)
          break
        case 'browse': {
          tell.framed()
          const { name, wish } = data.what
          const browsed = (result: unknown) => send({ kind: 'browsed', number: data.number, result })
          const limit = new Promise((resolve) =>
            setTimeout(() => resolve({ isTried: false, reason: 'The page was not done within a minute.' }), STEP_MS),
          )
          Promise.race([(browser[name] as (of: typeof wish) => Promise<unknown>)(wish), limit]).then(
            browsed,
            (error: unknown) =>
              browsed({ isTried: false, reason: error instanceof Error ? error.message : String(error) }),
          )
          break
        }
        case 'picture':
          tell.picture(data.viewer, `data:image/jpeg;base64,${data.jpeg}`)
          break
        case 'done':
          resolve(data.proof)
          break
        case 'failed':
          reject(new Error(data.message))
      }
    })
    send({ kind: 'rehearse', pairing, cases, subject, id: newId<ProofId>(), at: now() })
  }).finally(() => {
    worker.terminate()
    clearTimeout(stopping)
  })
  return {
    proof,
    stop() {
      send({ kind: 'stop' })
      // A step that never ends is not waited for.
      stopping ??= setTimeout(() => {
        giveUp()
        if (code !== '')
          void clientFor(pairing)
            .endRehearsal(code)
            .catch(() => {})
      }, STOP_MS)
    },
  }
}
