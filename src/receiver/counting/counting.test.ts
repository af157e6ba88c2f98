import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Seen } from '#core/api'
import type { SpotId } from '#core/ids'
import { change, site, spot, workspace } from '../../../tests/tables/samples'
import { receiverApp } from '../app'
import { type Ledger, openLedger } from '../ledger'
import { readSettings } from '../settings'
import { openEmbeddedEngine } from '../store'

const PUBLIC_URL = 'https://forms.example'
const KEY = 'the-owners-own-key'
const landing = { ...spot, id: 'landingspot' as SpotId, kind: 'landing' as const }
let folder: string
let ledger: Ledger
let app: ReturnType<typeof receiverApp>

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'counting-'))
  await open()
  await ledger.seed({
    ...workspace,
    sites: [{ ...site, zone: 'Pacific/Kiritimati' }],
    spots: [...workspace.spots, landing],
  })
})
afterEach(async () => {
  await ledger.close()
  rmSync(folder, { recursive: true, force: true })
})

async function open(): Promise<void> {
  // 11:30 in UTC is 1:30 of the next day in Kiritimati, by the IANA database.
  const now = () => Date.parse('2026-11-20T11:30:00Z')
  ledger = await openLedger(await openEmbeddedEngine(folder), now)
  const reading = readSettings({ ASKBOX_DATA: folder, ASKBOX_TRUST_PROXY: '1', ASKBOX_PUBLIC_URL: PUBLIC_URL }, folder)
  const { settings } = reading as Extract<typeof reading, { ok: true }>
  const clock = { now, sureNow: now } as never
  app = receiverApp({ ledger, settings, ownerKey: KEY, workshop: null, clock })
}

let made = 0
const beacon = (changes: object = {}) => ({
  id: `beacon${String((made += 1)).padStart(12, '0')}`,
  forms: [{ spot: spot.id, version: 1, isSeen: true, isStarted: false }],
  ...{ width: 400, mark: '', campaign: '', referrer: '' },
  ...changes,
})
const BROWSER = 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0'
const send = (body: unknown, headers: Record<string, string> = {}, to: string = spot.id) =>
  app.request(`/seen/${to}`, {
    method: 'POST',
    headers: { 'Content-Type': 'text/plain;charset=UTF-8', 'User-Agent': BROWSER, ...headers },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  })
const seen = async (): Promise<Seen> => {
  const response = await app.request('/api/seen?from=2026-11-01&to=2026-11-30&closely=yes', {
    headers: { Authorization: `Bearer ${KEY}` },
  })
  return (await response.json()) as Seen
}

test('what a page tells is counted once, by the clocks of its site, and is there after a kill', async () => {
  const told = beacon({ referrer: 'www.search.example' })
  expect((await send(told)).status).toBe(204)
  // Sent again by the network.
  expect((await send(told)).status).toBe(204)
  await send(
    beacon({
      width: 1500,
      campaign: 'letter, mail',
      forms: [{ spot: spot.id, version: 1, isSeen: true, isStarted: true }],
    }),
  )
  await ledger.close()
  await open()
  const row = { day: '2026-11-21', spot: spot.id, version: 1, setAside: 0 }
  expect(await seen()).toEqual({
    rows: expect.arrayContaining([
      { ...row, source: 'search.example', device: 'phone', views: 1, starts: 0 },
      { ...row, source: 'letter, mail', device: 'computer', views: 1, starts: 1 },
    ]) as unknown,
    hours: [{ day: '2026-11-21', hour: 1, spot: spot.id, views: 2 }],
    since: [{ spot: spot.id, day: '2026-11-21' }],
  })
  // It is known from before, too.
  await send(told)
  expect((await seen()).hours[0]!.views).toBe(2)
})

test.each([
  ['Global Privacy Control', { 'Sec-GPC': '1' }],
  ['Do Not Track', { DNT: '1' }],
  ['a program', { 'User-Agent': 'ExampleBot/1.0 (+https://bot.example)' }],
  ['fetched before it was asked for', { 'Sec-Purpose': 'prefetch' }],
])('%s is not counted, and is answered alike', async (_, headers) => {
  expect((await send(beacon(), headers)).status).toBe(204)
  await app.request('/page/landingspot', { headers: { 'User-Agent': BROWSER, ...headers } })
  expect((await seen()).rows).toEqual([])
})

test.each<[string, unknown]>([
  ['no JSON', '{'],
  ['no beacon', {}],
  ['another spot', beacon({ forms: [{ spot: 'otherspot', version: 1, isSeen: true, isStarted: false }] })],
  ['too much', beacon({ mark: 'x'.repeat(9_000) })],
  ['an id that could name somebody', beacon({ id: 'ada@people.example' })],
])('%s is refused', async (_, body) => expect((await send(body)).status).toBe(422))

test('a page of its own and a frame are counted as they are sent; an owner who looks at them is not', async () => {
  const get = (path: string, headers = {}) => app.request(path, { headers: { 'User-Agent': BROWSER, ...headers } })
  const phone =
    'Mozilla/5.0 (Linux; Android 15; Phone) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140 Mobile Safari/537.36'
  await get('/page/landingspot?source=poster', { 'User-Agent': phone })
  await get('/page/landingspot', { Referer: `${PUBLIC_URL}/forms/x` })
  await get(`/frame/${spot.id}`, { Referer: 'https://blog.example/posts' })
  const rows = async () =>
    (await seen()).rows.map(({ spot: of, source, device, views }) => ({ of, source, device, views }))
  for (let turn = 0; turn < 100 && (await rows()).length < 2; turn += 1) await new Promise(setImmediate)
  expect(await rows()).toEqual([
    { of: 'landingspot', source: 'poster', device: 'phone', views: 1 },
    { of: spot.id, source: 'blog.example', device: 'computer', views: 1 },
  ])
})

test('one address moves a result by its limit; what is more is set aside, and others count on', async () => {
  for (let at = 0; at < 100; at += 1) await send(beacon(), { 'X-Forwarded-For': '198.51.100.7' })
  await send(beacon(), { 'X-Forwarded-For': '203.0.113.5' })
  expect((await seen()).rows).toMatchObject([{ views: 61, setAside: 40 }])
})

test('sources are bounded: the rest is counted together', async () => {
  for (let at = 0; at < 60; at += 1) await send(beacon({ mark: `mark ${at}` }), { 'X-Forwarded-For': `198.51.${at}.7` })
  const { rows } = await seen()
  expect(rows).toHaveLength(41)
  expect(rows.find(({ source }) => source === 'others')).toMatchObject({ views: 20 })
})

test('spots that are paused, gone or nobody’s are not counted', async () => {
  const { revision } = (await ledger.objectsAfter(0, null, 500))!.items.find(({ key }) => key === spot.id)!
  await ledger.takeChanges([change('spot', { ...spot, state: 'paused' }, revision)])
  await send(beacon())
  await send(beacon({ forms: [{ spot: 'nobodys', version: 1, isSeen: true, isStarted: true }] }), {}, 'nobodys')
  expect((await seen()).rows).toEqual([])
})
