import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { simpleParser } from 'mailparser'
import { SMTPServer } from 'smtp-server'
import { startMail } from '#core/message'
import { receiverApp } from './app'
import { type Ledger, openLedger } from './ledger'
import { mailParts } from './mail-parts'
import { Rehearsals } from './rehearsal/rehearsals'
import type { Settings } from './settings'
import { openEmbeddedEngine } from './store'
import * as samples from '../../tests/tables/samples'

const DAY_MS = 86_400_000
let folder: string
let ledger: Ledger
let server: SMTPServer
let app: ReturnType<typeof receiverApp>
let stop: () => Promise<void>
let time: number
let settings: Settings
let mails: { to: string[]; from: string; bytes: Buffer }[]
/** What the mail server answers to a recipient; undefined for a yes. */
let refuses: (address: string) => number | undefined

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'mail-'))
  time = Date.now()
  mails = []
  refuses = () => undefined
  ledger = await openLedger(await openEmbeddedEngine(folder), () => time)
  await ledger.seed(samples.workspace)
  server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS'],
    onRcptTo({ address }, _, done) {
      const code = refuses(address)
      done(code === undefined ? null : Object.assign(new Error('no'), { responseCode: code }))
    },
    onData(stream, session, done) {
      const chunks: Buffer[] = []
      stream.on('data', (chunk: Buffer) => chunks.push(chunk))
      stream.on('end', () => {
        const from = session.envelope.mailFrom
        mails.push({
          to: session.envelope.rcptTo.map(({ address }) => address),
          from: from === false ? '' : from.address,
          bytes: Buffer.concat(chunks),
        })
        done()
      })
    },
  })
  const port = await freePort()
  await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve))
  settings = {
    host: '127.0.0.1',
    port: 0,
    dataFolder: folder,
    publicUrl: 'https://forms.example',
    trustedProxies: 0,
    ownerKey: null,
    bodyLimit: 64 * 1024,
    standIns: null,
    smtpServer: { host: '127.0.0.1', port, security: 'none', user: '', password: '' },
    mailbox: null,
    clockFile: null,
  }
  const rehearsals = new Rehearsals(ledger)
  const mail = mailParts({ ledger, settings, rehearsals, now: () => time })
  app = receiverApp({ ledger, settings, ownerKey: 'the-owners-own-key', workshop: null, rehearsals, mail })
  stop = await mail.sender.start()
  await publish()
})
afterEach(async () => {
  await stop()
  server.close()
  await ledger.close()
  rmSync(folder, { recursive: true, force: true })
})

type Settings_ = ReturnType<typeof startMail>['draft']
async function publish(changes: Partial<Settings_> = {}): Promise<void> {
  const draft = {
    ...startMail(samples.list.id, samples.list.name).draft,
    confirm: 'always' as const,
    senderName: 'Ada at the hill',
    senderAddress: 'letters@hill.example',
    bounceAddress: 'bounces@hill.example',
    ...changes,
  }
  const known = ledger.objectsAfter(0, null, 1000)!.items.find(({ kind }) => kind === 'mail')
  const [outcome] = await ledger.takeChanges([
    {
      kind: 'mail',
      key: samples.list.id,
      base: known?.revision ?? 0,
      body: { list: samples.list.id, draft, published: draft },
    },
  ])
  expect(outcome).toMatchObject({ ok: true })
}

async function freePort(): Promise<number> {
  const probe = createServer().listen(0, '127.0.0.1')
  await new Promise((resolve) => probe.once('listening', resolve))
  const { port } = probe.address() as { port: number }
  await new Promise((resolve) => probe.close(resolve))
  return port
}

const join_ = (email: string, more: Record<string, string> = {}) =>
  app.request(`/join/${samples.spot.id}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/x-www-form-urlencoded' },
    body: new URLSearchParams({ email, 'askbox-version': '1', ...more }).toString(),
  })
const until = async <T>(look: () => T | undefined): Promise<T> => {
  for (;;) {
    const found = look()
    if (found !== undefined) return found
    await new Promise((resolve) => setTimeout(resolve, 10))
  }
}
/** The mail of this number, in the order in which they came. */
const mailNumber = async (number: number) => simpleParser((await until(() => mails[number])).bytes)
const linkIn = (text: string, path: string) => new RegExp(`/${path}/[\\w-]+`).exec(text)?.[0] ?? ''
const press = (path: string, body = '') =>
  app.request(path, { method: 'POST', headers: { 'Content-Type': 'application/x-www-form-urlencoded' }, body })
const statusOf = (email: string) => {
  const arrival = ledger
    .entriesAfter(0, null, 1000)!
    .items.find((entry) => 'email' in entry && entry.email?.compared === email)
  return arrival === undefined || arrival.member === null ? null : ledger.member(arrival.member)?.status
}

test('asked to confirm, confirmed by a press and by nothing else, welcomed, left by one click, and back by one press', async () => {
  const joined = await join_('Ada@visitor.example')
  expect(joined.headers.get('Location')).toMatch(/^\/answer\/samplespot\/confirm-first\?version=1&again=/)
  const confirmation = await mailNumber(0)
  expect(mails[0]).toMatchObject({ to: ['Ada@visitor.example'], from: 'bounces@hill.example' })
  const link = linkIn(confirmation.text!, 'confirm')
  expect(statusOf('ada@visitor.example')).toBe('waiting')
  for (const method of ['GET', 'HEAD']) expect((await app.request(link, { method })).status).toBe(200)
  expect(statusOf('ada@visitor.example')).toBe('waiting')
  expect(await (await press(link)).text()).toContain('You are on the list')
  expect(statusOf('ada@visitor.example')).toBe('confirmed')

  const welcome = await mailNumber(1)
  const leave =
    /<https:\/\/forms\.example([^>]+)>/.exec(String(welcome.headers.get('list') ? '' : ''))?.[1] ??
    linkIn(welcome.text!, 'leave')
  expect((await app.request(leave)).status).toBe(200)
  expect(statusOf('ada@visitor.example')).toBe('confirmed')
  await press(leave, 'List-Unsubscribe=One-Click')
  expect(statusOf('ada@visitor.example')).toBe('left')
  const leaving = await mailNumber(2)
  const back = linkIn(leaving.text!, 'leave')
  expect(await (await app.request(`${back}?back`)).text()).toContain('Put me back on the list')
  await press(back, 'askbox-do=come-back')
  expect(statusOf('ada@visitor.example')).toBe('confirmed')
})

test('who never confirms is removed after the list’s days, and the old link says so; joining again works', async () => {
  await join_('late@visitor.example')
  const link = linkIn((await mailNumber(0)).text!, 'confirm')
  time += 6 * DAY_MS
  expect(await ledger.expireWaiting()).toBe(0)
  time += 1.1 * DAY_MS
  expect(await ledger.expireWaiting()).toBe(1)
  expect(statusOf('late@visitor.example')).toBe('removed')
  expect(await (await press(link)).text()).toContain('This link is used up')
  await join_('late@visitor.example')
  const again = linkIn((await mailNumber(1)).text!, 'confirm')
  expect(again).not.toBe(link)
  await press(again)
  expect(statusOf('late@visitor.example')).toBe('confirmed')
})
