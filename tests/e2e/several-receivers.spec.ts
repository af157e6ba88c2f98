import { createHash, randomBytes } from 'node:crypto'
import { expect, test } from '@playwright/test'
import type { Entry } from '#core/journal'
import { rehearsalAddress } from '#core/proof'
import { anomaliesIn } from '../append-log'
import { Holdings } from '../service-ground'
import { type Several, startSeveral } from '../several'
import { seed, times } from '../seed'
import { beginLoad, IMPORT, type LoadRecord, pause, type Talk, talkTo, valueOf } from './several-load'

const KILLS = times({ short: 3, whole: 10, endure: 100 })
const CRASHES = times({ short: 1, whole: 3, endure: 20 })
const PROMOTIONS = times({ short: 1, whole: 2, endure: 10 })

/** So many mails are on their way at once: `AT_ONCE` of mail/sender.ts. */
const MAILS_IN_HAND = 4

// One after the other, on the same receivers and servers.
test.describe.configure({ mode: 'serial' })

let several: Several
let talk: Talk
test.beforeAll(async () => {
  test.setTimeout(240_000)
  several = await startSeveral()
  talk = talkTo(several)
})
test.afterAll(() => several?.stop())

/** The same of one receiver alone. */
const at = (which: number, path: string, init?: RequestInit) => fetch(several.addresses[which]! + path, init)

test('each request of a rehearsal, of a gift, of a comparison and of a key may come to another receiver', async () => {
  // A rehearsal: begun here, joined there, looked up and ended elsewhere.
  const begun = await at(0, '/api/rehearsals', talk.asOwner({ spot: 'firstfrost' }))
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
    talk.asOwner(),
  )
  expect(await seen.json()).toMatchObject({ member: { status: 'confirmed' } })
  expect((await at(1, `/api/rehearsals/${code}/end`, talk.asOwner({}))).status).toBe(200)
  expect((await at(0, `/api/rehearsals/${code}/member?email=${email}`, talk.asOwner())).status).toBe(404)

  // A gift of some megabytes: kept here, read there, byte for byte, and once more from its folder.
  const bytes = randomBytes(3_000_001)
  const id = createHash('sha256').update(bytes).digest('hex')
  const put = await at(0, `/api/files/${id}`, { ...talk.asOwner(), method: 'PUT', body: bytes })
  expect(put.status).toBe(200)
  for (let times = 0; times < 2; times++) {
    const read = Buffer.from(await (await at(2, `/api/files/${id}`, talk.asOwner())).arrayBuffer())
    expect(read.equals(bytes)).toBe(true)
  }
  const wrong = await at(1, `/api/files/${'0'.repeat(64)}`, { ...talk.asOwner(), method: 'PUT', body: bytes })
  expect([wrong.status, (await at(0, `/api/files/${'0'.repeat(64)}`, talk.asOwner())).status]).toEqual([422, 404])

  // A comparison with the service: begun here, told there, and whom it found elsewhere.
  await at(0, '/api/hand-overs/schoolshandedon/compare', talk.asOwner({}))
  const comparison = async () =>
    (await (await at(1, '/api/hand-overs/schoolshandedon/compare', talk.asOwner())).json()) as {
      state: string
      counts: Record<string, number>
    }
  await expect.poll(async () => (await comparison()).state).toBe('done')
  for (const [standing, count] of Object.entries((await comparison()).counts)) {
    const found = await at(2, `/api/hand-overs/schoolshandedon/found/${standing}`, talk.asOwner())
    expect(((await found.json()) as { people: unknown[] }).people).toHaveLength(count)
  }

  // A key: given here, good there at once, withdrawn elsewhere, and refused here within a moment.
  const pairing = await at(0, '/api/keys/pairing', talk.asOwner({ name: 'Anna', right: 'reader', seesPeople: false }))
  const { hash } = new URL(((await pairing.json()) as { address: string }).address)
  const pair = await at(1, '/api/pair', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ code: hash.slice('#pair='.length), name: 'A browser' }),
  })
  const key = (await pair.json()) as { key: string; id: string }
  const asAnna = { headers: { Authorization: `Bearer ${key.key}` } }
  expect((await at(2, '/api/receiver', asAnna)).status).toBe(200)
  await at(1, `/api/keys/${key.id}/withdraw`, talk.asOwner({}))
  await expect.poll(async () => (await at(2, '/api/receiver', asAnna)).status).toBe(401)

  // Who is there is known to all of them.
  const here = { place: 'form schoolsform', tab: 'onetabofmine' }
  await at(0, '/api/presence', talk.asOwner(here))
  const others = await at(1, '/api/presence', talk.asOwner({ ...here, tab: 'anothertab1' }))
  expect(((await others.json()) as { others: unknown[] }).others).toHaveLength(1)
})

test('receivers killed, servers crashed and replaced, links cut and slow: what was acknowledged is there once, in one order, and every workshop is in step', async () => {
  test.setTimeout(300_000 + (KILLS + CRASHES * 2 + PROMOTIONS * 3) * 20_000)
  const record: LoadRecord = { appends: [], reads: [], confirmed: [], rehearsed: 0, isOver: false }
  const troubles = troublesOfThisRun()
  await Promise.all([beginLoad(several, talk, record), trouble(troubles, record)])

  const all = await wholeJournal()
  expectOneHistory(all, record, troubles.length)
  expectConfirmedOnce(all, record.confirmed)
  expect(all.filter((one) => one.kind === 'member-written' && one.batch === IMPORT.id)).toHaveLength(IMPORT.people)
  await expectWholeMarks(all.length)
  await expectHandedOnOnce(record)
  // Mail: each who was to confirm got one mail; one more where a receiver, or its way to the store, ended between sending and
  // noting so: of those that it had in hand.
  const mails = await Promise.all(record.confirmed.map(async (email) => (await talk.mailsTo(email)).length))
  expect(mails.every((count) => count >= 1)).toBe(true)
  expect(mails.filter((count) => count > 1).length).toBeLessThanOrEqual(troubles.length * MAILS_IN_HAND)
})

/** In an order by the seed. */
const shuffled = <One>(all: readonly One[]): One[] =>
  all
    .map((one, at) => ({ one, place: createHash('sha256').update(`${seed} ${at}`).digest('hex') }))
    .toSorted((a, b) => (a.place < b.place ? -1 : 1))
    .map(({ one }) => one)

const troublesOfThisRun = (): (() => Promise<unknown> | void)[] =>
  shuffled([
    ...Array.from({ length: KILLS }, (_, at) => () => several.kill(at % 3)),
    ...Array.from({ length: CRASHES }, () => async () => {
      await several.database.kill()
      await several.database.start()
    }),
    ...Array.from({ length: PROMOTIONS }, () => () => several.database.promote()),
    () => several.links.forEach((link) => link.cut()),
    async () => {
      several.links.forEach((link) => link.delay(150))
      await pause(2_000)
      several.links.forEach((link) => link.delay(0))
    },
  ])

async function trouble(troubles: readonly (() => Promise<unknown> | void)[], record: LoadRecord): Promise<void> {
  const acknowledged = () => record.appends.filter(({ until }) => until !== null).length
  for (const cause of troubles) {
    // Between two of them somebody comes, on however slow a machine.
    const before = acknowledged()
    while (acknowledged() < before + 5) await pause(20)
    await pause(Math.random() * 500)
    await cause()
  }
  while (record.confirmed.length === 0 || record.rehearsed === 0) await pause(50)
  record.isOver = true
}

/** The journal once the import is done: every workshop is in step soon after the end, whichever receiver it asks. */
async function wholeJournal(): Promise<Entry[]> {
  const state = async () => (await talk.owners<{ state: string }>(`/batches/${IMPORT.id}`)).state
  await expect.poll(state, { timeout: 120_000 }).toBe('done')
  const all: Entry[] = []
  for (let page = await talk.entriesAfter(0); page.length > 0; page = await talk.entriesAfter(all.length))
    all.push(...page)
  return all
}

function expectOneHistory(all: readonly Entry[], { appends, reads }: LoadRecord, troubles: number): void {
  const final = all.map((entry) => ({ n: entry.n, value: valueOf(entry) }))
  const others = final
    .filter(({ value }) => !appends.some((append) => append.value === value))
    .map(({ value }) => ({ value, from: 0, until: null }))
  expect(anomaliesIn(final, [...appends, ...others], reads)).toEqual([])
  expect(appends.filter(({ until }) => until !== null).length).toBeGreaterThan(5 * troubles)
  expect(reads.length).toBeGreaterThan(10)
  expect(all.filter((entry) => JSON.stringify(entry).includes('@rehearsal'))).toEqual([])
}

function expectConfirmedOnce(all: readonly Entry[], confirmed: readonly string[]): void {
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
}

/** By whichever receiver. */
async function expectWholeMarks(latest: number): Promise<void> {
  for (let after = 0; after < latest;) {
    const { broken, cursor } = await talk.owners<{ broken: unknown; cursor: number }>(`/journal/check?after=${after}`)
    expect(broken).toBeNull()
    after = cursor
  }
}

async function expectHandedOnOnce({ appends }: LoadRecord): Promise<void> {
  await talk.owners('/connections/lanternpost/go-on', {})
  const waiting = async () =>
    (await talk.owners<{ handOvers: { id: string; waiting: number }[] }>('/outside')).handOvers.find(
      ({ id }) => id === 'schoolshandedon',
    )!.waiting
  await expect.poll(waiting, { timeout: 120_000 }).toBe(0)
  const there = [...new Holdings(several.serviceFile).list('lantern', 'l1')!.people.values()].map(({ email }) => email)
  const schools = appends.filter(({ value, until }) => value.startsWith('school.') && until !== null)
  expect(schools.filter(({ value }) => there.filter((one) => one === value).length !== 1)).toEqual([])
}

test('a copy and the archive bring any moment back: what came after it is not there, what was before is', async () => {
  test.setTimeout(240_000)
  const { database } = several
  const count = (ask: (sql: string) => Promise<string>) => ask('SELECT count(*) FROM journal')
  const copy = await database.backup('copy')
  await talk.signUp('firstfrost', 'before-the-moment@visitors.example')
  const { latest: before } = await talk.owners<{ latest: number }>('/receiver')
  const moment = await database.ask('SELECT clock_timestamp()')
  await talk.signUp('firstfrost', 'after-the-moment@visitors.example')
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
