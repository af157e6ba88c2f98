import { Worker } from 'node:worker_threads'
import type { Proof, RehearsalCase } from '#core/proof'
import { type makeProof, NoAnswer, type Ports, type RehearsalSubject, type VisitingBrowser } from '#core/rehearsal'

/** Calls from a rehearsal's thread to the one that began it. */
type Asked = Required<Pick<Ports, 'fetch' | 'send' | 'member' | 'mails' | 'download' | 'handOn' | 'expire' | 'pause'>> &
  Pick<VisitingBrowser, 'visit' | 'read'>
export type Remote = keyof Asked
export interface RemoteCall<Name extends Remote> {
  args: Parameters<Asked[Name]>
  result: ReturnType<Asked[Name]>
}
export interface RehearsalTask {
  subject: RehearsalSubject
  cases: readonly RehearsalCase[]
  code: string
  facts: Parameters<typeof makeProof>[3]
  /** The time zone of the receiver's browser; null for none. */
  zone: string | null
  mailPatienceMs?: number | undefined
  hasFirefox?: boolean | undefined
}
export type FromPageThread =
  | { kind: 'ask'; n: number; name: Remote; args: readonly unknown[] }
  | { kind: 'done'; proof: Proof }
  | { kind: 'failed'; message: string }
export interface ToPageThread {
  n: number
  result?: unknown
  /** Why no answer came, in words for the owner. */
  noAnswer?: string
  failed?: string
}

/** How long a page may be thought about: the largest that is fetched takes less than a second. */
export const LONGEST_THOUGHT_MS = 20_000

/** A page that took longer to read than it may. */
export class ThoughtTooLong extends Error {}

/**
 * The same as `makeProof`, with the reading of pages in a thread of its own.
 *
 * @param thread the built `page-thread.ts`
 * @throws ThoughtTooLong
 */
export function makeProofInThread(
  thread: string,
  task: Omit<RehearsalTask, 'zone' | 'mailPatienceMs' | 'hasFirefox'>,
  ports: Ports,
  longestThoughtMs = LONGEST_THOUGHT_MS,
): Promise<Proof> {
  const zone = ports.browser?.zone ?? null
  const hasFirefox = ports.browser?.kind === 'visits' && ports.browser.hasFirefox === true
  const worker = new Worker(thread, {
    workerData: { ...task, zone, mailPatienceMs: ports.mailPatienceMs, hasFirefox } satisfies RehearsalTask,
  })
  let timer: ReturnType<typeof setTimeout>
  return new Promise<Proof>((resolve, reject) => {
    const thinks = () => {
      clearTimeout(timer)
      timer = setTimeout(() => reject(new ThoughtTooLong('The page took too long to read.')), longestThoughtMs)
    }
    worker.on('message', async (message: FromPageThread) => {
      clearTimeout(timer)
      if (message.kind === 'done') return resolve(message.proof)
      if (message.kind === 'failed') return reject(new Error(message.message))
      const answer = await answerTo(message, ports)
      thinks()
      worker.postMessage(answer)
    })
    worker.once('error', reject)
    worker.once('exit', () => reject(new Error('The rehearsal was broken off.')))
    thinks()
  }).finally(() => {
    clearTimeout(timer)
    void worker.terminate()
  })
}

async function answerTo(
  { n, name, args }: Extract<FromPageThread, { kind: 'ask' }>,
  ports: Ports,
): Promise<ToPageThread> {
  try {
    const { browser } = ports
    const all = {
      handOn: () => Promise.resolve([]),
      ...ports,
      visit: browser?.kind === 'visits' ? browser.visit : undefined,
      read: browser?.kind === 'visits' ? browser.read : undefined,
    }
    return { n, result: await (all[name] as (...args: readonly unknown[]) => Promise<unknown>)(...args) }
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error)
    return error instanceof NoAnswer ? { n, noAnswer: message } : { n, failed: message }
  }
}
