import { expect, test } from '@playwright/test'
import type { Entry } from '#core/journal'
import { anomaliesIn, type Append, type Read } from '../append-log'
import { Holdings } from '../service-ground'
import { type Several, startSeveral } from '../several'

/** `KILLS=100 CRASHES=20 PROMOTIONS=10` for a long night; a few each time. */
const KILLS = Number(process.env.KILLS ?? 10)
const CRASHES = Number(process.env.CRASHES ?? 3)
const PROMOTIONS = Number(process.env.PROMOTIONS ?? 2)

let several: Several
test.beforeAll(async () => {
  test.setTimeout(240_000)
  several = await startSeveral()
})
test.afterAll(() => several?.stop())

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))
const asOwner = (body?: unknown): RequestInit => ({
  headers: { Authorization: `Bearer ${several.key}`, 'Content-Type': 'application/json' },
  ...(body !== undefined && { method: 'POST', body: JSON.stringify(body) }),
})
const owners = async <T>(path: string, body?: unknown, method?: string): Promise<T> => {
  const answer = await several.ask(`/api${path}`, { ...asOwner(body), ...(method !== undefined && { method }) })
  if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`)
  return (await answer.json()) as T
}
const signUp = (spot: string, email: string) =>
  several.ask(`/join/${spot}`, {
    method: 'POST',
    headers: { Accept: 'application/json' },
    body: new URLSearchParams({ email, 'first-name': 'Somebody', visitors: '20' }),
  })
const entriesAfter = async (after: number): Promise<Entry[]> =>
  (await owners<{ entries: Entry[] }>(`/journal?after=${after}`)).entries

/** What an entry appended, as the check of histories names it: who joined, or its place for all else. */
const valueOf = (entry: Entry) =>
  entry.kind === 'arrival' &&
  entry.personal?.email?.typed.endsWith('@visitors.example') &&
  ['joined', 'confirm-first'].includes(entry.verdict)
    ? entry.personal.email.typed
    : `${entry.kind} ${entry.n}`

test('receivers killed, servers crashed and replaced, links cut and slow: what was acknowledged is there once, in one order, and every workshop is in step', async () => {
  test.setTimeout(300_000 + (KILLS + CRASHES * 2 + PROMOTIONS * 3) * 20_000)
  const appends: Append[] = []
  const reads: Read[] = []
  const confirmed: string[] = []
  let isOver = false
  const clock = () => performance.now()
  const whileOn = async (everyMs: number, work: (at: number) => Promise<void>) => {
    for (let at = 0; !isOver; at += 1) {
      await work(at)
      await pause(everyMs)
    }
  }
  const comes = async (spot: string, email: string) => {
    const append: Append = { value: email, from: clock(), until: null }
    appends.push(append)
    const answer = await signUp(spot, email)
    expect([email, answer.status]).toEqual([email, 200])
    append.until = clock()
  }
  /** The link in the newest mail to somebody; null while none has come. */
  const linkFor = async (email: string) => {
    const { mails } = await owners<{ mails: { bytes: string }[] }>(`/mailbox/${encodeURIComponent(email)}`)
    const [newest] = mails
    return newest === undefined
      ? null
      : (/\/confirm\/[\w.-]+/.exec(Buffer.from(newest.bytes, 'base64').toString())?.[0] ?? null)
  }
  const visitors = [
    ...['one', 'two', 'three'].map((who) => whileOn(20, (at) => comes('firstfrost', `${who}.${at}@visitors.example`))),
    // Handed on to a service, as they come.
    whileOn(150, (at) => comes('schoolvisit', `school.${at}@visitors.example`)),
    // Asked to confirm; they press the link once it is there.
    whileOn(400, async (at) => {
      const email = `confirms.${at}@visitors.example`
      await comes('partysidebar', email)
      for (let tries = 0; tries < 50 && !isOver; tries++) {
        const link = await linkFor(email)
        if (link !== null) {
          expect((await several.ask(link, { method: 'POST' })).status).toBeLessThan(400)
          return void confirmed.push(email)
        }
        await pause(200)
      }
    }),
    whileOn(100, async () => {
      expect((await several.ask('/page/starchart', { headers: { Accept: 'text/html' } })).status).toBe(200)
    }),
    // Workshops that pull, each from whichever receiver.
    ...['desk', 'phone'].map((reader) => {
      let after = 0
      return whileOn(100, async () => {
        const from = clock()
        const entries = await entriesAfter(after)
        if (entries.length === 5_000) return void (after = entries.at(-1)!.n)
        reads.push({
          from,
          until: clock(),
          after,
          reader,
          seen: entries.map((one) => ({ n: one.n, value: valueOf(one) })),
        })
        after = entries.at(-1)?.n ?? after
      })
    }),
    brought(),
  ]

  /** A file of people, its pieces sent to whichever receiver, applied while all this goes on. */
  async function brought(): Promise<void> {
    const id = 'severalimport'
    const purpose = { kind: 'import', from: 'people.csv', consent: 'They asked for it.' }
    await owners('/batches', { id, list: 'membersletter', purpose })
    for (let chunk = 0; chunk < 4; chunk++) {
      const people = Array.from({ length: 100 }, (_, at) => ({
        ...{ member: `brought${chunk}x${at}`, revision: null, email: `brought.${chunk}.${at}@file.example` },
        ...{ values: {}, tags: [], status: 'confirmed', joinedAt: '2026-01-02T03:04:05.000Z' },
      }))
      await owners(`/batches/${id}/chunks/${chunk}`, { people }, 'PUT')
    }
    await owners(`/batches/${id}/apply`, {})
  }

  const troubles = [
    ...Array.from({ length: KILLS }, (_, at) => () => several.kill(at % 3)),
    ...Array.from({ length: CRASHES }, () => async () => {
      await several.database.kill()
      await several.database.start()
    }),
    ...Array.from({ length: PROMOTIONS }, () => () => several.database.promote()),
    async () => several.links.forEach((link) => link.cut()),
    async () => {
      several.links.forEach((link) => link.delay(150))
      await pause(2_000)
      several.links.forEach((link) => link.delay(0))
    },
  ].toSorted(() => Math.random() - 0.5)
  const troubling = async () => {
    for (const trouble of troubles) {
      // Between two of them somebody comes, on however slow a machine.
      const before = appends.filter(({ until }) => until !== null).length
      while (appends.filter(({ until }) => until !== null).length < before + 5) await pause(20)
      await pause(Math.random() * 500)
      await trouble()
    }
    isOver = true
  }
  await Promise.all([...visitors, troubling()])

  // Every workshop is in step soon after the end, whichever receiver it asks.
  const all: Entry[] = []
  for (let page = await entriesAfter(0); page.length > 0; page = await entriesAfter(all.length)) all.push(...page)
  await expect
    .poll(async () => (await owners<{ state: string; total: number }>('/batches/severalimport')).state, {
      timeout: 120_000,
    })
    .toBe('done')
  for (let page = await entriesAfter(all.length); page.length > 0; page = await entriesAfter(all.length))
    all.push(...page)

  const final = all.map((entry) => ({ n: entry.n, value: valueOf(entry) }))
  const others = final
    .filter(({ value }) => !appends.some((append) => append.value === value))
    .map(({ value }) => ({ value, from: 0, until: null }))
  expect(anomaliesIn(final, [...appends, ...others], reads)).toEqual([])
  expect(appends.filter(({ until }) => until !== null).length).toBeGreaterThan(5 * troubles.length)
  expect(reads.length).toBeGreaterThan(10)

  // Confirmed once each, brought in whole.
  const names = new Map(
    all.flatMap((one) => (one.kind === 'arrival' && one.member ? [[one.member, valueOf(one)]] : [])),
  )
  const counted = new Map<string, number>()
  for (const entry of all)
    if (entry.kind === 'member-confirmed') {
      const who = names.get(entry.member)!
      counted.set(who, (counted.get(who) ?? 0) + 1)
    }
  expect(confirmed.filter((who) => counted.get(who) !== 1)).toEqual([])
  expect([...counted.values()].every((count) => count === 1)).toBe(true)
  expect(confirmed.length).toBeGreaterThan(0)
  expect(all.filter((one) => one.kind === 'member-written' && one.batch === 'severalimport')).toHaveLength(400)

  // The marks are whole, by whichever receiver.
  for (let after = 0; after < all.length;) {
    const { broken, cursor } = await owners<{ broken: unknown; cursor: number }>(`/journal/check?after=${after}`)
    expect(broken).toBeNull()
    after = cursor
  }

  // Everybody was handed on, and is there once.
  await owners('/connections/lanternpost/go-on', {})
  const waiting = async () =>
    (await owners<{ handOvers: { id: string; waiting: number; refused: number }[] }>('/outside')).handOvers.find(
      ({ id }) => id === 'schoolshandedon',
    )!
  await expect.poll(async () => (await waiting()).waiting, { timeout: 120_000 }).toBe(0)
  const there = [...new Holdings(several.serviceFile).list('lantern', 'l1')!.people.values()].map(({ email }) => email)
  const schools = appends.filter(({ value, until }) => value.startsWith('school.') && until !== null)
  expect(schools.filter(({ value }) => there.filter((one) => one === value).length !== 1)).toEqual([])

  // Mail: each who was to confirm got one mail; one more where a receiver was killed between sending it and noting so.
  const mails = await Promise.all(
    confirmed.map(async (email) => {
      const boxed = await owners<{ mails: unknown[] }>(`/mailbox/${encodeURIComponent(email)}`)
      return boxed.mails.length
    }),
  )
  expect(mails.every((count) => count >= 1)).toBe(true)
  expect(mails.filter((count) => count > 1).length).toBeLessThanOrEqual(troubles.length)
})
