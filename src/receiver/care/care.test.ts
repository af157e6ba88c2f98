import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Proof } from '#core/proof'
import Database from 'libsql'
import { startMail } from '#core/message'
import * as samples from '../../../tests/tables/samples'
import { signUp } from '../../../tests/store-suite'
import { receiverApp } from '../app'
import { type Ledger, openLedger } from '../ledger'
import { mailJob, mailsInState } from '../mail/queued'
import { compose, Sender } from '../mail'
import type { Settings } from '../settings'
import { checkCopy } from './check-copy'
import { openStore } from '../subjects'
import { type Care, openCare, tellOfProof } from '.'
import { MailWatch } from './watch'
import { expectComplaints } from '../../../tests/expected-complaints'

expectComplaints(/The store is (?:damaged|behind)|not as they were written/)

const DAY_MS = 86_400_000
const KEY = 'the-owners-own-key'
let folder: string
let ledger: Ledger
let care: Care
let now: number
const settings = (): Settings => ({
  host: '127.0.0.1',
  port: 0,
  dataFolder: folder,
  publicUrl: 'https://forms.example',
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
})
const open = () => openCare({ ledger, settings: settings(), now: () => now })

beforeEach(async () => {
  now = Date.parse('2026-03-01T12:00:00.000Z')
  folder = mkdtempSync(join(tmpdir(), 'care-'))
  ledger = await openLedger(await openStore(folder), () => now)
  await ledger.seed(samples.workspace)
  const draft = { ...startMail(samples.list.id, samples.list.name).draft, senderAddress: 'letters@hill.example' }
  await ledger.takeChanges([
    { kind: 'mail', key: samples.list.id, base: 0, body: { list: samples.list.id, draft, published: draft } },
  ])
  care = open()
})
afterEach(async () => {
  await ledger.close()
  rmSync(folder, { recursive: true, force: true })
})

/** What waits to be sent to the owner, as it would be sent now. */
async function told() {
  const alerts = (await mailsInState(ledger.queue, 'waiting', 100)).filter(({ kind }) => kind === 'alert')
  const parts = {
    ledger,
    publicUrl: '',
    keys: await ledger.linkKeys(),
    giftFile: () => null,
    memberOf: () => Promise.resolve(null),
  }
  const composed = await Promise.all(alerts.map((mail) => compose(mail, { ...parts, alertWords: care.alertWords })))
  return composed.map(({ to, subject, text }) => ({ to, subject, text: String(text) }))
}

test('copies make themselves once a day, are whole, hold gifts and no key, and the oldest beyond so many go', async () => {
  mkdirSync(join(folder, 'gifts'))
  writeFileSync(join(folder, 'gifts', 'a'.repeat(64)), 'chart')
  const place = join(folder, 'elsewhere')
  mkdirSync(place)
  for (const own of ['holiday.jpg', 'askbox-notes.txt']) writeFileSync(join(place, own), 'mine')
  // Made by hand, with `npm run backup`.
  mkdirSync(join(place, 'askbox-2020-01-01T00-00-00'))
  mkdirSync(join(place, 'askbox-daily-2020-01-01T00-00-00.unfinished'))
  await care.file.keep({ backups: { isOn: true, folder: place, keep: 3 } })
  for (let day = 0; day < 5; day++) {
    await ledger.signUp(signUp(`day-${day}@mail.example`), `${day}`)
    await care.backups.look()
    // Within the day none is due.
    now += DAY_MS - 1
    await care.backups.look()
    now += 1
  }
  const copies = readdirSync(place).filter((name) => name.startsWith('askbox-daily-'))
  expect(copies).toHaveLength(3)
  for (const own of ['holiday.jpg', 'askbox-notes.txt', 'askbox-2020-01-01T00-00-00'])
    expect([own, existsSync(join(place, own))]).toEqual([own, true])
  expect(readdirSync(place).filter((name) => name.endsWith('.unfinished'))).toEqual([])
  const newest = join(place, copies.sort().at(-1)!)
  expect(checkCopy(join(newest, 'askbox.sqlite')).entries).toBe(await ledger.latest())
  expect(readdirSync(newest).sort()).toEqual(['askbox.sqlite', 'gifts', 'newest.json'])
  expect(readdirSync(join(newest, 'gifts'))).toHaveLength(1)
  expect(care.file.read().lastBackup).toMatchObject({ path: newest, entries: await ledger.latest() })
  // Another start goes on from there.
  care = open()
  await care.backups.look()
  expect(readdirSync(place).filter((name) => name.startsWith('askbox-daily-'))).toHaveLength(3)
  const before = readdirSync(place)
  await care.file.keep({ backups: { isOn: false, folder: place, keep: 3 } })
  now += 3 * DAY_MS
  await care.backups.look()
  expect(readdirSync(place)).toEqual(before)
})

/** Opens the store as a start does, after its file was changed from outside. */
async function reopened(change: (file: string) => void): Promise<void> {
  await ledger.close()
  change(join(folder, 'askbox.sqlite'))
  ledger = await openLedger(await openStore(folder), () => now)
  care = open()
  await care.begin()
}
const raised = () => Object.keys(care.file.read().raised)
function sql(file: string, text: string): void {
  const database = new Database(file)
  database.exec(text)
  database.close()
}

const PAGE = 'a page'
test.each<[string, (file: string) => void]>([
  [PAGE, (file) => overwrite(file, 'day-7@mail.example')],
  ['one letter of an event', (file) => sql(file, `UPDATE journal SET personal = replace(personal, 'day-7', 'dax-7')`)],
  ['an event that was taken out', (file) => sql(file, 'DELETE FROM journal WHERE n = 5')],
  ['a member that cannot be read', (file) => sql(file, `UPDATE members SET body = substr(body, 2) WHERE rowid = 3`)],
])('a damaged store is found and told of with its newest whole copy, and takes sign-ups: %s', async (name, change) => {
  for (let n = 0; n < 30; n++) await ledger.signUp(signUp(`day-${n}@mail.example`), `${n}`)
  await care.backups.look()
  const whole = care.file.read().lastBackup!.path
  await care.store.look()
  expect(raised()).toEqual([])
  await reopened(change)
  await care.store.look()
  expect(raised()).toEqual(['store-damaged'])
  expect(care.file.read().raised['store-damaged']!.text).toContain(`npm run restore -- ${whole}`)
  expect(readdirSync(folder).filter((name) => name.startsWith('copy-'))).toEqual([])
  // Where the very page is what they are written into, they cannot be taken.
  if (name !== PAGE)
    expect(await ledger.signUp(signUp('later@mail.example'), 'later')).toMatchObject({ verdict: 'joined' })
  // The whole copy is not replaced by one of what is damaged.
  now += DAY_MS
  await care.backups.look()
  expect(care.file.read().lastBackup!.path).toBe(whole)
})

test('a row that was changed, or is gone, is found within ten looks, put right and told of, until a whole round finds none', async () => {
  for (let n = 0; n < 30; n++) await ledger.signUp(signUp(`day-${n}@mail.example`), `${n}`)
  await reopened((file) =>
    sql(file, `UPDATE members SET body = replace(body, 'day-7', 'dax-7') WHERE compared LIKE 'day-7@%'`),
  )
  const looks = async (times: number) => {
    for (let at = 0; at < times; at++) await care.store.lookAtPeople()
  }
  await looks(11)
  expect(raised()).toEqual(['store-people'])
  expect(await ledger.signUp(signUp('day-7@mail.example'), 'again')).toMatchObject({ verdict: 'already-on-list' })
  await looks(22)
  expect(raised()).toEqual([])
  await care.store.note()
  await reopened((file) => sql(file, `DELETE FROM members WHERE compared LIKE 'day-9@%'`))
  await looks(1)
  expect(raised()).toEqual(['store-people'])
  expect(await ledger.signUp(signUp('day-9@mail.example'), 'again 9')).toMatchObject({ verdict: 'already-on-list' })
  await looks(22)
  expect(raised()).toEqual([])
})

/** Fills the page around a text with another letter. */
function overwrite(file: string, text: string): void {
  const bytes = readFileSync(file)
  const at = Math.floor(bytes.indexOf(text) / 4_096) * 4_096
  bytes.fill(0x5a, at, at + 4_096)
  writeFileSync(file, bytes)
}

test('a store that ends before what it had, or has another history, is said at the start', async () => {
  for (let n = 0; n < 5; n++) await ledger.signUp(signUp(`day-${n}@mail.example`), `${n}`)
  await care.store.note()
  await reopened(() => {})
  expect(raised()).toEqual([])
  await reopened((file) => sql(file, 'DELETE FROM journal WHERE n > 3'))
  expect(raised()).toEqual(['store-behind'])
  expect(care.file.read().raised['store-behind']!.text).toContain('It ends at event 3, and had 5.')
})

test('what a process left of a copy that it did not finish is taken away at the next start', async () => {
  const place = join(folder, 'backups', 'askbox-daily-2020-01-01T00-00-00.unfinished')
  mkdirSync(place, { recursive: true })
  await reopened(() => {})
  expect(existsSync(place)).toBe(false)
})

test('a copy that cannot be made is told by one mail with what to do, until one could be made again', async () => {
  await care.file.keep({ alerts: { address: 'owner@hill.example' } })
  const blocked = join(folder, 'blocked')
  writeFileSync(blocked, 'a file where a folder should be')
  await care.file.keep({ backups: { isOn: true, folder: join(blocked, 'in it'), keep: 7 } })
  for (let hour = 0; hour < 3; hour++, now += 3_600_000) await care.backups.look()
  expect(care.file.read().backupProblem).not.toBeNull()
  expect(await told()).toEqual([
    {
      to: 'owner@hill.example',
      subject: 'Ask Box: No backup could be made',
      text: expect.stringMatching(/What to do: .*folder/s) as string,
    },
  ])
  await care.file.keep({ backups: { isOn: true, folder: '', keep: 7 } })
  expect(await care.backups.make()).toBe(true)
  // Well again: what waits is not sent any more, and the next time is told anew.
  await expect(told()).rejects.toThrow('well again')
  expect(care.file.read()).toMatchObject({ backupProblem: null, raised: {} })
})

test('mail that is refused, a server that takes none, and a repeated rehearsal that fails are each told once', async () => {
  await care.file.keep({ alerts: { address: 'owner@hill.example' } })
  const sender = new Sender({
    ledger,
    fixedServer: null,
    isStandIn: () => false,
    compose: { ledger, publicUrl: '', giftFile: () => null, memberOf: () => Promise.resolve(null) },
    keepForRehearsal: () => Promise.resolve(),
    now: () => now,
  })
  const watch = new MailWatch({ ledger, sender, alerts: care.alerts, now: () => now })
  await watch.look()
  expect(await told()).toEqual([])
  const recipient = { typed: 'ada@mail.example', compared: 'ada@mail.example' }
  await ledger.queue.add(mailJob({ list: samples.list.id, member: '', kind: 'welcome', recipient }, now, { id: 'm1' }))
  await ledger.queue.settle('m1', { state: 'refused', said: '550 No such user here', isTarget: false })
  await sender.change(() => ({ halted: { at: now, said: '554 Go away' } }))
  const step = { station: 'form', case: 'first', what: 'Somebody new', seen: 'Nothing answered.', verdict: 'failed' }
  const failed = { spot: samples.spot.id, verdict: 'failed', steps: [step] } as unknown as Proof
  for (let time = 0; time < 2; time++) {
    await watch.look()
    await tellOfProof(failed, ledger, care.alerts)
  }
  expect((await told()).map(({ subject }) => subject).sort()).toEqual([
    'Ask Box: A mail was refused',
    expect.stringMatching(/^Ask Box: .*: the line broke$/) as string,
    'Ask Box: The mail server takes no mail',
  ])
  expect((await told()).map(({ text }) => text).join()).toMatch(/550 No such user here/)
  // Each is well again by itself.
  await sender.change(() => ({ halted: null }))
  now += 2 * DAY_MS
  await watch.look()
  await tellOfProof({ ...failed, verdict: 'passed', steps: [] }, ledger, care.alerts)
  expect(care.file.read().raised).toEqual({})
})

test('the owner’s side reads and sets it, and takes no relative folder and no address that is none', async () => {
  const app = receiverApp({ ledger, settings: settings(), ownerKey: KEY, workshop: null, care })
  const ask = async (path: string, method = 'GET', json?: unknown) => {
    const response = await app.request(`/api/care${path}`, {
      method,
      headers: { Authorization: `Bearer ${KEY}`, 'Content-Type': 'application/json' },
      ...(json !== undefined && { body: JSON.stringify(json) }),
    })
    return { status: response.status, body: (await response.json()) as Record<string, never> }
  }
  expect((await ask('')).body).toMatchObject({ backups: { isOn: true, keep: 7, last: null }, alerts: { address: '' } })
  expect((await ask('/backups/now', 'POST')).body).toMatchObject({
    backups: { last: { entries: await ledger.latest() } },
  })
  // What broke before anybody could be told is told to whoever says where.
  await care.alerts.raise('backup', { subject: 'No backup could be made', text: 'What to do: make room.' })
  expect(await told()).toEqual([])
  for (let time = 0; time < 2; time++)
    expect((await ask('/alerts', 'PUT', { address: 'owner@hill.example' })).status).toBe(200)
  expect((await told()).map(({ subject }) => subject)).toEqual(['Ask Box: No backup could be made'])
  for (const [path, json] of [
    ['/backups', { isOn: true, folder: 'copies', keep: 7 }],
    ['/backups', { isOn: true, folder: '', keep: 0 }],
    ['/alerts', { address: 'nobody' }],
  ] as const)
    expect((await ask(path, 'PUT', json)).status).toBeGreaterThanOrEqual(400)
  expect((await ask('')).body).toMatchObject({ alerts: { address: 'owner@hill.example' }, backups: { keep: 7 } })
})
