import { expect } from '@playwright/test'
import type { Entry } from '#core/journal'
import { rehearsalAddress } from '#core/proof'
import type { Append, Read } from '../append-log'
import type { Several } from '../several'

/** Talks to whichever of several receivers answers, as their owner and as visitors. */
export function talkTo(several: Several) {
  const asOwner = (body?: unknown): RequestInit => ({
    headers: { Authorization: `Bearer ${several.key}`, 'Content-Type': 'application/json' },
    ...(body !== undefined && { method: 'POST', body: JSON.stringify(body) }),
  })
  const owners = async <T>(path: string, body?: unknown, method?: string): Promise<T> => {
    const answer = await several.ask(`/api${path}`, { ...asOwner(body), ...(method !== undefined && { method }) })
    if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`)
    return (await answer.json()) as T
  }
  return {
    asOwner,
    owners,
    signUp: (spot: string, email: string) =>
      several.ask(`/join/${spot}`, {
        method: 'POST',
        headers: { Accept: 'application/json' },
        body: new URLSearchParams({ email, 'first-name': 'Somebody', visitors: '20' }),
      }),
    entriesAfter: async (after: number): Promise<Entry[]> =>
      (await owners<{ entries: Entry[] }>(`/journal?after=${after}`)).entries,
    mailsTo: async (email: string): Promise<{ bytes: string }[]> =>
      (await owners<{ mails: { bytes: string }[] }>(`/mailbox/${encodeURIComponent(email)}`)).mails,
  }
}
export type Talk = ReturnType<typeof talkTo>

export const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

/** What an entry appended, as the check of histories names it: who joined, or its place for all else. */
export const valueOf = (entry: Entry) =>
  entry.kind === 'arrival' &&
  entry.personal?.email?.typed.endsWith('@visitors.example') &&
  ['joined', 'confirm-first'].includes(entry.verdict)
    ? entry.personal.email.typed
    : `${entry.kind} ${entry.n}`

/** What a load did and read until it was over. */
export interface LoadRecord {
  appends: Append[]
  reads: Read[]
  /** Who pressed the link that confirms. */
  confirmed: string[]
  rehearsed: number
  isOver: boolean
}

/** Visitors, workshops, a file brought in and rehearsals, all at once, until the record says that it is over. */
export function beginLoad(several: Several, talk: Talk, record: LoadRecord): Promise<unknown> {
  const { owners } = talk
  const whileOn = async (everyMs: number, work: (at: number) => Promise<void>) => {
    for (let at = 0; !record.isOver; at += 1) {
      await work(at)
      await pause(everyMs)
    }
  }
  const comes = async (spot: string, email: string) => {
    const append: Append = { value: email, from: performance.now(), until: null }
    record.appends.push(append)
    const answer = await talk.signUp(spot, email)
    expect([email, answer.status]).toEqual([email, 200])
    append.until = performance.now()
  }
  const confirms = async (at: number) => {
    const email = `confirms.${at}@visitors.example`
    await comes('partysidebar', email)
    for (let tries = 0; tries < 50 && !record.isOver; tries++) {
      const link = await linkFor(talk, email)
      if (link !== null) {
        expect((await several.ask(link, { method: 'POST' })).status).toBeLessThan(400)
        return void record.confirmed.push(email)
      }
      await pause(200)
    }
  }
  return Promise.all([
    ...['one', 'two', 'three'].map((who) => whileOn(20, (at) => comes('firstfrost', `${who}.${at}@visitors.example`))),
    // Handed on to a service, as they come.
    whileOn(150, (at) => comes('schoolvisit', `school.${at}@visitors.example`)),
    // Asked to confirm; they press the link once it is there.
    whileOn(400, confirms),
    whileOn(100, async () => {
      expect((await several.ask('/page/starchart', { headers: { Accept: 'text/html' } })).status).toBe(200)
    }),
    ...['desk', 'phone'].map((reader) => {
      const pull = pulling(talk, reader, record)
      return whileOn(100, pull)
    }),
    bringIn(talk),
    // Made-up people, whose round trip is tried meanwhile and who are gone at its end.
    whileOn(300, async () => {
      const { code } = await owners<{ code: string }>('/rehearsals', { spot: 'partysidebar' })
      const email = rehearsalAddress(code, 'somebody')
      const answer = await talk.signUp('partysidebar', email)
      expect(await answer.json()).toMatchObject({ outcome: 'confirm-first' })
      const known = `/rehearsals/${code}/member?email=${encodeURIComponent(email)}`
      expect(await owners(known)).toMatchObject({ member: { status: 'waiting' } })
      await owners(`/rehearsals/${code}/expire`, { email })
      expect(await owners(known)).toMatchObject({ member: { status: 'removed' } })
      await owners(`/rehearsals/${code}/end`, {})
      record.rehearsed += 1
    }),
  ])
}

/** The link in the newest mail to somebody; null while none has come. */
async function linkFor({ mailsTo }: Talk, email: string): Promise<string | null> {
  const [newest] = await mailsTo(email)
  if (newest === undefined) return null
  return /\/confirm\/[\w.-]+/.exec(Buffer.from(newest.bytes, 'base64').toString())?.[0] ?? null
}

/** A workshop that pulls, each time from whichever receiver. */
function pulling({ entriesAfter }: Talk, reader: string, { reads }: LoadRecord): () => Promise<void> {
  let after = 0
  return async () => {
    const from = performance.now()
    const entries = await entriesAfter(after)
    if (entries.length === 5_000) return void (after = entries.at(-1)!.n)
    const seen = entries.map((one) => ({ n: one.n, value: valueOf(one) }))
    reads.push({ from, until: performance.now(), after, reader, seen })
    after = entries.at(-1)?.n ?? after
  }
}

export const IMPORT = { id: 'severalimport', people: 400 } as const

/** A file of people, its pieces sent to whichever receiver, applied while all else goes on. */
async function bringIn({ owners }: Talk): Promise<void> {
  const { id } = IMPORT
  const purpose = { kind: 'import', from: 'people.csv', consent: 'They asked for it.' }
  await owners('/batches', { id, list: 'membersletter', purpose })
  for (let chunk = 0; chunk < 4; chunk++) {
    const people = Array.from({ length: IMPORT.people / 4 }, (_, at) => ({
      ...{ member: `brought${chunk}x${at}`, revision: null, email: `brought.${chunk}.${at}@file.example` },
      ...{ values: {}, tags: [], status: 'confirmed', joinedAt: '2026-01-02T03:04:05.000Z' },
    }))
    await owners(`/batches/${id}/chunks/${chunk}`, { people }, 'PUT')
  }
  await owners(`/batches/${id}/apply`, {})
}
