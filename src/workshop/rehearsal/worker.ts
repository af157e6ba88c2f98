import { expose } from 'comlink'
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
import { taskOf } from '../worker-calls'

export interface RehearsalWish {
  pairing: Pairing
  subject: RehearsalSubject
  cases: RehearsalCase[]
  id: ProofId
  at: string
}
type Act = Exclude<keyof FramingBrowser, 'kind' | 'origin' | 'zone'>
type Wishes = { [Name in Act]: Parameters<FramingBrowser[Name]>[0] }
export type BrowserWish = { [Name in Act]: { name: Name; wish: Wishes[Name] } }[Act]

/** The page that a rehearsal goes on beside: told what happens, and asked for what needs a browser, since it is one. */
export interface RehearsalPage {
  begun(code: string, hasBrowser: boolean): void
  step(step: Step): void
  /** Of the page that the receiver's browser is at; a JPEG in base64. */
  picture(viewer: VisitWish['viewer'], jpeg: string): void
  browse(what: BrowserWish): Promise<unknown>
}

const functions = {
  /** Rehearses one spot. `port` says when to stop: after the step that is going on. */
  async rehearse(
    port: MessagePort,
    { pairing, subject, cases, id, at }: RehearsalWish,
    page: RehearsalPage,
  ): Promise<Proof> {
    const { signal } = taskOf(port)
    const client = clientFor(pairing)
    const begun = await client.startRehearsal(subject.spot.id)
    page.begun(begun.code, begun.hasBrowser)
    try {
      return await makeProof(
        subject,
        cases,
        portsOver(client, begun, page, signal),
        { id, at, by: 'workshop' },
        (step) => {
          page.step(step)
          return !signal.aborted
        },
      )
    } finally {
      await client.endRehearsal(begun.code).catch(() => {})
    }
  },
}
export type RehearsalFunctions = typeof functions
expose(functions)

function portsOver(
  client: ReturnType<typeof clientFor>,
  { code, hasBrowser, hasFirefox = false }: Awaited<ReturnType<typeof client.startRehearsal>>,
  page: RehearsalPage,
  signal: AbortSignal,
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
      page.browse({ name, wish } as BrowserWish) as ReturnType<FramingBrowser[Name]>
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
    pause: (ms) => new Promise((resolve) => setTimeout(resolve, signal.aborted ? 0 : ms)),
    today: () => Date.now(),
    browser: hasBrowser
      ? {
          kind: 'visits',
          zone: VISITS_ZONE,
          hasFirefox,
          async visit(wish) {
            const seen = await client.visitForRehearsal(code, wish)
            if (seen.isTried && seen.picture !== null) page.picture(wish.viewer, seen.picture)
            return seen
          },
          async read(wish) {
            const seen = await client.readForRehearsal(code, wish)
            if (seen.isTried && seen.picture !== null) page.picture('desk', seen.picture)
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
