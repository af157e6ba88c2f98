import { createHash, randomBytes } from 'node:crypto'
import { expect, test } from '@playwright/test'
import type { Entry } from '#core/journal'
import { rehearsalAddress } from '#core/proof'
import { anomaliesIn, type Append, type Read } from '../append-log'
import { Holdings } from '../service-ground'
import { type Several, startSeveral } from '../several'
import { times } from '../seed'

const KILLS = times({ short: 3, whole: 10, endure: 100 })
const CRASHES = times({ short: 1, whole: 3, endure: 20 })
const PROMOTIONS = times({ short: 1, whole: 2, endure: 10 })

/** So many mails are on their way at once: `AT_ONCE` of mail/sender.ts. */
const MAILS_IN_HAND = 4

// One after the other, on the same receivers and servers.
test.describe.configure({ mode: 'serial' })

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

/** The same of one receiver alone. */
const at = (which: number, path: string, init?: RequestInit) => fetch(several.addresses[which]! + path, init)

test('each request of a rehearsal, of a gift, of a comparison and of a key may come to another receiver', async () => {
  // A rehearsal: begun here, joined there, looked up and ended elsewhere.
  const begun = await at(0, '/api/rehearsals', asOwner({ spot: 'firstfrost' }))
  const { code } = (await begun.json()) as { code: string }
  const email = `somebody-${code}@rehearsal.invalid`
  const joined = await at(1, '/join/firstfrost', {
    method: 'POST',
    headers: { Accept: 'application/json' },
    body: new URLSearchParams({ email: rehearsalAddress(code, 'somebody') }),
  })
  expect(await joined.json()).toMatchObject({ outcome: 'joined' })
  const seen = await at(
    2,
    `/api/rehearsals/${code}/member?email=${encodeURIComponent(rehearsalAddress(code, 'somebody'))}`,
    asOwner(),
  )
  expect(await seen.json()).toMatchObject({ member: { status: 'confirmed' } })
  expect((await at(1, `/api/rehearsals/${code}/end`, asOwner({}))).status).toBe(200)
  expect((await at(0, `/api/rehearsals/${code}/member?email=${email}`, asOwner())).status).toBe(404)

  // A gift of some megabytes: kept here, read there, byte for byte, and once more from its folder.
  const bytes = randomBytes(3_000_001)
  const id = createHash('sha256').update(bytes).digest('hex')
  const put = await at(0, `/api/files/${id}`, { ...asOwner(), method: 'PUT', body: bytes })
  expect(put.status).toBe(200)
  for (let times = 0; times < 2; times++) {
    const read = Buffer.from(await (await at(2, `/api/files/${id}`, asOwner())).arrayBuffer())
    expect(read.equals(bytes)).toBe(true)
  }
  const wrong = await at(1, `/api/files/${'0'.repeat(64)}`, { ...asOwner(), method: 'PUT', body: bytes })
  expect([wrong.status, (await at(0, `/api/files/${'0'.repeat(64)}`, asOwner())).status]).toEqual([422, 404])

  // A comparison with the service: begun here, told there, and whom it found elsewhere.
  await at(0, '/api/hand-overs/schoolshandedon/compare', asOwner({}))
  const comparison = async () =>
    (await (await at(1, '/api/hand-overs/schoolshandedon/compare', asOwner())).json()) as {
      state: string
      counts: Record<string, number>
    }
  await expect.poll(async () => (await comparison()).state).toBe('done')
  for (const [standing, count] of Object.entries((await comparison()).counts)) {
    const found = await at(2, `/api/hand-overs/schoolshandedon/found/${standing}`, asOwner())
    expect(((await found.json()) as { people: unknown[] }).people).toHaveLength(count)
  }

  // A key: given here, good there at once, withdrawn elsewhere, and refused here within a moment.
  const pairing = await at(0, '/api/keys/pairing', asOwner({ name: 'Anna', right: 'reader', seesPeople: false }))
  const { hash } = new URL(((await pairing.json()) as { address: string }).address)
  const pair = await at(1, '/api/pair', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ code: hash.slice('#pair='.length), name: 'A browser' }),
  })
  const key = (await pair.json()) as { key: string; id: string }
  const asAnna = { headers: { Authorization: `Bearer ${key.key}` } }
  expect((await at(2, '/api/receiver', asAnna)).status).toBe(200)
  await at(1, `/api/keys/${key.id}/withdraw`, asOwner({}))
  await expect.poll(async () => (await at(2, '/api/receiver', asAnna)).status).toBe(401)

  // Who is there is known to all of them.
  const here = { place: 'form schoolsform', tab: 'onetabofmine' }
  await at(0, '/api/presence', asOwner(here))
  const others = await at(1, '/api/presence', asOwner({ ...here, tab: 'anothertab1' }))
  expect(((await others.json()) as { others: unknown[] }).others).toHaveLength(1)
})

test('receivers killed, servers crashed and replaced, links cut and slow: what was acknowledged is there once, in one order, and every workshop is in step', async () => {
  test.setTimeout(300_000 + (KILLS + CRASHES * 2 + PROMOTIONS * 3) * 20_000)
  const appends: Append[] = []
  const reads: Read[] = []
  const confirmed: string[] = []
  let rehearsed = 0
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
    // Made-up people, whose round trip is tried meanwhile and who are gone at its end.
    whileOn(300, async () => {
      const { code } = await owners<{ code: string }>('/rehearsals', { spot: 'partysidebar' })
      const email = rehearsalAddress(code, 'somebody')
      const answer = await signUp('partysidebar', email)
      expect(await answer.json()).toMatchObject({ outcome: 'confirm-first' })
      const known = `/rehearsals/${code}/member?email=${encodeURIComponent(email)}`
      expect(await owners(known)).toMatchObject({ member: { status: 'waiting' } })
      await owners(`/rehearsals/${code}/expire`, { email })
      expect(await owners(known)).toMatchObject({ member: { status: 'removed' } })
      await owners(`/rehearsals/${code}/end`, {})
      rehearsed += 1
    }),
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
    while (confirmed.length === 0 || rehearsed === 0) await pause(50)
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
  expect(all.filter((entry) => JSON.stringify(entry).includes('@rehearsal'))).toEqual([])

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

  // Mail: each who was to confirm got one mail; one more where a receiver, or its way to the store, ended between sending and
  // noting so: of those that it had in hand.
  const mails = await Promise.all(
    confirmed.map(async (email) => {
      const boxed = await owners<{ mails: unknown[] }>(`/mailbox/${encodeURIComponent(email)}`)
      return boxed.mails.length
    }),
  )
  expect(mails.every((count) => count >= 1)).toBe(true)
  expect(mails.filter((count) => count > 1).length).toBeLessThanOrEqual(troubles.length * MAILS_IN_HAND)
})

test('a copy and the archive bring any moment back: what came after it is not there, what was before is', async () => {
  test.setTimeout(240_000)
  const { database } = several
  const count = (ask: (sql: string) => Promise<string>) => ask('SELECT count(*) FROM journal')
  const copy = await database.backup('copy')
  await signUp('firstfrost', 'before-the-moment@visitors.example')
  const { latest: before } = await owners<{ latest: number }>('/receiver')
  const moment = await database.ask('SELECT clock_timestamp()')
  await signUp('firstfrost', 'after-the-moment@visitors.example')
  // The piece of the log that is being written goes into the archive.
  await database.ask('SELECT pg_switch_wal()')
  await expect
    .poll(() =>
      database.ask(
        'SELECT last_archived_wal >= pg_walfile_name(pg_current_wal_lsn() - 16777216) FROM pg_stat_archiver',
      ),
    )
    .toBe('t')
  const ask = await database.restored(copy, moment)
  expect(Number(await count(ask))).toBe(before)
})
