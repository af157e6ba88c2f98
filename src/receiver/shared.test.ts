import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Entry } from '#core/journal'
import { freePort } from '../../tests/free-port'
import { type PostgresServer, startPostgres } from '../../tests/postgres-server'
import { seed } from '../../tests/seed'
import { CannotStart } from './cannot-start'
import { type RunningReceiver, startReceiver } from './start'
import type { Subject } from './subject'
import { subjects } from './subjects'
import { expectComplaints } from '../../tests/expected-complaints'

expectComplaints(/ServerUnusable|Connection terminated|terminating connection|ECONN|database system is/)

const KEY = 'k'.repeat(40)
const SECRET = 's'.repeat(40)
const DEMO = join(import.meta.dirname, '../../demo/cloudberry-hill.json')
let postgres: PostgresServer
beforeAll(async () => (postgres = await startPostgres()), 120_000)
afterAll(() => postgres.stop())

async function start(
  url: string,
  more: Record<string, string> = {},
  demo: string | null = null,
  all: readonly Subject[] = subjects,
) {
  const port = await freePort()
  const receiver = await startReceiver(
    {
      ...{
        ASKBOX_LOG: 'text',
        ASKBOX_PORT: String(port),
        ASKBOX_DATA: mkdtempSync(join(tmpdir(), 'ask-box-shared-')),
        ASKBOX_BROWSER: 'none',
      },
      ...{ DATABASE_URL: url, ASKBOX_KEY: KEY, ASKBOX_SECRET: SECRET },
      ...more,
    },
    demo,
    { all },
  )
  return { receiver, address: `http://localhost:${port}` }
}
type Started = { receiver: RunningReceiver; address: string }

async function entriesOf({ address }: Started): Promise<Entry[]> {
  const all: Entry[] = []
  for (;;) {
    const response = await fetch(`${address}/api/journal?after=${all.length}`, {
      headers: { Authorization: `Bearer ${KEY}` },
    })
    const { entries } = (await response.json()) as { entries: Entry[] }
    if (entries.length === 0) return all
    all.push(...entries)
  }
}
const addressesIn = (entries: readonly Entry[]) =>
  entries.flatMap((entry) => (entry.kind === 'arrival' && entry.personal?.email ? [entry.personal.email.typed] : []))

async function signUp({ address }: Started, email: string): Promise<boolean> {
  const response = await fetch(`${address}/join/firstfrost`, {
    method: 'POST',
    headers: { Accept: 'application/json' },
    body: new URLSearchParams({ email }),
    signal: AbortSignal.timeout(20_000),
  }).catch(() => null)
  return response?.status === 200
}

test('two receivers on one server: while it crashes and comes back, nothing acknowledged is lost or doubled, and both go on by themselves', async () => {
  const url = await postgres.url('crashes')
  const one = await start(url, {}, DEMO)
  const other = await start(url)
  try {
    const before = (await entriesOf(one)).length
    const acknowledged: string[] = []
    let isOver = false
    let refused = 0
    const loads = [one, other].flatMap((receiver, at) =>
      [0, 1, 2].map(async (hand) => {
        for (let number = 0; !isOver; number += 1) {
          const email = `r${at}h${hand}n${number}@visitor${at}${hand}${number}.example`
          if (await signUp(receiver, email)) acknowledged.push(email)
          else {
            refused += 1
            await new Promise((resolve) => setTimeout(resolve, 50))
          }
        }
      }),
    )
    const least = async (count: number) => {
      while (acknowledged.length < count) await new Promise((resolve) => setTimeout(resolve, 20))
    }
    await least(40)
    for (const crash of [1, 2]) {
      await postgres.crash()
      await new Promise((resolve) => setTimeout(resolve, 50 + ((seed * crash * 37) % 300)))
      expect((await fetch(`${one.address}/health`)).status).toBe(503)
      await postgres.start()
      await least(acknowledged.length + 40)
    }
    isOver = true
    await Promise.all(loads)
    expect(refused).toBeGreaterThan(0)
    const [here, there] = [await entriesOf(one), await entriesOf(other)]
    expect(there).toEqual(here)
    expect(here.map(({ n }) => n)).toEqual(here.map((_, at) => at + 1))
    const kept = addressesIn(here.slice(before))
    expect(new Set(kept).size).toBe(kept.length)
    expect(acknowledged.filter((email) => !kept.includes(email))).toEqual([])
  } finally {
    await Promise.all([one.receiver.stop(), other.receiver.stop()])
  }
}, 240_000)

test('what one publishes the other shows at once, and what one was paired with opens the other', async () => {
  const url = await postgres.url('shown')
  const one = await start(url, {}, DEMO)
  const other = await start(url)
  try {
    const stream = await fetch(`${other.address}/api/stream`, { headers: { Authorization: `Bearer ${KEY}` } })
    const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader()
    await reader.read()
    expect(await signUp(one, 'seen@visitor.example')).toBe(true)
    let told = ''
    while (!/"latest":\d+/.test(told)) told += (await reader.read()).value ?? ''
    await reader.cancel()
    const care = await fetch(`${one.address}/api/care`, { headers: { Authorization: `Bearer ${KEY}` } })
    expect(await care.json()).toMatchObject({ backups: { areMadeByServer: true } })
    expect(addressesIn(await entriesOf(other))).toContain('seen@visitor.example')
    // Sent again to the other within half a minute, it is the same sign-up.
    const again = await fetch(`${other.address}/join/firstfrost`, {
      method: 'POST',
      headers: { Accept: 'application/json' },
      body: new URLSearchParams({ email: 'seen@visitor.example' }),
    })
    expect(await again.json()).toEqual({ outcome: 'joined' })
  } finally {
    await Promise.all([one.receiver.stop(), other.receiver.stop()])
  }
}, 120_000)

describe('what cannot be used is said in one line', () => {
  const refusal = async (url: string, more: Record<string, string> = {}) => {
    const started = await start(url, more).then(
      ({ receiver }) => receiver.stop().then(() => 'it started'),
      (error: unknown) => error,
    )
    if (!(started instanceof CannotStart)) throw new Error(String(started))
    expect(started.message).not.toContain('\n')
    return started.message
  }

  test('nobody is there; another is tried first', async () => {
    const port = await freePort()
    const url = (await postgres.url('there')).replace('127.0.0.1', `127.0.0.1:${port},127.0.0.1`)
    const { receiver } = await start(url)
    await receiver.stop()
    expect(await refusal(`postgres://a@127.0.0.1:${port}/b`)).toMatch(
      /^The database \(DATABASE_URL\) cannot be used: 127\.0\.0\.1:\d+: .*ECONNREFUSED/,
    )
  })

  test('it sorts by a language, the role may not create tables, the database is not there', async () => {
    await postgres.query(`CREATE DATABASE sorted TEMPLATE template0 LOCALE 'en_US.UTF-8' ENCODING 'UTF8'`).catch(() =>
      // Where no such language is installed, the library's own.
      postgres.query(
        `CREATE DATABASE sorted TEMPLATE template0 LOCALE_PROVIDER icu ICU_LOCALE 'en' LOCALE 'C' ENCODING 'UTF8'`,
      ),
    )
    const url = await postgres.url('there')
    expect(await refusal(url.replace('/there', '/sorted'))).toContain('sorts by')
    expect(await refusal(url.replace('/there', '/nowhere'))).toContain('does not exist')
    await postgres.query('CREATE ROLE looker LOGIN')
    expect(await refusal(url.replace('postgres@', 'looker@'))).toContain('may not create tables')
  })

  test('another secret than the one that the store was begun with', async () => {
    const url = await postgres.url('secret')
    const { receiver } = await start(url)
    await receiver.stop()
    expect(await refusal(url, { ASKBOX_SECRET: 'another'.repeat(5) })).toMatch(/^ASKBOX_SECRET is another/)
  })
})

/** A table more, as a version to come may have it. @param isCompatible whether this version works beside it */
const next = (isCompatible: boolean): Subject => ({
  name: 'to come',
  tables: [
    {
      migrations: {
        '999-to-come': {
          ...(isCompatible && { isCompatible: true as const }),
          up: (db) => db.schema.createTable('to_come').addColumn('id', 'text').execute(),
        },
      },
      queries: () => ({}),
    },
  ],
})

test('receivers are updated one after the other: the newer step is there, and both versions take sign-ups, until one does not go with it', async () => {
  const url = await postgres.url('rolling')
  let old = await start(url, {}, DEMO)
  const newer = await start(url, {}, null, [...subjects, next(true)])
  for (const one of [old, newer]) expect(await signUp(one, `${one === old ? 'old' : 'new'}@people.example`)).toBe(true)
  // The old version is started once more, on what the newer one made.
  await old.receiver.stop()
  old = await start(url)
  expect(await signUp(old, 'old-again@people.example')).toBe(true)
  const both = await Promise.all([old, newer].map(entriesOf))
  expect(both[0]).toEqual(both[1])
  await Promise.all([old, newer].map(({ receiver }) => receiver.stop()))

  const other = await postgres.url('rolling-not')
  const ahead = await start(other, {}, DEMO, [...subjects, next(false)])
  await expect(start(other)).rejects.toThrow(/made by another build of Ask Box/)
  expect(await signUp(ahead, 'goes-on@people.example')).toBe(true)
  await ahead.receiver.stop()
}, 60_000)
