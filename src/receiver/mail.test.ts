import { createHash } from 'node:crypto'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { solveChallenge } from 'altcha-lib'
import { deriveKey } from 'altcha-lib/algorithms/web/pbkdf2'
import { simpleParser } from 'mailparser'
import { SMTPServer } from 'smtp-server'
import { emailIn } from '#core/journal'
import { startMail, withoutLinks } from '#core/message'
import { PeopleCounter } from '#core/results'
import { receiverApp } from './app'
import { type Ledger, openLedger } from './ledger'
import { MAIL, mailJob, mailOf, mailsInState, type QueuedMailState } from './mail/queued'
import { addressLimiter } from './limits'
import { mailParts } from './mail'
import { Rehearsals } from './rehearsals'
import type { Settings } from './settings'
import { openStore } from './subjects'
import { LATER } from './work/tables'
import { signUp } from '../../tests/store-suite'
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
/** What the mail server answers to a recipient, or with `data: ` before it to the mail itself; undefined for a yes. */
let refuses: (address: string) => string | undefined

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'mail-'))
  time = Date.now()
  mails = []
  refuses = () => undefined
  ledger = await openLedger(await openStore(folder), () => time)
  await ledger.seed(samples.workspace)
  server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS'],
    hideENHANCEDSTATUSCODES: true,
    onRcptTo({ address }, _, done) {
      const reply = refuses(address)
      done(reply === undefined || reply.startsWith('data: ') ? null : asReply(reply))
    },
    onData(stream, session, done) {
      const chunks: Buffer[] = []
      stream.on('data', (chunk: Buffer) => chunks.push(chunk))
      stream.on('end', () => {
        const from = session.envelope.mailFrom
        const reply = refuses(session.envelope.rcptTo[0]!.address)
        if (reply !== undefined) return done(asReply(reply.replace('data: ', '')))
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
    trustedProxies: 1,
    ownerKey: null,
    bodyLimit: 64 * 1024,
    standIns: null,
    serviceStandIns: null,
    secret: null,
    database: null,
    smtpServer: { host: '127.0.0.1', port, security: 'none', user: '', password: '' },
    mailbox: null,
    clockFile: null,
    log: 'text' as const,
    metricsFrom: null,
    nameServers: [],
    browser: null,
  }
  const rehearsals = new Rehearsals(ledger)
  const mail = mailParts({
    ledger,
    settings,
    rehearsals,
    clock: { now: () => time, sureNow: () => time, steady: () => time },
  })
  app = receiverApp({
    ledger,
    settings,
    ownerKey: 'the-owners-own-key',
    workshop: null,
    rehearsals,
    mail,
    limiter: addressLimiter(70),
  })
  stop = mail.sender.start()
  await publish()
})
afterEach(async () => {
  await stop()
  server.close()
  await ledger.close()
  rmSync(folder, { recursive: true, force: true })
})

const asReply = (reply: string) => Object.assign(new Error(reply.slice(4)), { responseCode: Number(reply.slice(0, 3)) })

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
  const known = (await ledger.objectsAfter(0, null, 1000))!.items.find(({ kind }) => kind === 'mail')
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
const until = async <T>(look: () => T | undefined | Promise<T | undefined>): Promise<T> => {
  for (;;) {
    const found = await look()
    if (found !== undefined) return found
    await new Promise((resolve) => setTimeout(resolve, 10))
  }
}
/** The mail of this number, in the order in which they came. */
const mailNumber = async (number: number) => simpleParser((await until(() => mails[number])).bytes)
const linkIn = (text: string, path: string) => new RegExp(`/${path}/[\\w-]+`).exec(text)?.[0] ?? ''
const press = async (path: string, body = '') => {
  const answer = await app.request(path, {
    ...{ method: 'POST', headers: { 'Content-Type': 'application/x-www-form-urlencoded', Accept: 'text/html' }, body },
  })
  // What a press changed is said by the page that it leads to.
  const led = answer.status === 303 ? answer.headers.get('Location')! : null
  return led?.startsWith('/') ? app.request(led) : answer
}
const statusOf = async (email: string) => {
  const { items } = (await ledger.entriesAfter(0, null, 1000))!
  const arrival = items.find((entry) => emailIn(entry)?.compared === email)
  return arrival === undefined || arrival.member === null ? null : (await ledger.member(arrival.member))?.status
}
const mailsThat = (state: QueuedMailState) => mailsInState(ledger.queue, state, 1000)
const countOf = async (state: QueuedMailState) => (await mailsThat(state)).length

test('asked to confirm, confirmed by a press and by nothing else, welcomed, left by one click, and back by one press', async () => {
  const joined = await join_('Ada@visitor.example')
  expect(joined.headers.get('Location')).toMatch(/^\/answer\/samplespot\/confirm-first\?version=1&again=/)
  const confirmation = await mailNumber(0)
  expect(mails[0]).toMatchObject({ to: ['Ada@visitor.example'], from: 'bounces@hill.example' })
  const link = linkIn(confirmation.text!, 'confirm')
  expect(await statusOf('ada@visitor.example')).toBe('waiting')
  for (const method of ['GET', 'HEAD']) expect((await app.request(link, { method })).status).toBe(200)
  expect(await statusOf('ada@visitor.example')).toBe('waiting')
  expect(await (await press(link)).text()).toContain('You are on the list')
  expect(await statusOf('ada@visitor.example')).toBe('confirmed')

  const welcome = await mailNumber(1)
  const leave = linkIn(welcome.text!, 'leave')
  expect((await app.request(leave)).status).toBe(200)
  expect(await statusOf('ada@visitor.example')).toBe('confirmed')
  await press(leave, 'List-Unsubscribe=One-Click')
  expect(await statusOf('ada@visitor.example')).toBe('left')
  const leaving = await mailNumber(2)
  const back = linkIn(leaving.text!, 'leave')
  expect(await (await app.request(`${back}?back`)).text()).toContain('Put me back on the list')
  await press(back, 'askbox-do=come-back')
  expect(await statusOf('ada@visitor.example')).toBe('confirmed')
})

test('who never confirms is removed after the list’s days, and the old link says so; joining again works', async () => {
  await join_('late@visitor.example')
  const link = linkIn((await mailNumber(0)).text!, 'confirm')
  time += 6 * DAY_MS
  expect(await ledger.expireWaiting()).toBe(0)
  time += 1.1 * DAY_MS
  expect(await ledger.expireWaiting()).toBe(1)
  expect(await statusOf('late@visitor.example')).toBe('removed')
  expect(await (await press(link)).text()).toContain('This link is used up')
  await join_('late@visitor.example')
  const again = linkIn((await mailNumber(1)).text!, 'confirm')
  expect(again).not.toBe(link)
  await press(again)
  expect(await statusOf('late@visitor.example')).toBe('confirmed')
})

test('a reminder comes halfway through the waiting, to who still waits and to nobody else', async () => {
  const { messages } = startMail(samples.list.id, samples.list.name).draft
  await publish({ messages: { ...messages, reminder: { ...messages.reminder, isOn: true } } })
  await join_('late@visitor.example')
  await mailNumber(0)
  await join_('quick@visitor.example')
  await press(linkIn((await mailNumber(1)).text!, 'confirm'))
  await mailNumber(2)
  time += 3.6 * DAY_MS
  // What is due is looked for when something happens, or after half a minute.
  await join_('wakes@visitor.example')
  const to = (address: string) => mails.filter((mail) => mail.to[0] === address)
  const reminder = await until(() => to('late@visitor.example')[1])
  await press(linkIn((await simpleParser(reminder.bytes)).text!, 'confirm'))
  expect(await statusOf('late@visitor.example')).toBe('confirmed')
  await until(async () => ((await countOf('dropped')) === 1 ? true : undefined))
  expect(to('quick@visitor.example')).toHaveLength(2)
})

test('who waited when a new receiver was filled is removed in time there too', async () => {
  await join_('late@visitor.example')
  const elsewhere = mkdtempSync(join(tmpdir(), 'mail-'))
  const fresh = await openLedger(await openStore(elsewhere), () => time)
  await fresh.seed(samples.workspace)
  await fresh.refill(await ledger.journalId(), (await ledger.entriesAfter(0, null, 100))!.items)
  time += 6 * DAY_MS
  expect(await fresh.expireWaiting()).toBe(0)
  time += 1.1 * DAY_MS
  expect(await fresh.expireWaiting()).toBe(1)
  await fresh.close()
  rmSync(elsewhere, { recursive: true, force: true })
})

test('an address that the server refuses for good is marked; what may pass is tried again, with the same Message-ID', async () => {
  refuses = (address) =>
    address.startsWith('nobody') ? '550 5.1.1 no' : address.startsWith('busy') ? '451 no' : undefined
  await join_('there@visitor.example')
  await mailNumber(0)
  await join_('nobody@visitor.example')
  await join_('busy@visitor.example')
  await until(async () => ((await countOf('refused')) === 1 ? true : undefined))
  expect(await statusOf('nobody@visitor.example')).toBe('bounced')
  const waiting = await until(async () => (await mailsThat('waiting')).find(({ said }) => said.startsWith('451')))
  expect(await statusOf('busy@visitor.example')).toBe('waiting')
  refuses = () => undefined
  const again = await app.request(`/api/mail/queue/${waiting.id}/again`, {
    method: 'POST',
    headers: { Authorization: 'Bearer the-owners-own-key' },
  })
  expect(await again.json()).toEqual({ isQueued: true })
  const mail = await mailNumber(1)
  expect(mail.messageId).toBe(`<${waiting.id}@hill.example>`)
})

const owner = { Authorization: 'Bearer the-owners-own-key' }
const ask = async (path: string) =>
  (await app.request(`/api/mail${path}`, { method: path === '' ? 'GET' : 'POST', headers: owner })).json()
const joinAll = (many: number, name = 'person') =>
  Promise.all(Array.from({ length: many }, (_, at) => join_(`${name}${at}@visitor${at}.example`)))

describe('a server that refuses everybody refuses the sender', () => {
  test.each([
    ['a policy', '550 5.7.1 Sender blocked'],
    ['its storage', '552 5.2.2 Over quota'],
    ['without a status', '550 no'],
    ['by the name of each mailbox', '550 5.1.1 No such user'],
    ['after the mail', 'data: 554 5.7.1 Looks like spam'],
    ['without a status, after it took some', '550 no', 3],
    ['by the name of each mailbox, after it took some', '550 5.1.1 No such user', 3],
    ['for good, after it took some', '550 5.2.1 Mailbox disabled', 3],
  ])('%s: nobody is marked, sending stops and goes on', async (_, reply, taken = 0) => {
    await joinAll(taken, 'taken')
    await until(() => (mails.length === taken ? true : undefined))
    refuses = () => reply
    await joinAll(12)
    const state = await until(async () => {
      const { halted } = (await ask('')) as { halted: { said: string } | null }
      return halted ?? undefined
    })
    expect(state.said).toBe(reply.replace('data: ', ''))
    await until(async () => ((await countOf('sending')) === 0 ? true : undefined))
    expect(await ask('')).toMatchObject({ halted: { said: state.said }, wronglyMarked: 0 })
    const addresses = Array.from({ length: 12 }, (_, at) => `person${at}@visitor${at}.example`)
    expect(await Promise.all(addresses.map(statusOf))).toEqual(Array(12).fill('waiting'))
    refuses = () => undefined
    expect(await ask('/go-on')).toMatchObject({ halted: null })
    await until(async () => ((await countOf('waiting')) + (await countOf('sending')) === 0 ? true : undefined))
    // Each once, whoever had been marked and was put back.
    expect(
      mails
        .slice(taken)
        .map(({ to }) => to[0]!)
        .sort(),
    ).toEqual([...addresses].sort())
  })
})

test('a domain that takes none of us holds up its own mail alone, marks nobody, is told, and goes on by itself', async () => {
  await joinAll(2, 'taken')
  await until(() => (mails.length === 2 ? true : undefined))
  const said = '550 Your network is on our block list'
  refuses = (address) => (address.endsWith('@school.example') ? said : undefined)
  for (let at = 0; at < 4; at++) {
    await join_(`pupil${at}@school.example`)
    await join_(`other${at}@visitor${at}.example`)
  }
  await until(() => (mails.length === 6 ? true : undefined))
  const told = async () =>
    ((await ask('')) as { refusing: { domain: string; said: string; waiting: number }[] }).refusing
  await until(async () => ((await told()).length > 0 ? true : undefined))
  await until(async () => ((await countOf('sending')) === 0 ? true : undefined))
  expect(await told()).toMatchObject([{ domain: 'school.example', said, waiting: 4, nextAt: time + 3_600_000 }])
  expect((await ask('')) as { halted: unknown }).toMatchObject({ halted: null })
  for (let at = 0; at < 4; at++) expect(await statusOf(`pupil${at}@school.example`)).toBe('waiting')
  refuses = () => undefined
  time += 3_700_000
  await join_('late@visitor9.example')
  await until(() => (mails.length === 11 ? true : undefined))
  expect(await told()).toEqual([])
  expect(await countOf('refused')).toBe(0)
})

test('mail is known to arrive once a link in it was followed, and not any more once the server refuses', async () => {
  const delivery = async () =>
    ((await ask('')) as { delivery: Record<string, { state: string }> }).delivery[samples.list.id]
  expect(await delivery()).toEqual({ state: 'untried', said: '' })
  await join_('ada@visitor.example')
  await press(linkIn((await mailNumber(0)).text!, 'confirm'))
  expect(await delivery()).toEqual({ state: 'arrived', said: '' })
  await mailNumber(1)
  refuses = () => '550 5.7.1 Blocked'
  await join_('ben@visitor.example')
  await until(async () => (await mailsThat('waiting')).find(({ said }) => said !== ''))
  expect(await delivery()).toEqual({ state: 'refused', said: '550 5.7.1 Blocked' })
  // Another sender is another matter.
  refuses = () => undefined
  await ask('/go-on')
  await mailNumber(2)
  expect(await delivery()).toEqual({ state: 'arrived', said: '' })
  await publish({ senderAddress: 'others@hill.example' })
  expect(await delivery()).toEqual({ state: 'untried', said: '' })
})

test('a bare 550 marks the address once the same server took somebody else since, and not before', async () => {
  refuses = (address) => (address.startsWith('gone') ? '550 no' : undefined)
  await join_('gone1@visitor.example')
  const first = await until(async () => (await mailsThat('waiting')).find(({ said }) => said !== ''))
  expect(await statusOf('gone1@visitor.example')).toBe('waiting')
  expect(first.said).toBe('550 no')
  await join_('there@visitor.example')
  await mailNumber(0)
  // By itself: it is tried again as soon as it can be judged.
  await until(async () => ((await statusOf('gone1@visitor.example')) === 'bounced' ? true : undefined))
  await join_('gone2@visitor.example')
  await until(async () => ((await mailsThat('waiting')).some(({ said }) => said === '550 no') ? true : undefined))
  expect(await statusOf('gone2@visitor.example')).toBe('waiting')
  await join_('there2@visitor.example')
  await until(async () => ((await statusOf('gone2@visitor.example')) === 'bounced' ? true : undefined))
  expect(await statusOf('there@visitor.example')).toBe('waiting')
})

test('who was marked for a fault of the sender is put back by one press, whatever they were, and can confirm', async () => {
  await joinAll(3)
  await until(() => (mails.length === 3 ? true : undefined))
  const members = (await ledger.entriesAfter(0, null, 100))!.items.flatMap((entry) =>
    entry.kind === 'arrival' ? [entry.member!] : [],
  )
  await press(linkIn((await mailNumber(0)).text!, 'confirm'))
  await until(() => (mails.length === 4 ? true : undefined))
  // As earlier versions marked them.
  await ledger.bounce(members.at(-3)!, '550 5.7.1 Blocked')
  await ledger.bounce(members.at(-2)!, '552 5.2.2 Over quota')
  await ledger.bounce(members.at(-1)!, '550 5.1.1 No such mailbox')
  time += 20 * DAY_MS
  expect(await ask('')).toMatchObject({ wronglyMarked: 2 })
  expect(await ask('/put-back')).toMatchObject({ count: 2, mail: { wronglyMarked: 0 } })
  const statusesOf = () => Promise.all(members.slice(-3).map(async (id) => (await ledger.member(id))!.status))
  const statuses = await statusesOf()
  expect(statuses.toSorted()).toEqual(['bounced', 'confirmed', 'waiting'])
  const again = await mailNumber(4)
  await press(linkIn(again.text!, 'confirm'))
  expect((await statusesOf()).filter((status) => status === 'confirmed')).toHaveLength(2)
})

test('a delivery report (RFC 3464) marks whom it is about, and only for a mail that was sent from here', async () => {
  await join_('gone@visitor.example')
  const { messageId } = await mailNumber(0)
  const report = (about: string, recipient = 'gone@visitor.example', status = '5.1.1') =>
    app.request('/api/mail/reports', {
      method: 'POST',
      headers: { Authorization: 'Bearer the-owners-own-key', 'Content-Type': 'message/rfc822' },
      // RFC 3464, section 2; RFC 6522.
      body: [
        'From: postmaster@post.example',
        'MIME-Version: 1.0',
        'Content-Type: multipart/report; report-type=delivery-status; boundary="b"',
        '',
        '--b',
        'Content-Type: message/delivery-status',
        '',
        'Reporting-MTA: dns; mx.post.example',
        '',
        `Final-Recipient: rfc822; ${recipient}`,
        'Action: failed',
        `Status: ${status}`,
        'Diagnostic-Code: smtp; 550 no such mailbox',
        '',
        '--b',
        'Content-Type: text/rfc822-headers',
        '',
        `Message-ID: ${about}`,
        'Subject: x',
        '',
        '--b--',
        '',
      ].join('\r\n'),
    })
  expect((await report('<other@hill.example>')).status).toBe(422)
  expect((await report(messageId!, 'else@visitor.example')).status).toBe(422)
  expect(await (await report(messageId!, undefined, '4.2.2')).json()).toMatchObject({ isForGood: false })
  expect(await statusOf('gone@visitor.example')).toBe('waiting')
  expect(await (await report(messageId!, undefined, '5.7.1')).json()).toMatchObject({ isForGood: false, member: false })
  expect(await (await report(messageId!)).json()).toMatchObject({ isForGood: true, member: true })
  expect(await statusOf('gone@visitor.example')).toBe('bounced')
})

test('to one typed address go at most five mails a day, whoever asks', async () => {
  for (let times = 0; times < 12; times += 1)
    await join_('tired@visitor.example', { 'askbox-page': `https://a.example/${times}` })
  await until(() => (mails.length === 5 ? true : undefined))
  expect(await countOf('waiting')).toBe(0)
})

describe('a flood of sign-ups', () => {
  const from = (address: string, email: string, spot = samples.spot.id as string) =>
    app.request(`/join/${spot}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/x-www-form-urlencoded', 'X-Forwarded-For': address },
      body: new URLSearchParams({ email, 'askbox-version': '1' }).toString(),
    })
  const waiting = () => mailsThat('waiting')
  const stopped = { server: null, pace: { minute: 1, hour: 1, day: 1 }, isStopped: true, dkim: null, halted: null }
  beforeEach(() => ledger.values.keep('mail settings', stopped))

  test('other spellings of an inbox are the same inbox: sub-addresses, and dots where they count for nothing', async () => {
    for (let at = 0; at < 30; at++) {
      await from(`192.0.2.${at}`, `big+${at}@post.example`)
      const dotted = [...'longname'].map((letter, place) => ((at >> place) & 1 ? `${letter}.` : letter)).join('')
      await from(`198.51.${at}.1`, `${dotted.replace(/\.$/, '')}@gmail.com`)
    }
    expect((await waiting()).filter(({ inbox }) => inbox === 'big@post.example')).toHaveLength(5)
    expect((await waiting()).filter(({ inbox }) => inbox === 'longname@gmail.com')).toHaveLength(5)
  })

  test('one network, however many addresses it has, and one domain cause no more than a share', async () => {
    for (let at = 0; at < 400; at++) await from(`2001:db8:1:${(at % 256).toString(16)}::1`, `a${at}@many${at}.example`)
    expect((await waiting()).length).toBeLessThanOrEqual(240)
    const before = (await waiting()).length
    for (let at = 0; at < 100; at++) await from(`203.0.${at}.1`, `a${at}@school.example`)
    expect((await waiting()).length - before).toBe(60)
  })

  test('an honest sign-up goes before it, and shuts nobody out: a press and a puzzle, or another day', async () => {
    for (let at = 0; at < 60; at++) await from('192.0.2.1', `made-up${at}@many${at}.example`)
    await from('198.51.100.1', 'honest@visitor.example')
    expect((await ledger.queue.due(MAIL, 3)).map((job) => mailOf(job).recipient)).toContain('honest@visitor.example')
    // A member of the very network that floods.
    await from('192.0.2.1', 'last@visitor.example')
    time += 61_000
    const answer = await from('192.0.2.1', 'held@visitor.example')
    const page = await app.request(answer.headers.get('Location')!)
    const html = await page.text()
    expect(html).toContain('none went out this time')
    expect((await waiting()).filter(({ recipient }) => recipient === 'held@visitor.example')).toEqual([])
    const again = new URL(answer.headers.get('Location')!, 'http://x.example').searchParams.get('again')!
    const puzzle = await press(`/resend/${samples.spot.id}`, `askbox-again=${again}`)
    expect(puzzle.status).toBe(429)
    const challenge = JSON.parse(
      /data-askbox-puzzle="([^"]*)"/.exec(await puzzle.text())![1]!.replaceAll('&quot;', '"'),
    ) as Parameters<typeof solveChallenge>[0]['challenge']
    const solution = JSON.stringify({ challenge, solution: await solveChallenge({ challenge, deriveKey }) })
    const body = new URLSearchParams({ 'askbox-again': again, 'askbox-puzzle': solution }).toString()
    expect((await press(`/resend/${samples.spot.id}`, body)).status).toBe(200)
    expect((await waiting()).filter(({ recipient }) => recipient === 'held@visitor.example')).toHaveLength(1)
  })

  test('whose inbox had its share has one more today by a press, and more tomorrow', async () => {
    let location = ''
    for (let at = 0; at < 6; at++) {
      location = (await from(`192.0.2.${at}`, 'tired@visitor.example')).headers.get('Location')!
      time += 31_000
    }
    const count = async () => (await waiting()).filter(({ inbox }) => inbox === 'tired@visitor.example').length
    expect(await count()).toBe(5)
    const again = new URL(location, 'http://x.example').searchParams.get('again')!
    const ask = async () => {
      const page = await (await press(`/resend/${samples.spot.id}`, `askbox-again=${again}`)).text()
      const challenge = JSON.parse(
        /data-askbox-puzzle="([^"]*)"/.exec(page)![1]!.replaceAll('&quot;', '"'),
      ) as Parameters<typeof solveChallenge>[0]['challenge']
      const solution = JSON.stringify({ challenge, solution: await solveChallenge({ challenge, deriveKey }) })
      const body = new URLSearchParams({ 'askbox-again': again, 'askbox-puzzle': solution }).toString()
      const said = await (await press(`/resend/${samples.spot.id}`, body)).text()
      return said.includes('The mail is on its way once more.')
    }
    expect([await ask(), await count()]).toEqual([true, 6])
    expect([await ask(), await count()]).toEqual([false, 6])
    time += DAY_MS
    expect([await ask(), await count()]).toEqual([true, 7])
  })
})

test('what an answer page shows comes from its own sign-up, whatever case and spot its address names', async () => {
  await publish({
    confirm: 'never',
    gift: {
      label: 'Star chart',
      what: { kind: 'address', address: 'https://hill.example/chart' },
      inWelcome: 'link',
      onAnswer: true,
      firstSoMany: null,
      days: null,
      times: null,
    },
  })
  const joined = (await join_('ada@visitor.example')).headers.get('Location')!
  expect(await (await app.request(joined)).text()).toContain('Star chart')
  time += 60_000
  const stranger = (await join_('ada@visitor.example', { 'first-name': 'X' })).headers.get('Location')!
  const token = new URL(stranger, 'http://x.example').searchParams.get('again') ?? ''
  expect(stranger).toContain('already-on-list')
  for (const address of [
    stranger,
    stranger.replace('already-on-list', 'joined'),
    `/answer/${samples.spot.id}/joined?again=${token}`,
  ])
    expect(await (await app.request(address)).text()).not.toContain('Star chart')
  time += 3_700_000
  expect(await (await app.request(joined)).text()).not.toContain('Star chart')
  await publish({ ...ledger.published().mail(samples.list.id)!, isDiscreet: true })
  const discreet = (await join_('ben@visitor.example')).headers.get('Location')!
  expect(await (await app.request(discreet)).text()).not.toContain('Star chart')
  // It goes by mail, though only the answer was chosen.
  const gift = { ...ledger.published().mail(samples.list.id)!.gift!, inWelcome: 'no' as const }
  await publish({ ...ledger.published().mail(samples.list.id)!, gift })
  await join_('cleo@visitor.example')
  const welcome = await until(() => mails.find(({ to }) => to[0] === 'cleo@visitor.example'))
  expect((await simpleParser(welcome.bytes)).text).toContain('Star chart')
})

test('a discreet list answers who is on it as it answers anybody, and tells the person by mail', async () => {
  await publish({ isDiscreet: true })
  const places = []
  for (const spelling of ['ada@visitor.example', 'Ada@visitor.example']) {
    const answer = await join_(spelling)
    places.push(answer.headers.get('Location')!.replace(/again=.*/, ''))
    if (places.length === 1) await press(linkIn((await mailNumber(0)).text!, 'confirm'))
  }
  expect(places[0]).toBe(places[1])
  const told = await until(() => mails.find(({ bytes }) => bytes.includes('on the list already')))
  expect(told.to).toEqual(['ada@visitor.example'])
})

test('by region: by the browser’s time zone, and whoever tells none confirms; kept with the sign-up', async () => {
  await publish({ confirm: 'regions', regions: ['DE', 'FR'] })
  for (const [address, zone, status] of [
    ['a@visitor.example', 'Europe/Berlin', 'waiting'],
    ['b@visitor.example', 'America/New_York', 'confirmed'],
    ['c@visitor.example', '', 'waiting'],
    ['d@visitor.example', 'Mars/Olympus', 'waiting'],
  ] as const) {
    await join_(address, { 'askbox-zone': zone })
    expect([address, await statusOf(address)]).toEqual([address, status])
  }
  const regions = (await ledger.entriesAfter(0, null, 100))!.items.map(
    (entry) => entry.kind === 'arrival' && entry.personal?.region,
  )
  expect(regions).toEqual(['DE', 'US', '', ''])
})

test('“send it again” sends it again, says the same to everybody, and nothing for a token that is not ours', async () => {
  const joined = await join_('again@visitor.example')
  await mailNumber(0)
  const page = await (await app.request(joined.headers.get('Location')!)).text()
  const token = /name="askbox-again" value="([^"]+)"/.exec(page)![1]!
  const said = async (value: string) => (await press(`/resend/${samples.spot.id}`, `askbox-again=${value}`)).text()
  const forged = await said(`${token.slice(0, -2)}xx`)
  expect((await countOf('waiting')) + mails.length).toBe(1)
  expect(await said(token)).toBe(forged)
  await mailNumber(1)
})

describe('a slip that is put right by who typed it', () => {
  /** As the answer's page has it: one press. */
  async function slips(email: string, more: Record<string, string> = {}): Promise<() => Promise<string>> {
    const joined = await join_(email, more)
    const page = await (await app.request(joined.headers.get('Location')!)).text()
    const value = (name: string) => new RegExp(`name="${name}" value="([^"]+)"`).exec(page)![1]!
    const body = new URLSearchParams({
      'askbox-again': value('askbox-again'),
      'askbox-instead': value('askbox-instead'),
    }).toString()
    return async () => (await press(`/resend/${samples.spot.id}`, body)).text()
  }
  const entries = async () => (await ledger.entriesAfter(0, null, 1000))!.items
  const grew = async () => {
    const counter = new PeopleCounter(() => 'UTC', 'UTC')
    for (const entry of await entries()) counter.add(entry)
    return counter
  }

  test('is one person with all that is theirs; the wrong address confirms nothing any more', async () => {
    const correct = await slips('ada@gmial.com', { 'first-name': 'Ada' })
    const wrong = linkIn((await mailNumber(0)).text!, 'confirm')
    time += 60_000
    expect(await correct()).toContain('Look in your inbox')
    const right = await until(() => mails.find(({ to }) => to[0] === 'ada@gmail.com'))
    // Pressed once more, the same is said, and nothing else happens.
    const { length } = await entries()
    expect(await correct()).toContain('Look in your inbox')
    expect(await entries()).toHaveLength(length)

    expect(await (await press(wrong)).text()).not.toContain('You are on the list')
    expect(await statusOf('ada@gmial.com')).toBe('waiting')
    await press(linkIn((await simpleParser(right.bytes)).text!, 'confirm'))
    const all = await entries()
    expect(all.map(({ kind }) => kind)).toEqual(['arrival', 'member-corrected', 'member-confirmed'])
    expect(new Set(all.map(({ member }) => member)).size).toBe(1)
    expect(await ledger.member(all[0]!.member!)).toMatchObject({
      email: { typed: 'ada@gmail.com' },
      status: 'confirmed',
      values: { 'first-name': 'Ada' },
    })
    const counter = await grew()
    expect(counter.results().rows).toMatchObject([{ signUps: 1, asked: 1, confirmed: 1 }])
    expect(counter.growthOf(samples.list.id)).toMatchObject([{ came: 1, left: 0 }])
  })

  test('what waits for the wrong address is not sent', async () => {
    await paced({ minute: 100, hour: 1000, day: 10_000 }, true)
    const correct = await slips('ben@gmial.com')
    expect((await mailsThat('waiting')).map(({ recipient }) => recipient)).toEqual(['ben@gmial.com'])
    await correct()
    expect((await mailsThat('waiting')).map(({ recipient }) => recipient)).toEqual(['ben@gmail.com'])
  })

  test('where the right address is on the list already, that one stays, and nobody came or went', async () => {
    await publish({ confirm: 'never' })
    await join_('cleo@gmail.com')
    const correct = await slips('cleo@gmial.com')
    expect(await correct()).toContain('already on the list')
    const counter = await grew()
    expect(counter.counts()).toEqual({ [samples.list.id]: 1 })
    expect(counter.growthOf(samples.list.id)).toMatchObject([{ came: 1, left: 0 }])
    expect(mails.filter(({ bytes }) => bytes.includes('You have left'))).toEqual([])
  })

  test('is done by nobody once they acted: the address stays', async () => {
    const correct = await slips('dana@gmial.com')
    await press(linkIn((await mailNumber(0)).text!, 'confirm'))
    await correct()
    expect((await entries()).map(({ kind }) => kind)).toEqual(['arrival', 'member-confirmed'])
  })
})

const paced = (pace: { minute: number; hour: number; day: number }, isStopped: boolean) =>
  app.request('/api/mail/pace', {
    method: 'PUT',
    headers: { ...owner, 'Content-Type': 'application/json' },
    body: JSON.stringify({ pace, isStopped }),
  })

test('no more than the pace goes out; stopped, nothing does', async () => {
  const pace = { minute: 2, hour: 100, day: 100 }
  await paced(pace, true)
  for (const one of ['a', 'b', 'c', 'd']) await join_(`${one}@visitor.example`)
  expect([mails.length, await countOf('waiting')]).toEqual([0, 4])
  await paced(pace, false)
  await until(async () => ((await countOf('sent')) === 2 ? true : undefined))
  expect(await countOf('waiting')).toBe(2)
  time += 61_000
  await until(async () => ((await countOf('sent')) === 4 ? true : undefined))
})

test('of what may go in a while, a tenth is kept for mail that somebody waits for', async () => {
  await publish({ confirm: 'never' })
  await join_('reader@visitor.example')
  await mailNumber(0)
  const pace = { minute: 10, hour: 10, day: 10 }
  await paced(pace, true)
  const [{ member } = { member: '' as const }] = await mailsInState(ledger.queue, 'sent', 1)
  const recipient = { typed: 'reader@visitor.example', compared: 'reader@visitor.example' }
  const welcome = { list: samples.list.id, member, kind: 'welcome', recipient } as const
  for (let at = 0; at < 12; at++)
    await ledger.queue.add({ ...mailJob(welcome, time), id: `later${at}`, priority: LATER })
  await paced(pace, false)
  await until(async () => ((await countOf('sent')) === 9 ? true : undefined))
  await join_('ada@visitor.example')
  await until(() => mails.find(({ to }) => to.includes('ada@visitor.example')))
  await until(async () => ((await countOf('sent')) === 10 ? true : undefined))
  expect(await countOf('waiting')).toBe(4)
})

test('at one mail a minute, what may wait goes as well', async () => {
  await publish({ confirm: 'never' })
  await join_('reader@visitor.example')
  await mailNumber(0)
  const [{ member } = { member: '' as const }] = await mailsInState(ledger.queue, 'sent', 1)
  const recipient = { typed: 'reader@visitor.example', compared: 'reader@visitor.example' }
  const welcome = { list: samples.list.id, member, kind: 'welcome', recipient } as const
  time += 3_700_000
  await paced({ minute: 1, hour: 2, day: 9 }, false)
  await ledger.queue.add({ ...mailJob(welcome, time), id: 'later', priority: LATER })
  await until(async () => ((await countOf('sent')) === 2 ? true : undefined))
})

test('a gift’s link ends with its times', async () => {
  const gift = {
    label: 'The chart',
    what: { kind: 'address' as const, address: 'https://hill.example/chart' },
    onAnswer: true,
    inWelcome: 'link' as const,
    firstSoMany: null,
    times: 2,
    days: null,
  }
  await publish({ confirm: 'never', gift })
  await join_('gift@visitor.example')
  const link = linkIn((await mailNumber(0)).text!, 'gift')
  // Whoever opens it, however often, has pressed nothing yet.
  for (const method of ['GET', 'HEAD', 'GET', 'GET']) expect((await app.request(link, { method })).status).toBe(200)
  for (const status of [303, 303, 410]) expect((await app.request(link, { method: 'POST' })).status).toBe(status)
  expect(await (await app.request(link)).text()).toContain('The gift is not here any more')
})

test('a mail that cannot be written holds up no other, and goes out once what it needs is there', async () => {
  const id = createHash('sha256').update('a chart').digest('hex')
  const what = { kind: 'file' as const, id, name: 'chart.pdf', type: 'application/pdf', size: 7 }
  const gift = { label: 'The chart', what, onAnswer: false, firstSoMany: null, times: null, days: null }
  await publish({ confirm: 'never', gift: { ...gift, inWelcome: 'attachment' } })
  await join_('first@visitor.example')
  const waiting = await until(async () => (await mailsThat('waiting')).find(({ said }) => said !== ''))
  expect(waiting.said).toContain('chart.pdf, is not there')
  await publish({ confirm: 'never' })
  await join_('second@visitor.example')
  await until(() => mails.find(({ to }) => to[0] === 'second@visitor.example'))
})

test('of made-up people nobody is told, and real ones are told of all the same', async () => {
  for (const when of ['each', 'daily'] as const) {
    await publish({ confirm: 'never', notice: { when, address: 'owner@hill.example' } })
    const space = ledger.space(`rehearsal-${when}`)
    await space.signUp(signUp(`made-up-${when}@rehearsal.example`), 'a')
    await ledger.signUp(signUp(`real-${when}@visitor.example`), `b${when}`)
    await space.drop()
  }
  time += DAY_MS
  const told = async (about: string) =>
    simpleParser(
      (await until(() => mails.find(({ to, bytes }) => to[0] === 'owner@hill.example' && bytes.includes(about)))).bytes,
    )
  expect((await told('Subject: Somebody joined')).text).toContain(`${withoutLinks('real-each@visitor.example')} joined`)
  const api = (path: string) =>
    app.request(`/api/mail/${path}`, { method: 'POST', headers: { Authorization: 'Bearer the-owners-own-key' } })
  await api(`queue/${(await mailsThat('waiting'))[0]?.id}/again`)
  expect((await told('people joined')).text).toContain(withoutLinks('real-daily@visitor.example'))
  expect(mails.filter(({ bytes }) => bytes.includes('made-up'))).toEqual([])
})

test('a list whose members may wait long holds up no other; what cannot be taken is said in the owner’s words', async () => {
  await publish({ waitingDays: 90 })
  await join_('long@visitor.example')
  time += 8 * DAY_MS
  expect(await ledger.expireWaiting()).toBe(0)
  time += 83 * DAY_MS
  expect(await ledger.expireWaiting()).toBe(1)

  const refused: Response[] = []
  for (let times = 0; times < 75; times += 1) {
    const answer = await app.request(`/join/${samples.spot.id}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/x-www-form-urlencoded', 'X-Forwarded-For': '192.0.2.7' },
      body: `email=x${times}%40visitor.example`,
    })
    if (answer.status === 429) refused.push(answer)
  }
  expect(refused.length).toBeGreaterThan(0)
  expect(await refused[0]!.text()).toContain('That did not work')
  expect(refused[0]!.headers.get('Retry-After')).toMatch(/^\d+$/)
})

test('the way back is there even where leaving leads to a page of the owner’s', async () => {
  await ledger.takeChanges([
    samples.change('version', {
      ...samples.version,
      number: samples.version.number + 1,
      content: {
        ...samples.version.content,
        answers: {
          ...samples.version.content.answers,
          left: { show: 'address', heading: '', message: '', address: 'https://hill.example/left' },
        },
      },
    }),
  ])
  await publish({ confirm: 'never' })
  await join_('back@visitor.example', { 'askbox-version': '2' })
  const leave = linkIn((await mailNumber(0)).text!, 'leave')
  // The version that they saw says where, whatever was published since.
  await ledger.takeChanges([samples.change('version', { ...samples.version, number: samples.version.number + 2 })])
  const left = await press(leave, 'askbox-do=leave')
  expect(await left.text()).toContain('<meta http-equiv="refresh" content="0;url=https://hill.example/left">')
  expect(await (await app.request(`${leave}?back`)).text()).toContain('Put me back on the list')
})
