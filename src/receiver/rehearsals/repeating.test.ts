import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { rehearsalAddress } from '#core/proof'
import { keyOf } from '#core/sync'
import * as samples from '../../../tests/tables/samples'
import { receiverApp } from '../app'
import { type Ledger, openLedger } from '../ledger'
import { addressLimiter } from '../limits'
import type { Settings } from '../settings'
import { openStore } from '../subjects'
import { Rehearsals } from './rehearsals'
import { Repeating } from './repeating'

let folder: string
let ledger: Ledger
let now = Date.parse('2026-03-01T12:00:00.000Z')
const settings: Settings = {
  host: '127.0.0.1',
  port: 0,
  dataFolder: '',
  publicUrl: 'http://127.0.0.1:1',
  trustedProxies: 0,
  ownerKey: null,
  bodyLimit: 64 * 1024,
  standIns: null,
  serviceStandIns: null,
  secret: null,
  database: null,
  smtpServer: null,
  mailbox: null,
  clockFile: null,
  log: 'text' as const,
  metricsFrom: null,
  nameServers: [],
  browser: null,
}
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'repeating-'))
  ledger = await openLedger(await openStore(folder), () => now)
  await ledger.seed(samples.workspace)
})
afterEach(async () => {
  await ledger.close()
  rmSync(folder, { recursive: true, force: true })
})

test('spots are rehearsed as often as their owner chose, and a spot keeps its newest five', async () => {
  const repeating = new Repeating({
    ledger,
    rehearsals: new Rehearsals(ledger, () => now),
    settings,
    mail: { queue: ledger.queue, mailbox: () => Promise.resolve(null) },
    now: () => now,
  })
  expect(await repeating.look()).toEqual([])
  const preferences = { videoHosts: [], rehearseEvery: 'day' as const }
  await ledger.takeChanges([
    { kind: 'preferences', key: keyOf('preferences', preferences), base: 0, body: preferences },
  ])
  const [first] = await repeating.look()
  // Nothing answers there.
  expect(first).toMatchObject({ spot: samples.spot.id, verdict: 'failed', by: 'receiver' })
  expect(first!.steps.at(-1)!.failure!.code).toBe('site-down')
  now += 23 * 3_600_000
  expect(await repeating.look()).toEqual([])
  for (let day = 0; day < 7; day++) {
    now += 25 * 3_600_000
    expect(await repeating.look()).toHaveLength(1)
  }
  const kept = (await ledger.objectsAfter(0, null, 1000))!.items.filter(({ kind }) => kind === 'proof')
  expect(kept).toHaveLength(5)
  expect(kept.some(({ key }) => key === first!.id)).toBe(false)
})

describe('a test mark', () => {
  const app = () => receiverApp({ ledger, settings, ownerKey: 'the-owners-own-key', workshop: null, rehearsals })
  /** Where an address may send three a minute. */
  const limitedApp = () =>
    receiverApp({
      ledger,
      settings: { ...settings, trustedProxies: 1 },
      ownerKey: 'the-owners-own-key',
      workshop: null,
      rehearsals,
      limiter: addressLimiter(3, 60),
    })
  let rehearsals: Rehearsals
  beforeEach(() => (rehearsals = new Rehearsals(ledger, () => now)))
  const join = (email: string, headers: Record<string, string> = {}) =>
    app().request(`/join/${samples.spot.id}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', ...headers },
      body: JSON.stringify({ email, 'askbox-version': '1' }),
    })

  test('is refused without its code, with one that has ended, and in a header', async () => {
    const { code } = (await rehearsals.start(samples.spot.id))!
    expect((await join(rehearsalAddress(code, 'ilse'))).status).toBe(200)
    expect(await ledger.latest()).toBe(0)
    for (const address of [
      rehearsalAddress('b'.repeat(20), 'ilse'),
      'ilse@rehearsal.example',
      `ilse-${code}x@rehearsal.example`,
    ])
      expect([address, (await join(address)).status]).toEqual([address, 403])
    expect((await join('ada@people.example', { 'Askbox-Rehearsal': 'nonsense' })).status).toBe(403)
    expect((await join('ada@people.example', { 'Askbox-Rehearsal': `${'b'.repeat(20)}; as=retired` })).status).toBe(403)
    await rehearsals.end(code)
    expect((await join(rehearsalAddress(code, 'ilse'))).status).toBe(403)
    expect(await ledger.latest()).toBe(0)
  })

  test('of one rehearsal is never another’s, and a real visitor is mixed into neither', async () => {
    const [one, other] = [(await rehearsals.start(samples.spot.id))!, (await rehearsals.start(samples.spot.id))!]
    await join(rehearsalAddress(one.code, 'ilse'))
    expect((await one.space.known(rehearsalAddress(one.code, 'ilse'))).arrivals).toHaveLength(1)
    expect((await other.space.known(rehearsalAddress(one.code, 'ilse'))).arrivals).toEqual([])
    expect((await (await join('ada@people.example')).json()) as object).toEqual({ outcome: 'joined' })
    expect((await one.space.known('ada@people.example')).arrivals).toEqual([])
    expect(await ledger.latest()).toBe(1)
  })

  test('lifts the limits for its own people at its own spot alone, and for no more of them than all cases have', async () => {
    const { code } = (await rehearsals.start(samples.spot.id))!
    const limited = limitedApp()
    const join = async (email: string, spot: string = samples.spot.id) =>
      (
        await limited.request(`/join/${spot}`, {
          method: 'POST',
          headers: {
            'Content-Type': 'application/json',
            'X-Forwarded-For': '198.51.100.9',
            'Askbox-Rehearsal': code,
          },
          body: JSON.stringify({ email }),
        })
      ).status
    // Whoever reads its code from the page signs nobody real up by it.
    const real = await Promise.all(Array.from({ length: 50 }, (_, at) => join(`real${at}@people.example`)))
    expect(new Set(real)).toEqual(new Set([403]))
    expect(await ledger.latest()).toBe(0)
    expect(await join(rehearsalAddress(code, 'ilse'), 'otherspot')).not.toBe(200)
    const madeUp = []
    for (let at = 0; at < 200; at++) madeUp.push(await join(rehearsalAddress(code, `ilse${at}`)))
    expect(madeUp.slice(0, 100)).toEqual(Array(100).fill(200))
    expect(madeUp.at(-1)).not.toBe(200)
    const { code: short } = (await rehearsals.start(samples.spot.id))!
    now += 6 * 60_000
    expect(await rehearsals.get(short)).toBeNull()
  })

  test('does not use up what an address may send in a minute, and everything else does', async () => {
    const { code } = (await rehearsals.start(samples.spot.id))!
    const limited = limitedApp()
    const join = (email: string) =>
      limited.request(`/join/${samples.spot.id}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', 'X-Forwarded-For': '198.51.100.7' },
        body: JSON.stringify({ email }),
      })
    for (let count = 0; count < 8; count++)
      expect((await join(rehearsalAddress(code, `ilse${count}`))).status).toBe(200)
    expect((await join('one@people.example')).status).toBe(200)
    // One that is refused counts like any other.
    for (let count = 0; count < 2; count++)
      expect((await join(rehearsalAddress('b'.repeat(20), 'ilse'))).status).toBe(403)
    expect((await join('two@people.example')).status).toBe(429)
  })

  test('ends by itself, and only its owner begins one or sends by it', async () => {
    const { code } = (await rehearsals.start(samples.spot.id))!
    now += 31 * 60_000
    expect((await join(rehearsalAddress(code, 'ilse'))).status).toBe(403)
    expect((await app().request('/api/rehearsals', { method: 'POST' })).status).toBe(401)
    const { code: fresh } = (await rehearsals.start(samples.spot.id))!
    const send = (address: string) =>
      app().request(`/api/rehearsals/${fresh}/send`, {
        method: 'POST',
        headers: { Authorization: 'Bearer the-owners-own-key', 'Content-Type': 'application/json' },
        body: JSON.stringify({ address, contentType: 'text/plain', body: '' }),
      })
    // To its own actions, and to nothing that looks like them.
    for (const address of [
      'https://elsewhere.example/join/x',
      `${settings.publicUrl}.evil.example/join/x`,
      `${settings.publicUrl}/api/refill`,
    ])
      expect([address, (await send(address)).status]).toEqual([address, 403])
  })
})
