import { proxy } from 'comlink'
import type { ProofId } from '#core/ids'
import type { Proof, RehearsalCase, Step, ViewerId } from '#core/proof'
import type { RehearsalSubject } from '#core/rehearsal'
import { clientFor, type Pairing } from '../client'
import { newId, now } from '../clock'
import { callWithTask, callWorker, isStopped } from '../worker-calls'
import type { RehearsalFunctions, RehearsalPage } from './worker'
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
  const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' })
  const [stopper, givingUp] = [new AbortController(), new AbortController()]
  let code = ''
  let stopping: ReturnType<typeof setTimeout> | undefined
  const browser = framesIn(
    host,
    () => code,
    () => subject.receiver,
  )
  const page: RehearsalPage = {
    begun(given, hasBrowser) {
      code = given
      tell.begun(hasBrowser)
    },
    step: tell.step,
    picture: (viewer, jpeg) => tell.picture(viewer, `data:image/jpeg;base64,${jpeg}`),
    browse({ name, wish }) {
      tell.framed()
      const limit = new Promise((resolve) =>
        setTimeout(() => resolve({ isTried: false, reason: 'The page was not done within a minute.' }), STEP_MS),
      )
      return Promise.race([(browser[name] as (of: typeof wish) => Promise<unknown>)(wish), limit]).catch(
        (error: unknown) => ({ isTried: false, reason: error instanceof Error ? error.message : String(error) }),
      )
    },
  }
  const wish = { pairing, cases, subject, id: newId<ProofId>(), at: now() }
  const proof = callWithTask({ tell: () => {}, signal: stopper.signal }, (port) =>
    callWorker<RehearsalFunctions, Proof>(worker, ({ rehearse }) => rehearse(port, wish, proxy(page)), givingUp.signal),
  )
    .catch((error: unknown) => {
      throw isStopped(error) ? new Error('It was stopped in the middle of a step, so nothing of it is kept.') : error
    })
    .finally(() => clearTimeout(stopping))
  return {
    proof,
    stop() {
      stopper.abort()
      // A step that never ends is not waited for.
      stopping ??= setTimeout(() => {
        givingUp.abort()
        if (code !== '')
          void clientFor(pairing)
            .endRehearsal(code)
            .catch(() => {})
      }, STOP_MS)
    },
  }
}
