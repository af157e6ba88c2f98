import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Context, Hono } from 'hono'
import parsePrometheus from 'parse-prometheus-text-format'
import { receiverApp } from '../app'
import { type Ledger, openLedger } from '../ledger'
import { complain, openLog, tell } from '../log'
import { readSettings } from '../settings'
import { openStore, subjects } from '../subjects'
import { Metrics } from '.'
import * as samples from '../../../tests/tables/samples'
import { settingsFor } from '../../../tests/ledger'

const KEY = 'the-computers-own-key'
let folder: string
let ledger: Ledger
let app: Hono
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'metrics-'))
  ledger = await openLedger(await openStore(folder), Date.now)
  await ledger.seed(samples.workspace)
  const settings = settingsFor({ ASKBOX_METRICS_FROM: '10.1.0.0/16, fd00::/8', ASKBOX_TRUST_PROXY: '1' }, folder)
  const metrics = new Metrics()
  ledger.measureCommits((writes) => metrics.commit(writes))
  metrics.over(ledger, () => subjects.flatMap(({ lanes }) => lanes?.({ ledger }) ?? []))
  app = receiverApp({ ledger, settings, ownerKey: KEY, workshop: null, metrics })
})
afterAll(async () => {
  await ledger.close()
  rmSync(folder, { recursive: true, force: true })
})
const ask = (path: string, headers: Record<string, string> = {}) => app.request(path, { headers })
// No two are the same bytes, which would be a retry.
let sent = 0
const signUp = async (email: string, spot: string = samples.spot.id) =>
  app.request(`/join/${spot}`, {
    method: 'POST',
    body: new URLSearchParams({ email, 'askbox-seconds': `${60 + sent++}` }),
  })

type Metric = {
  name: string
  type: string
  metrics: { labels?: Record<string, string>; value?: string; count?: string }[]
}

test('figures are read by another package’s parser (Prometheus text format 0.0.4), and count what happened', async () => {
  for (const email of ['ada@post.example', 'ada@post.example', 'ben@post.example', 'no address']) await signUp(email)
  await signUp('ada@post.example', 'nowhere')
  const answer = await ask('/metrics', { Authorization: `Bearer ${KEY}` })
  expect(answer.headers.get('Content-Type')).toMatch(/^text\/plain; version=0\.0\.4/)
  const text = await answer.text()
  const all = parsePrometheus(text) as Metric[]
  const values = (name: string) =>
    Object.fromEntries(
      all
        .find((one) => one.name === name)!
        .metrics.map(({ labels = {}, value, count }) => [Object.values(labels).join(' '), Number(value ?? count)]),
    )
  expect(values('askbox_sign_ups_total')).toEqual({ joined: 2, 'already-on-list': 1, invalid: 1, closed: 1 })
  expect(values('askbox_sign_up_seconds')).toEqual({ '': 5 })
  expect(values('askbox_journal_entries')).toEqual({ '': 3 })
  expect(values('askbox_store_up')).toEqual({ '': 1 })
  expect(values('askbox_writes_per_commit')['']).toBeGreaterThanOrEqual(3)
  expect(Object.keys(values('askbox_jobs'))).toEqual(
    expect.arrayContaining(['mail open', 'batches open', 'mail refused']),
  )
  // Every one says what it is, and none says anything of anybody.
  const named = all.map(({ name }) => name)
  expect(named.filter((name) => !new RegExp(`^# HELP ${name} .{10,}$`, 'm').test(text))).toEqual([])
  expect(text).not.toMatch(/post\.example|@/)
})

test.each<[string, Record<string, string>, number]>([
  ['nobody', {}, 401],
  ['a wrong key', { Authorization: 'Bearer somebody-elses-key' }, 401],
  ['the key', { Authorization: `Bearer ${KEY}` }, 200],
  ['an address of the list', { 'X-Forwarded-For': '10.1.2.3' }, 200],
  ['another address', { 'X-Forwarded-For': '10.2.2.3' }, 401],
  ['one of the list in IPv6', { 'X-Forwarded-For': 'fd12::1' }, 200],
  ['one of the list as IPv6 writes it', { 'X-Forwarded-For': '::ffff:10.1.2.3' }, 200],
  ['what is no address', { 'X-Forwarded-For': '10.1.2.3.evil' }, 401],
  ['a claim of the visitor’s', { 'X-Forwarded-For': '10.1.2.3, 192.0.2.9' }, 401],
])('%s reads the figures or not', async (_, headers, status) => {
  expect((await ask('/metrics', headers)).status).toBe(status)
  expect((await ask('/alive', headers)).status).toBe(200)
})

test.each(['10.1.0.0/33', 'localhost', '10.1', '10.1.0.0/8/8', '10.0.0.0/-1'])(
  'a list with “%s” in it stops the start',
  (one) => {
    const reading = readSettings({ ASKBOX_METRICS_FROM: `192.0.2.1 ${one}` }, '/tmp')
    expect(reading).toMatchObject({ ok: false, message: expect.stringContaining('ASKBOX_METRICS_FROM') })
  },
)

test('what is told is one JSON object a line, with the request’s number, and without anybody’s address', () => {
  const said: string[] = []
  openLog('json', { write: (line: string) => void said.push(line) })
  try {
    tell('ready', { shared: true })
    const request = { req: { raw: new Request('https://forms.example/confirm/secret-token?email=ada@post.example') } }
    const about = request as unknown as Context
    // The same is told once a minute.
    const code = `23505-${performance.now()}`
    const error = Object.assign(new Error('Key (compared)=(ada@post.example) already\nexists'), {
      code,
      detail: 'ada@post.example',
    })
    complain(error, about)
    complain(error, about)
    complain(`<ben@post.example> is not taken ${code}`)
  } finally {
    openLog('text')
  }
  const lines = said.map((line) => JSON.parse(line) as Record<string, unknown>)
  expect(said.every((line) => line.indexOf('\n') === line.length - 1)).toBe(true)
  expect(lines).toMatchObject([
    { level: 'info', msg: 'ready', shared: true },
    {
      level: 'error',
      code: expect.stringContaining('23505'),
      msg: expect.stringContaining('(an address)'),
      request: expect.stringMatching(/-\d+$/),
    },
    { level: 'warn', msg: expect.stringContaining('is not taken') },
  ])
  expect(said.join('')).not.toMatch(/@|secret-token|post\.example/)
})
