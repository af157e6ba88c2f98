import type { ProofId } from '#core/ids'
import type { Proof, RehearsalCase, Step } from '#core/proof'
import {
  type FramingBrowser,
  makeProof,
  NoAnswer,
  type Ports,
  type RehearsalSubject,
  VISITS_ZONE,
  type VisitWish,
} from '#core/rehearsal'
import { clientFor, type Pairing, ReceiverProblem, Unreachable } from '../client'

export interface RehearsalWish {
  kind: 'rehearse'
  pairing: Pairing
  subject: RehearsalSubject
  cases: RehearsalCase[]
  id: ProofId
  at: string
}
type Act = Exclude<keyof FramingBrowser, 'kind' | 'origin' | 'zone'>
type Wishes = { [Name in Act]: Parameters<FramingBrowser[Name]>[0] }
export type BrowserWish = { [Name in Act]: { name: Name; wish: Wishes[Name] } }[Act]
export type ToRehearsal = RehearsalWish | { kind: 'browsed'; number: number; result: unknown } | { kind: 'stop' }
export type FromRehearsal =
  | { kind: 'begun'; code: string; hasBrowser: boolean }
  | { kind: 'step'; step: Step }
  | { kind: 'browse'; number: number; what: BrowserWish }
  /** Of the page that the receiver's browser is at; a JPEG in base64. */
  | { kind: 'picture'; viewer: VisitWish['viewer']; jpeg: string }
  | { kind: 'done'; proof: Proof }
  | { kind: 'failed'; message: string }

let isStopped = false
let asked = 0
const waiting = new Map<number, (result: never) => void>()

self.addEventListener('message', ({ data }: MessageEvent<ToRehearsal>) => {
  if (data.kind === 'stop') isStopped = true
  else if (data.kind === 'browsed') {
    waiting.get(data.number)?.(data.result as never)
    waiting.delete(data.number)
  } else void run(data)
})

function say(message: FromRehearsal): void {
  self.postMessage(message)
}

/** Rehearses one spot beside the interface; what needs a browser is asked of the page, which is one. */
async function run({ pairing, subject, cases, id, at }: RehearsalWish): Promise<void> {
  const client = clientFor(pairing)
  let code: string | null = null
  try {
    const begun = await client.startRehearsal(subject.spot.id)
    code = begun.code
    say({ kind: 'begun', code, hasBrowser: begun.hasBrowser })
    const proof = await makeProof(
      subject,
      cases,
      portsOver(client, code, begun),
      { id, at, by: 'workshop' },
      (step) => {
        say({ kind: 'step', step })
        return !isStopped
      },
    )
    say({ kind: 'done', proof })
  } catch (error) {
    say({ kind: 'failed', message: error instanceof Error ? error.message : String(error) })
  } finally {
    if (code !== null) await client.endRehearsal(code).catch(() => {})
  }
}

function portsOver(
  client: ReturnType<typeof clientFor>,
  code: string,
  { hasBrowser, hasFirefox = false }: { hasBrowser: boolean; hasFirefox?: boolean | undefined },
): Ports {
  const answered = async <T>(work: Promise<T>): Promise<T> => {
    try {
      return await work
    } catch (error) {
      // Of a page that gives no answer; that the receiver gives none ends the rehearsal.
      if (error instanceof ReceiverProblem && [403, 502].includes(error.status)) throw new NoAnswer(error.message)
      if (error instanceof Unreachable) throw new Error('The receiver does not answer.')
      throw error
    }
  }
  const browse =
    <Name extends Act>(name: Name) =>
    (wish: Wishes[Name]) =>
      new Promise<Awaited<ReturnType<FramingBrowser[Name]>>>((resolve) => {
        const number = (asked += 1)
        waiting.set(number, resolve)
        say({ kind: 'browse', number, what: { name, wish } as BrowserWish })
      })
  return {
    now: () => performance.now(),
    code,
    unique: () => crypto.randomUUID().replaceAll('-', ''),
    fetch: (address, as) => answered(client.fetchForRehearsal(code, address, as)),
    send: ({ address, contentType, body }, as) =>
      answered(client.sendForRehearsal(code, { address, contentType, body: base64(body), as })),
    member: (email) => answered(client.lookUpForRehearsal(code, email)),
    mails: (email) => answered(client.mailsForRehearsal(code, email)),
    download: (address) => answered(client.downloadForRehearsal(code, address)),
    handOn: async (email) => (await answered(client.handOnForRehearsal(code, email))).handed,
    expire: async (email) => void (await answered(client.expireForRehearsal(code, email))),
    pause: (ms) => new Promise((resolve) => setTimeout(resolve, isStopped ? 0 : ms)),
    today: () => Date.now(),
    browser: hasBrowser
      ? {
          kind: 'visits',
          zone: VISITS_ZONE,
          hasFirefox,
          async visit(wish) {
            const seen = await client.visitForRehearsal(code, wish)
            if (seen.isTried && seen.picture !== null) say({ kind: 'picture', viewer: wish.viewer, jpeg: seen.picture })
            return seen
          },
        }
      : {
          kind: 'frames',
          // A worker is of the origin of its page.
          origin: self.location.origin,
          zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
          withScripts: browse('withScripts'),
          withoutScripts: browse('withoutScripts'),
        },
  }
}

function base64(bytes: Uint8Array): string {
  return btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''))
}
