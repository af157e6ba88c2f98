import fc from 'fast-check'
import { simpleParser } from 'mailparser'
import { honeypotName, newField, type Version, withMessage } from '#core/form'
import type { ArrivalId, BatchId, ConnectionId, FormId, HandOverId, SpotId } from '#core/ids'
import type { Entry, SentMessage } from '#core/journal'
import { startMail } from '#core/message'
import { refusedCharacter } from '#core/text'
import { textsOf } from '#core/texts'
import { change, createdAt, form, list, site, spot, version, workspace } from '../../../tests/tables/samples'
import { receiverApp } from '../app'
import { type Ledger } from '../ledger'
import { addressLimiter, Causes } from '../limits'
import { bytesOf, compose } from '../mail'
import { MAIL, mailOf, type QueuedMail } from '../mail/queued'
import { newLedger, settingsFor } from '../../../tests/ledger'

const OWNER = 'keeper@hill.example'
const SECOND = { form: 'secondform' as FormId, spot: 'secondspot' as SpotId }
const CONNECTION = 'someconnection' as ConnectionId
const KEY = 'k'.repeat(40)
const DAY_MS = 86_400_000

const texts = textsOf('en')
const content = withMessage(
  {
    ...version.content,
    fields: [newField('email', texts), newField('full-name', texts), newField('topics', texts)],
    guard: { leastSeconds: 3, noThrowAway: false },
  },
  OWNER,
)
const withSubject = { ...content, fields: [...content.fields, newField('subject', texts)] }
const mailOfList = startMail(list.id, list.name, 'en')
const settingsOfMail = { ...mailOfList.draft, senderAddress: 'letters@hill.example', senderName: 'The hill' }

let ledger: Ledger
let now = Date.parse('2026-03-01T12:00:00Z')

async function open(more: Partial<typeof workspace> = {}) {
  ledger = await newLedger(() => now)
  const versions: Version[] = [
    { ...version, content: withSubject },
    { ...version, form: SECOND.form, content: withSubject },
  ]
  await ledger.seed({
    ...workspace,
    sites: [site],
    forms: [form, { ...form, id: SECOND.form, name: 'Second form' }],
    versions,
    spots: [spot, { ...spot, id: SECOND.spot, form: SECOND.form }],
    mails: [{ ...mailOfList, draft: settingsOfMail, published: settingsOfMail }],
    connections: [
      {
        id: CONNECTION,
        name: 'A program of ours',
        way: { kind: 'webhook', address: 'https://told.example/', events: ['joined'] },
        isRehearsed: false,
        createdAt,
      },
    ],
    handOvers: [
      {
        ...{
          id: 'somehandover' as HandOverId,
          list: list.id,
          connection: 'someconnection' as ConnectionId,
          target: null,
        },
        ...{ fields: [], sendsTags: true, moment: 'joined', confirmsThere: false, isPaused: false, createdAt },
      },
    ],
    ...more,
  })
  const settings = settingsFor()
  const limiter = addressLimiter(1_000_000)
  return receiverApp({
    ledger,
    settings,
    ownerKey: KEY,
    workshop: null,
    limiter,
    causes: new Causes(() => now),
  })
}
afterEach(() => ledger.close())

const entries = async (): Promise<Entry[]> => (await ledger.entriesAfter(0, null, 5_000))?.items ?? []
const messages = async () => (await entries()).filter((entry): entry is SentMessage => entry.kind === 'message')
const mails = async (): Promise<QueuedMail[]> =>
  (await ledger.queue.inState(MAIL, 'open', 10_000)).map(mailOf).filter(({ kind }) => kind === 'message')

const handedOn = () => ledger.queue.counts(`hand-over ${CONNECTION}`)

type App = Awaited<ReturnType<typeof open>>
const ways = ['urlencoded', 'multipart', 'json'] as const

/** A post in one of the ways in which answers come. */
function post(app: App, values: Record<string, string>, way: (typeof ways)[number], to: string = spot.id) {
  const form = new FormData()
  for (const [name, value] of Object.entries(values)) form.append(name, value)
  const isJson = way === 'json'
  return app.request(`http://localhost:4310/join/${to}`, {
    method: 'POST',
    headers: { Accept: 'application/json', ...(isJson && { 'Content-Type': 'application/json' }) },
    body: isJson ? JSON.stringify(values) : way === 'multipart' ? form : new URLSearchParams(values),
  })
}

const isKeepable = (text: string) => refusedCharacter(text) === null
const typedText = fc
  .string({ unit: 'binary', minLength: 1, maxLength: 300 })
  .filter((text) => text.trim() !== '' && isKeepable(text))

test('who did not tick is on no list, in no hand-over and in no count, whichever way they came', async () => {
  const app = await open()
  let number = 0
  const unticked = fc.constantFrom('', 'off', 'false', '0', 'no', 'null', 'undefined', ' ', 'ticked?', '-1', 'onn')
  await fc.assert(
    fc.asyncProperty(
      fc.record({
        way: fc.constantFrom(...ways),
        box: fc.oneof(fc.constant(null), unticked),
        text: typedText,
        subject: fc.option(typedText.map((text) => text.slice(0, 150))),
        name: fc.string({ maxLength: 60 }).filter((text) => isKeepable(text)),
        isTrapped: fc.boolean(),
        seconds: fc.constantFrom('', '1', '30'),
        isTopicChosen: fc.boolean(),
        isRepeated: fc.boolean(),
      }),
      async ({ way, box, text, subject, name, isTrapped, seconds, isTopicChosen, isRepeated }) => {
        const values = {
          email: `writer${(number += 1)}@visitor${number}.example`,
          message: text,
          'full-name': name,
          'askbox-version': '1',
          ...(subject !== null && { subject }),
          ...(box !== null && { 'join-box': box }),
          ...(isTrapped && { [honeypotName(form.id)]: 'filled' }),
          ...(seconds !== '' && { 'askbox-seconds': seconds }),
          ...(isTopicChosen && { 'topics--c1': 'on' }),
        }
        now += 2 * 60_000
        const before = (await messages()).length
        const answer = await post(app, values, way)
        expect([answer.status, await answer.json()]).toEqual([200, { outcome: 'message-sent' }])
        // A retry has the same bytes; of a form in parts, the line between them is drawn anew.
        if (isRepeated && way !== 'multipart') await post(app, values, way)
        const kept = (await messages()).slice(before)
        expect(kept.map(({ joins, personal }) => [joins, personal?.email?.typed])).toEqual([[false, values.email]])
        const guarded = isTrapped ? ['trap'] : seconds === '1' ? ['too-fast'] : [undefined, 'alike']
        expect(guarded).toContain(kept[0]!.held)
      },
    ),
    { numRuns: 60 },
  )
  expect((await entries()).filter(({ kind }) => kind !== 'message')).toEqual([])
  expect(await ledger.joinedOn(list.id, '2026-03-01')).toEqual([])
  expect(await handedOn()).toMatchObject({ open: 0 })
  const today = new Date(now).toISOString().slice(0, 10)
  expect(await ledger.results.between(today, today)).toEqual([])
  // And who ticks it joins, whatever else.
  for (const way of ways) {
    const answer = await post(
      app,
      { email: `${way}@ticked.example`, message: `Hello by ${way}`, 'join-box': 'on', 'askbox-version': '1' },
      way,
    )
    expect(await answer.json()).toMatchObject({ outcome: 'joined' })
  }
  const arrivals = (await entries()).filter((entry) => entry.kind === 'arrival')
  expect(arrivals.map(({ verdict, personal }) => [verdict, personal?.consents?.[0]?.wording])).toEqual(
    ways.map(() => ['joined', texts.joinBox]),
  )
  expect((await messages()).slice(-3).map(({ joins }) => joins)).toEqual([true, true, true])
  expect(await handedOn()).toMatchObject({ open: 3 })
})

test('what was typed adds no header and no link to the mail; an answer goes to who wrote: a mail parser judges', async () => {
  const app = await open()
  let number = 0
  const nasty = fc.oneof(
    typedText,
    fc.constantFrom(
      'Hello\r\nBcc: everybody@victims.example',
      'A\nSubject: Free\nContent-Type: text/html\n\n<a href="https://bait.example">x</a>',
      '=?utf-8?Q?Bcc:_everybody=40victims.example?=',
      'Look at https://bait.example/path?x=1 and www.bait.example or mail bait@bait.example',
      '\u2028Bcc: x@y.example\u2029',
      '.\r\n.\r\nMAIL FROM:<x@y.example>',
    ),
  )
  await fc.assert(
    fc.asyncProperty(nasty, nasty, nasty, async (text, subject, name) => {
      const email = `o'brien+${(number += 1)}@visitor${number}.example`
      const values = { email, message: text, subject: subject.slice(0, 190), 'full-name': name.slice(0, 190) }
      now += 2 * 60_000
      const before = (await mails()).length
      const answer = await post(app, { ...values, 'askbox-version': '1' }, 'json')
      expect(answer.status).toBe(200)
      const [mail, ...older] = await mails()
      // The same text, drawn a third time, is held.
      if (mail === undefined || older.length !== before) return
      const bytes = await bytesOf(await composed(mail))
      const read = await simpleParser(bytes)
      expect(read.headerLines.map(({ key }) => key).sort()).toEqual(
        [
          ...['auto-submitted', 'content-transfer-encoding', 'content-type', 'date', 'from', 'message-id'],
          ...['mime-version', 'reply-to', 'subject', 'to'],
        ].sort(),
      )
      expect(read.to).toMatchObject({ value: [{ address: OWNER }] })
      expect(read.replyTo?.value).toEqual([{ address: email, name: '' }])
      expect(read.from?.value).toMatchObject([{ address: 'letters@hill.example' }])
      expect(read.subject).toBe('A message by “Sample form”')
      expect(read.attachments).toEqual([])
      expect(read.html).toBe(false)
      const ours = `http://localhost:4310/forms/${form.id}/messages`
      // What mail programs make a link of: something with a dot, a slash or an at sign between two letters.
      const linkable = read.text!.replaceAll(ours, '').match(/\S[.。．｡:/\\@＠]\S/gu)
      expect(linkable).toBeNull()
      for (const line of text.split(/\r\n?|\n/))
        if (line.trim() !== '' && !/[.。．｡:/\\@＠\p{Cc}\u2028\u2029]/u.test(line))
          expect(read.text).toContain(line.trim())
    }),
    { numRuns: 60 },
  )
})

async function composed(mail: QueuedMail) {
  return compose(mail, {
    ledger,
    publicUrl: 'http://localhost:4310',
    keys: await ledger.linkKeys(),
    giftFile: () => null,
    memberOf: async () => null,
    messageOf: ({ entry = 0 }) => ledger.messages.at(entry),
  })
}

const LONG = 'We would gladly come with a school class in May and look through the large telescope.'
const write = (app: App, email: string, message = LONG, to?: string) =>
  post(app, { email, message, 'askbox-version': '1' }, 'json', to)

test('the same text many times, or to many forms, is held; another goes; short ones are held only from one address', async () => {
  const app = await open()
  const heldAfter = async (email: string, message: string, to?: string) => {
    now += 60_000
    await write(app, email, message, to)
    return (await messages()).at(-1)!.held ?? null
  }
  expect(await heldAfter('a@one.example', LONG)).toBeNull()
  expect(await heldAfter('b@two.example', LONG.toUpperCase(), SECOND.spot)).toBeNull()
  expect(await heldAfter('c@three.example', `${LONG} 7!`)).toBe('alike')
  expect(await heldAfter('d@four.example', LONG.replaceAll('a', 'ａ'), SECOND.spot)).toBe('alike')
  expect(await heldAfter('e@five.example', 'We would gladly come with two school classes in June, by bus.')).toBeNull()
  for (const email of ['f@six.example', 'g@seven.example', 'h@eight.example'])
    expect(await heldAfter(email, 'Thank you!')).toBeNull()
  expect(await heldAfter('f@six.example', 'Thank you!')).toBeNull()
  expect(await heldAfter('f@six.example', 'Thank you.')).toBe('alike')
  expect(await mails()).toHaveLength(7)
  now += 8 * DAY_MS
  expect(await heldAfter('i@nine.example', LONG)).toBeNull()
})

test('beyond an inbox’s share in an hour messages are kept and held; let through, each goes once', async () => {
  const app = await open()
  for (let count = 0; count < 63; count += 1)
    await write(
      app,
      `writer@place${count}.example`,
      `A question number ${'x'.repeat(count + 1)} of quite some length, asked here.`,
    )
  const held = (await messages()).filter((message) => message.held === 'flood')
  expect(held).toHaveLength(3)
  const release = (ids: string[]) =>
    app.request('http://localhost:4310/api/messages/release', {
      method: 'POST',
      headers: { Authorization: `Bearer ${KEY}`, 'Content-Type': 'application/json' },
      body: JSON.stringify({ messages: ids }),
    })
  expect(await (await release([held[0]!.id, held[0]!.id, 'nosuchmessage'])).json()).toEqual({ count: 1 })
  expect(await (await release([held[0]!.id])).json()).toEqual({ count: 0 })
  expect(await mails()).toHaveLength(61)
})

test('gone after the form’s days, by the owner, and with the person; no mail goes of what is erased, and the marks stay true', async () => {
  const app = await open()
  await write(app, 'old@visitor.example', 'An old question about the opening hours in winter, please.')
  now += 91 * DAY_MS
  await write(app, 'spam@visitor.example', 'Something that nobody wants to read, sent all the same.')
  const answer = await post(
    app,
    { email: 'ada@visitor.example', message: `${LONG} Ada`, 'join-box': 'on', 'askbox-version': '1' },
    'urlencoded',
  )
  expect(await answer.json()).toMatchObject({ outcome: 'joined' })
  // Once more, without joining.
  await write(app, 'Ada@Visitor.example', 'A second question, quite another one, and just as long as that.')
  expect(await ledger.messages.eraseKeptLongEnough()).toBe(1)
  const spam = (await messages()).find(({ personal }) => personal?.email?.typed.startsWith('spam'))!
  expect(await ledger.messages.erase([spam.id])).toBe(1)
  expect((await messages()).map(({ personal }) => personal === null)).toEqual([true, true, false, false])

  const arrival = (await entries()).find((entry) => entry.kind === 'arrival')!
  await ledger.batches.begin({ id: 'erasebatch' as BatchId, list: list.id, purpose: { kind: 'erase' } })
  await ledger.batches.addChunk('erasebatch', 0, { erase: [arrival.member!] })
  await ledger.batches.apply('erasebatch')
  await ledger.batches.step('erasebatch', 100)
  const all = await entries()
  expect(all.filter((entry) => entry.kind === 'message').every(({ personal }) => personal === null)).toBe(true)
  expect(JSON.stringify(all)).not.toMatch(/visitor\.example|school class|winter/i)
  for (const mail of await mails()) await expect(composed(mail)).rejects.toThrow('erased')
  expect(await ledger.check(0)).toMatchObject({ broken: null })
})

test('code of before sends to where the newest version says; a receiver put back to an older copy erases again what was erased since', async () => {
  const app = await open()
  const latest = {
    ...version,
    number: 2,
    content: { ...withSubject, messages: { to: 'new@hill.example', keepDays: 5 } },
  }
  await ledger.takeChanges([change('version', latest)])
  await write(app, 'old-code@visitor.example', 'Sent by the code of before, which still says where messages once went.')
  expect((await mails()).map(({ recipient }) => recipient)).toEqual(['new@hill.example'])
  const [copied] = await messages()
  const common = copied!.n
  const erased: Entry = {
    ...{ n: common + 1, at: new Date(now).toISOString(), kind: 'messages-erased', id: 'erasedlater' as ArrivalId },
    ...{ list: list.id, member: null, messages: [copied!.id], why: 'by-owner' },
  }
  await ledger.recover(common, [erased])
  expect((await messages())[0]!.personal).toBeNull()
  expect((await entries()).at(-1)).toMatchObject({ kind: 'messages-erased', messages: [copied!.id] })
  expect(await ledger.check(0)).toMatchObject({ broken: null })
})

test('a list without a sender keeps messages and mails none, held ones let through as well', async () => {
  // It may be without one while nothing else of it is sent.
  const off = Object.entries(settingsOfMail.messages).map(([kind, one]) => [kind, { ...one, isOn: false }])
  const quiet = { ...settingsOfMail, messages: Object.fromEntries(off) as typeof settingsOfMail.messages }
  const without = { ...quiet, senderAddress: '' }
  const app = await open({ mails: [{ ...mailOfList, draft: without, published: without }] })
  await write(app, 'asks@visitor.example')
  expect((await messages()).map(({ held }) => held)).toEqual([undefined])
  for (const _ of [1, 2]) {
    now += 60_000
    await write(app, `again${now}@visitor.example`)
  }
  const held = (await messages()).filter((message) => message.held === 'alike')
  expect(await ledger.messages.release(held.map(({ id }) => id))).toBe(1)
  expect(await mails()).toEqual([])
})
