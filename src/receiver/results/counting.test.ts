import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join as joinPath } from 'node:path'
import Database from 'libsql'
import type { Seen } from '#core/api'
import type { SpotId } from '#core/ids'
import { change, site, spot, workspace } from '../../../tests/tables/samples'
import { receiverApp } from '../app'
import { type Ledger, openLedger } from '../ledger'
import { readSettings } from '../settings'
import { openStore } from '../subjects'

const PUBLIC_URL = 'https://forms.example'
const KEY = 'the-owners-own-key'
const landing = { ...spot, id: 'landingspot' as SpotId, kind: 'landing' as const }
let folder: string
let ledger: Ledger
const folders: string[] = []
let app: ReturnType<typeof receiverApp>
// 11:30 in UTC is 1:30 of the next day in Kiritimati, by the IANA database.
const BEGINNING = Date.parse('2026-11-20T11:30:00Z')
let at = BEGINNING

beforeEach(async () => {
  at = BEGINNING
  folders.push((folder = mkdtempSync(joinPath(tmpdir(), 'counting-'))))
  await open()
  await ledger.seed({
    ...workspace,
    sites: [{ ...site, zone: 'Pacific/Kiritimati' }],
    spots: [...workspace.spots, landing],
  })
})
afterEach(() => ledger.close())
// Not before all is over: what nobody waits for may still be written.
afterAll(() => folders.forEach((one) => rmSync(one, { recursive: true, force: true })))

async function open(): Promise<void> {
  const now = () => at
  ledger = await openLedger(await openStore(folder), now)
  const reading = readSettings({ ASKBOX_DATA: folder, ASKBOX_TRUST_PROXY: '1', ASKBOX_PUBLIC_URL: PUBLIC_URL }, folder)
  const { settings } = reading as Extract<typeof reading, { ok: true }>
  const clock = { now, sureNow: now } as never
  app = receiverApp({ ledger, settings, ownerKey: KEY, workshop: null, clock })
}

const BROWSER = 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0'
/** The note that comes with the form. */
const noteOf = async (headers: Record<string, string> = {}, of: string = spot.id) => {
  const response = await app.request(`/form/${of}.json`, { headers: { 'User-Agent': BROWSER, ...headers } })
  return response.headers.get('Askbox-View') ?? ''
}
const beacon = async (changes: object = {}, told: object = {}) => ({
  forms: [{ spot: spot.id, view: await noteOf(), isSeen: true, isStarted: false, ...told }],
  ...{ width: 400, cameFrom: { source: '', campaign: '', referrer: '' } },
  ...changes,
})
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
  const told = await beacon({ cameFrom: { source: '', campaign: '', referrer: 'https://www.search.example/' } })
  expect((await send(told)).status).toBe(204)
  // Sent again by the network.
  expect((await send(told)).status).toBe(204)
  await send(
    await beacon(
      { width: 1500, cameFrom: { source: '', campaign: 'letter, mail', referrer: '' } },
      { isStarted: true },
    ),
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
  expect(await noteOf(headers)).toBe('')
  expect((await send(await beacon(), headers)).status).toBe(204)
  await app.request('/page/landingspot', { headers: { 'User-Agent': BROWSER, ...headers } })
  expect((await seen()).rows).toEqual([])
})

test.each<[string, (beacon: object) => unknown]>([
  ['no JSON', () => '{'],
  ['no beacon', () => ({})],
  [
    'another spot',
    (told) => ({ ...told, forms: [{ spot: 'otherspot', view: 'x'.repeat(40), isSeen: true, isStarted: false }] }),
  ],
  ['too much', (told) => ({ ...told, cameFrom: { source: 'x'.repeat(9_000), campaign: '', referrer: '' } })],
  ['an id that could name somebody', (told) => ({ ...told, id: 'ada@people.example' })],
])('%s is refused', async (_, changed) => expect((await send(changed(await beacon()))).status).toBe(422))

test('a page of its own and a frame are counted as they are sent; an owner who looks at them is not', async () => {
  const get = (path: string, headers = {}) => app.request(path, { headers: { 'User-Agent': BROWSER, ...headers } })
  const phone =
    'Mozilla/5.0 (Linux; Android 15; Phone) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140 Mobile Safari/537.36'
  await get('/page/landingspot?source=poster', { 'User-Agent': phone })
  await get('/page/landingspot', { Referer: `${PUBLIC_URL}/forms/x` })
  await get(`/frame/${spot.id}`, { Referer: 'https://blog.example/posts' })
  const rows = async () =>
    (await seen()).rows.map(({ spot: of, source, device, views }) => ({ of, source, device, views }))
  for (let turn = 0; turn < 10_000 && (await rows()).length < 2; turn += 1) await new Promise(setImmediate)
  expect(await rows()).toEqual([
    { of: 'landingspot', source: 'poster', device: 'phone', views: 1 },
    { of: spot.id, source: '', device: 'computer', views: 1 },
  ])
})

test('one address moves a result by its limit; what is more is set aside, and others count on', async () => {
  await Promise.all(
    Array.from({ length: 100 }, async () => send(await beacon(), { 'X-Forwarded-For': '198.51.100.7' })),
  )
  await send(await beacon(), { 'X-Forwarded-For': '203.0.113.5' })
  expect((await seen()).rows).toMatchObject([{ views: 61, setAside: 40 }])
})

test('sources are bounded: the rest is counted together', async () => {
  const marked = async (n: number) =>
    send(await beacon({ cameFrom: { source: `mark ${n}`, campaign: '', referrer: '' } }), {
      'X-Forwarded-For': `198.51.${n}.7`,
    })
  await Promise.all(Array.from({ length: 60 }, (_, n) => marked(n)))
  const { rows } = await seen()
  expect(rows).toHaveLength(41)
  expect(rows.find(({ source }) => source === 'others')).toMatchObject({ views: 20 })
})

test('spots that are paused, gone or nobody’s are not counted', async () => {
  const told = await beacon()
  const { revision } = (await ledger.objectsAfter(0, null, 500))!.items.find(({ key }) => key === spot.id)!
  await ledger.takeChanges([change('spot', { ...spot, state: 'paused' }, revision)])
  await send(told)
  expect(await noteOf()).toBe('')
  await send(await beacon({}, { spot: 'nobodys', view: told.forms[0]!.view }), {}, 'nobodys')
  expect((await seen()).rows).toEqual([])
})

const join = async (fields: Record<string, string>, headers: Record<string, string> = {}) => {
  const response = await app.request(`/join/${spot.id}`, {
    method: 'POST',
    headers: {
      ...{ 'Content-Type': 'application/x-www-form-urlencoded', Accept: 'application/json' },
      ...{ 'User-Agent': BROWSER, ...headers },
    },
    body: new URLSearchParams({ 'askbox-version': '1', 'askbox-seconds': '20', ...fields }).toString(),
  })
  return response.status
}
const totals = async () => {
  const { rows } = await seen()
  const sum = (part: 'views' | 'starts' | 'setAside') => rows.reduce((all, row) => all + row[part], 0)
  const arrivals = (await ledger.entriesAfter(0, null, 500))!.items.filter(({ kind }) => kind === 'arrival')
  const viewed = arrivals.filter((entry) => 'viewed' in entry && entry.viewed)
  return {
    views: sum('views'),
    starts: sum('starts'),
    setAside: sum('setAside'),
    signUps: arrivals.length,
    viewed: viewed.length,
  }
}

test('a sign-up with a note writes its view too, once, and however late the page tells of it', async () => {
  const told = await beacon({}, { isStarted: true })
  const { view } = told.forms[0]!
  expect(await join({ email: 'ada@people.example', 'askbox-view': view })).toBe(200)
  expect(await totals()).toEqual({ views: 1, starts: 1, setAside: 0, signUps: 1, viewed: 1 })
  await send(told)
  // The note of a view that led to a sign-up leads to no other.
  expect(await join({ email: 'bea@people.example', 'askbox-view': view })).toBe(200)
  expect(await totals()).toEqual({ views: 1, starts: 1, setAside: 0, signUps: 2, viewed: 1 })
  // A view that was told before its sign-up.
  const seenFirst = await beacon()
  await send(seenFirst)
  expect(await join({ email: 'cyd@people.example', 'askbox-view': seenFirst.forms[0]!.view })).toBe(200)
  expect(await totals()).toEqual({ views: 2, starts: 2, setAside: 0, signUps: 3, viewed: 2 })
})

test('whoever begins has seen it; a form that a message names twice is one', async () => {
  const told = await beacon({}, { isSeen: false, isStarted: true })
  await send({ ...told, forms: [...told.forms, ...(await beacon()).forms, ...(await beacon()).forms] })
  expect(await totals()).toMatchObject({ views: 1, starts: 1 })
})

const noted = (change: (note: string) => string) => async () => change(await noteOf())
test.each<[string, () => Promise<string>]>([
  ['no note', () => Promise.resolve('')],
  ['a made-up one', () => Promise.resolve(`1.dqzj3.${'a'.repeat(16)}.${'b'.repeat(22)}`)],
  ['one of another version', noted((note) => note.replace(/^1/, '2'))],
  [
    'one of another hour',
    noted((note) => note.replace(/^(1\.)(.)/, (_, start, letter) => `${start}${letter === 'a' ? 'b' : 'a'}`)),
  ],
  ['one of another view', noted((note) => note.replace(/\.[^.]{4}(?=[^.]*\.[^.]*$)/, '.zzzz'))],
  ['letters beyond ASCII', noted((note) => `${note.slice(0, -1)}é`)],
  ['one of another spot', () => ownPage('landingspot')],
])('a sign-up with %s is taken and moves no rate', async (_, note) => {
  expect(await join({ email: 'ada@people.example', 'askbox-view': await note() })).toBe(200)
  expect(await totals()).toMatchObject({ starts: 0, signUps: 1, viewed: 0 })
})
const ownPage = async (of: string) => {
  const page = await (await app.request(`/page/${of}`, { headers: { 'User-Agent': BROWSER } })).text()
  return /name="askbox-view"[^>]*value="([^"]+)"/.exec(page)![1]!
}

test('a note ends after a day, and what is known of its view is forgotten under steady traffic', async () => {
  const note = await noteOf()
  at += 25 * 3_600_000
  expect(await join({ email: 'ada@people.example', 'askbox-view': note })).toBe(200)
  expect(await totals()).toMatchObject({ views: 0, viewed: 0 })
  const known = async () => {
    for (let minute = 0; minute < 60 * 30; minute += 30) {
      at += 30 * 60_000
      await send(await beacon(), { 'X-Forwarded-For': `2001:db8:${minute.toString(16)}::1` })
    }
    await ledger.close()
    const reopened = new Database(joinPath(folder, 'askbox.sqlite'))
    const { count } = reopened.prepare('SELECT count(*) AS count FROM beacons').get() as { count: number }
    reopened.close()
    await open()
    return count
  }
  // 26 hours of two views an hour, and what came since the last look.
  expect(await known()).toBeLessThanOrEqual(26 * 2 + 3)
})

test('one address brings a rate no more sign-ups than views', async () => {
  for (let n = 0; n < 80; n++)
    await join({ email: `n${n}@people.example`, 'askbox-view': await noteOf() }, { 'X-Forwarded-For': '198.51.100.7' })
  expect(await totals()).toMatchObject({ views: 60, viewed: 60 })
})

test('a time as one sum tells of each spot, version and source what its days tell together', async () => {
  const days = ['2026-10-31', '2026-11-01', '2026-11-15', '2026-11-30', '2026-12-01']
  const rows = days.flatMap((day, at) =>
    (['phone', 'computer'] as const).flatMap((device) =>
      ['', 'poster'].map((source) => ({
        ...{ day, device, source, spot: spot.id, version: 1 + (at % 2) },
        ...{ views: 7 + at, starts: at, setAside: 1 },
      })),
    ),
  )
  await ledger.results.add(rows, [])
  const read = async (whole: 'yes' | 'no') => {
    const path = `/api/seen?from=2026-11-01&to=2026-11-30&whole=${whole}`
    const response = await app.request(path, { headers: { Authorization: `Bearer ${KEY}` } })
    return ((await response.json()) as Seen).rows
  }
  const byDay = await read('no')
  const whole = await read('yes')
  expect(whole).toHaveLength(4)
  for (const { day, version, source, views, starts, setAside } of whole) {
    const own = byDay.filter((row) => row.version === version && row.source === source)
    const sum = (part: 'views' | 'starts' | 'setAside') => own.reduce((all, row) => all + row[part], 0)
    expect([day, views, starts, setAside]).toEqual(['2026-11-01', sum('views'), sum('starts'), sum('setAside')])
  }
})
