import { simpleParser } from 'mailparser'
import { richText } from '#core/text'
import { momentIn } from '#core/zone'
import { openClock } from '../clock'
import { bytesOf, takeReport } from '../mail'
import { type LetterGround, letterGround, otherList, PUBLIC_URL } from '../../../tests/letter-ground'
import { aLetter, aSending } from '../../../tests/letters'
import * as samples from '../../../tests/tables/samples'

const HOUR_MS = 3_600_000
let ground: LetterGround
beforeEach(async () => {
  ground = await letterGround()
})
afterEach(() => ground.end())

const to = () => ground.sent.map((one) => one.to).sort()

test('a letter goes once to each inbox of its lists, and its mail says what lists’ mails say (RFC 5322, 2919, 2369, 8058)', async () => {
  await ground.joins('ada@mail.example', { values: { 'first-name': 'Ada' } })
  await ground.joins('ben@mail.example')
  await ground.joins('ada@mail.example', {}, otherList.id)
  await ground.joins('cleo@mail.example', {}, otherList.id)
  const sending = aSending(aLetter({ lists: [samples.list.id, otherList.id] }))
  await ground.ledger.letters.send(sending)
  await ground.rests()
  expect(to()).toEqual(['ada@mail.example', 'ben@mail.example', 'cleo@mail.example'])
  expect(await ground.ledger.letters.sending(sending.id)).toMatchObject({ state: 'done', counts: { sent: 3 } })
  // The same once more changes nothing.
  await ground.ledger.letters.send(sending)
  await ground.rests()
  expect(ground.sent).toHaveLength(3)

  const ada = ground.sent.find((one) => one.to === 'ada@mail.example')!
  const mail = await simpleParser(await bytesOf(ada.mail))
  expect(mail.subject).toBe('Clear skies on Friday')
  expect(mail.from!.text).toBe('"Ada at the hill" <letters@hill.example>')
  expect(mail.text).toContain('Hello Ada, come and look.')
  expect(mail.text).toContain('1 Hill Road')
  expect(mail.html).toContain('https://hill.example/programme')
  expect(mail.headers.get('precedence')).toBe('list')
  expect(mail.headers.get('auto-submitted')).toBeUndefined()
  const list = mail.headers.get('list') as unknown as Record<string, { id: string; url: string; name: string }>
  expect(list.id!.id).toBe('samplelist.hill.example')
  expect(list.unsubscribe!.url).toMatch(new RegExp(`^${PUBLIC_URL}/leave/`))
  expect(list['unsubscribe-post']).toEqual({ name: 'List-Unsubscribe=One-Click' })
})

test('who left, bounced or was erased after it was settled does not get it; who joined meanwhile does not either', async () => {
  for (const name of ['ada', 'ben', 'cleo', 'dora']) await ground.joins(`${name}@mail.example`)
  await ground.sender.change(() => ({ isStopped: true }))
  const sending = aSending()
  await ground.ledger.letters.send(sending)
  while ((await ground.ledger.letters.work()) === 0);
  const people = await ground.ledger.letters.people(samples.list.id, 0, 10)
  const idOf = (address: string) => people.find(({ member }) => member.email.typed === address)!.member.id
  await ground.ledger.leave(idOf('ada@mail.example'), 'page')
  await ground.ledger.bounce(idOf('ben@mail.example'), 'gone')
  await ground.joins('eve@mail.example')
  await ground.sender.change(() => ({ isStopped: false }))
  await ground.rests()
  expect(to()).toEqual(['cleo@mail.example', 'dora@mail.example'])
  expect(await ground.ledger.letters.sending(sending.id)).toMatchObject({ counts: { sent: 2, dropped: 2, waiting: 0 } })
})

test('stopped, nobody gets it; words mended meanwhile are for those who come then, and the others keep theirs', async () => {
  await ground.sender.change(() => ({ pace: { minute: 2, hour: 1_000, day: 10_000 } }))
  for (let at = 0; at < 6; at += 1) await ground.joins(`person${at}@mail.example`)
  const sending = aSending()
  await ground.ledger.letters.send(sending)
  const sentAre = async (count: number) => {
    while (ground.sent.length < count) {
      await ground.ledger.letters.work()
      ground.sender.wake()
      await new Promise((resolve) => setTimeout(resolve, 5))
    }
  }
  await sentAre(2)
  expect(await ground.ledger.letters.stop(sending.id)).toMatchObject({ state: 'stopped' })
  ground.pass(HOUR_MS)
  await ground.ledger.letters.work()
  await ground.rests()
  expect(ground.sent).toHaveLength(2)
  await ground.ledger.letters.mend(sending.id, { ...aLetter(), subject: richText('On Saturday') })
  await ground.ledger.letters.goOn(sending.id)
  for (const count of [4, 6]) {
    ground.pass(61_000)
    await sentAre(count)
  }
  await ground.rests()
  expect(ground.sent.map(({ mail }) => mail.subject)).toEqual([
    ...Array(2).fill('Clear skies on Friday'),
    ...Array(4).fill('On Saturday'),
  ])
  const [first, last] = [ground.sent[0]!, ground.sent.at(-1)!].map(
    ({ mail }) => /\/letter\/[\w-]+/.exec(String(mail.text))![0],
  )
  expect(await (await ground.app.request(first!)).text()).toContain('Clear skies on Friday')
  expect(await (await ground.app.request(last!)).text()).toContain('On Saturday')
})

test('of a cancelled letter nobody gets the rest', async () => {
  await ground.sender.change(() => ({ isStopped: true }))
  for (let at = 0; at < 4; at += 1) await ground.joins(`person${at}@mail.example`)
  const sending = aSending()
  await ground.ledger.letters.send(sending)
  while ((await ground.ledger.letters.work()) === 0);
  await ground.ledger.letters.work()
  await ground.ledger.letters.cancel(sending.id)
  await ground.sender.change(() => ({ isStopped: false }))
  await ground.rests()
  expect(ground.sent).toEqual([])
  expect(await ground.ledger.letters.sending(sending.id)).toMatchObject({
    state: 'cancelled',
    counts: { dropped: 4, waiting: 0, queued: 0 },
  })
})

test('it stops by itself once more than five of the last hundred are refused, and goes on when its owner says so', async () => {
  for (let at = 0; at < 60; at += 1) await ground.joins(`person${at}@mail.example`)
  ground.refuseWith((address) => {
    if (Number(/\d+/.exec(address)![0]) % 4 === 1)
      throw Object.assign(new Error('550 5.1.1 no such user'), {
        ...{ responseCode: 550, response: '550 5.1.1 no such user', command: 'RCPT TO' },
      })
  })
  const sending = aSending()
  await ground.ledger.letters.send(sending)
  await ground.rests()
  const stopped = await ground.ledger.letters.sending(sending.id)
  expect(stopped).toMatchObject({ state: 'stopped', said: expect.stringMatching(/^It stopped by itself: of the last/) })
  expect(stopped!.counts.refused).toBeGreaterThan(5)
  expect(stopped!.counts.waiting).toBeGreaterThan(0)
  ground.refuseWith(() => undefined)
  await ground.ledger.letters.goOn(sending.id)
  await ground.rests()
  const done = await ground.ledger.letters.sending(sending.id)
  expect(done!.state).toBe('done')
  expect(done!.counts.sent + done!.counts.refused + done!.counts.dropped).toBe(60)
})

test('at an hour of each reader’s zone each gets it then, and nobody early', async () => {
  for (const [name, zone] of [
    ['ada', 'Asia/Tokyo'],
    ['ben', 'America/New_York'],
    ['cleo', ''],
  ] as const)
    await ground.joins(`${name}@mail.example`, { whereabouts: { country: '', zone } })
  await ground.ledger.letters.send(
    aSending(aLetter(), { kind: 'local', day: '2026-03-04', time: '08:00', zone: 'Europe/Vienna' }),
  )
  const got: string[] = []
  for (let hour = 0; hour < 72; hour += 1) {
    await ground.rests()
    for (const one of ground.sent.splice(0)) got.push(`${one.to} ${new Date(ground.now()).toISOString().slice(0, 13)}`)
    ground.pass(HOUR_MS)
  }
  // 08:00 in Tokyo (UTC+9), Vienna (UTC+1) and New York (UTC−5), by the IANA database for that winter's day.
  expect(got).toEqual([
    'ada@mail.example 2026-03-03T23',
    'cleo@mail.example 2026-03-04T07',
    'ben@mail.example 2026-03-04T13',
  ])
})

test('with letters waiting at 200 an hour, a confirmation leaves at once', async () => {
  await ground.sender.change(() => ({ pace: { minute: 100, hour: 200, day: 100_000 } }))
  for (let at = 0; at < 400; at += 1) await ground.joins(`person${at}@mail.example`)
  await ground.ledger.letters.send(aSending())
  const draft = ground.ledger.published().mail(samples.list.id)!
  // What is left of the hour's pace is kept for mail that somebody waits for.
  for (const sent of [90, 180, 180]) {
    while (ground.sent.length < sent) {
      await ground.ledger.letters.work()
      ground.sender.wake()
      await new Promise((resolve) => setTimeout(resolve, 10))
    }
    ground.pass(61_000)
  }
  await ground.ledger.letters.work()
  ground.sender.wake()
  expect(ground.sent.length).toBe(180)
  await ground.ledger.takeChanges([
    samples.change(
      'mail',
      { list: samples.list.id, draft, published: { ...draft, confirm: 'always' } },
      (await ground.ledger.objectsAfter(0, null, 100))!.items.find(
        ({ kind, key }) => kind === 'mail' && key === samples.list.id,
      )!.revision,
    ),
  ])
  await ground.joins('waits@mail.example')
  const asked = performance.now()
  while (!to().includes('waits@mail.example')) {
    expect(performance.now() - asked).toBeLessThan(10_000)
    await new Promise((resolve) => setTimeout(resolve, 10))
  }
})

test('somebody who leaves by a letter’s link is told of by that letter; presses of counted links lead to what the letter says alone', async () => {
  await ground.joins('ada@mail.example')
  const sending = aSending(aLetter({ countsLinks: true }))
  await ground.ledger.letters.send(sending)
  await ground.rests()
  const text = String(ground.sent[0]!.mail.text)
  const link = new RegExp(`${PUBLIC_URL}(/to/[^\\s]+)`).exec(text)![1]!
  expect(link).toContain('leads=hill.example%2Fprogramme')
  const pressed = await ground.app.request(link)
  expect([pressed.status, pressed.headers.get('location')]).toEqual([303, 'https://hill.example/programme'])
  for (let at = 0; at < 300; at++) expect((await ground.app.request(link)).status).toBe(303)
  for (const other of [link.replace('/to/sending', '/to/sendinh'), link.replace(/-0-/, '-1-'), '/to/x'])
    expect((await ground.app.request(other)).status).toBe(404)
  expect(await ground.ledger.letters.presses(sending.id)).toEqual([
    { address: 'https://hill.example/programme', presses: 1 },
  ])
  const leave = new RegExp(`${PUBLIC_URL}(/leave/[^\\s]+)`).exec(text)![1]!
  await ground.app.request(leave, {
    method: 'POST',
    body: new URLSearchParams({ 'List-Unsubscribe': 'One-Click' }),
  })
  expect(await ground.ledger.letters.sending(sending.id)).toMatchObject({ counts: { sent: 1, left: 1 } })
})

test('a copy is read by whoever has its link, an erased person’s by nobody, and the archive has what was chosen for it', async () => {
  await ground.joins('ada@mail.example', { values: { 'first-name': 'Ada' } })
  const open = aSending(aLetter({ isInArchive: true, subject: richText('For all') }))
  const own = aSending(aLetter({ subject: richText('For members') }))
  for (const sending of [open, own]) await ground.ledger.letters.send(sending)
  await ground.rests()
  const copy = new RegExp(`${PUBLIC_URL}(/letter/[\\w-]+)`).exec(String(ground.sent[0]!.mail.text))![1]!
  const read = await ground.app.request(copy)
  expect(read.status).toBe(200)
  const personal = await read.text()
  expect(personal).toContain('Hello Ada, come')
  // Whoever it was passed on to is told whom they would take off, and not by what address.
  const leave = /href="https:\/\/forms\.example(\/leave\/[^"]+)"/.exec(personal)![1]!.replaceAll('&amp;', '&')
  const asks = await (await ground.app.request(leave)).text()
  expect(asks).toContain('a•••@mail.example')
  expect(asks).not.toContain('ada@mail.example')
  const ofMail = new RegExp(`${PUBLIC_URL}(/leave/[^\\s]+)`).exec(String(ground.sent[0]!.mail.text))![1]!
  expect(await (await ground.app.request(ofMail)).text()).not.toContain('•••')
  expect([personal.includes('content="noindex"'), read.headers.get('x-robots-tag')]).toEqual([true, 'noindex'])
  expect(read.headers.get('content-security-policy')).toMatch(/^sandbox /)
  expect((await ground.app.request(copy.replace(/.$/, (letter) => (letter === 'A' ? 'B' : 'A')))).status).toBe(404)
  const archive = await (await ground.app.request(`/letters/${samples.list.id}`)).text()
  expect(archive).toContain('For all')
  expect(archive).not.toContain('For members')
  const listed = /href="https:\/\/forms\.example(\/letter\/[\w-]+)"/.exec(archive)![1]!
  const answer = await ground.app.request(listed)
  const forAll = await answer.text()
  expect(forAll).toContain('Hello there, come')
  expect([forAll.includes('noindex'), answer.headers.get('x-robots-tag')]).toEqual([false, null])
  expect(forAll).not.toContain('/leave/')
})

test.each([
  // What has held for more than an hour is taken for the time.
  ['ahead by three days, for an hour', 72, 1],
  ['ahead by five hours, for an hour', 5, 1],
  ['back by six hours, for two', -6, 2],
  ['back by three days, for a day', -72, 24],
])('a clock that is set %s sends nothing early, nothing twice, and forgets nobody', async (_, leapHours, lasts) => {
  await ground.end()
  const begin = Date.parse('2026-03-28T00:00:00Z')
  let passed = 0
  let leap = 0
  const clock = openClock(
    () => begin + passed + leap,
    () => passed,
    null,
  )
  ground = await letterGround(clock)
  const due: Record<string, number> = {}
  // The night of summer time's beginning in Vienna lies between.
  for (const [name, zone] of [
    ['tokyo', 'Asia/Tokyo'],
    ['vienna', 'Europe/Vienna'],
    ['lima', 'America/Lima'],
  ] as const) {
    await ground.joins(`${name}@mail.example`, { whereabouts: { country: '', zone } })
    due[`${name}@mail.example`] = momentIn(zone, '2026-03-30', '08:00')
  }
  await ground.ledger.letters.send(
    aSending(aLetter(), { kind: 'local', day: '2026-03-30', time: '08:00', zone: 'Europe/Vienna' }),
  )
  const got = new Map<string, number>()
  const STEP_MS = HOUR_MS / 4
  for (let step = 0; step < 4 * 24 * 8; step += 1) {
    passed += STEP_MS
    const hour = passed / HOUR_MS
    // From the second evening on, hours before the first is due.
    leap = hour >= 36 && hour < 36 + lasts ? leapHours * HOUR_MS : 0
    clock.now()
    await ground.rests()
    for (const { to } of ground.sent.splice(0)) {
      expect(got.has(to)).toBe(false)
      expect(begin + passed).toBeGreaterThanOrEqual(due[to]!)
      got.set(to, begin + passed)
    }
  }
  expect([...got.keys()].sort()).toEqual(Object.keys(due).sort())
})

test('a complaint (RFC 5965, the form of its appendix B.1) takes its sender off the list, and the letter says so', async () => {
  await ground.joins('ada@mail.example')
  await ground.joins('ben@mail.example')
  const sending = aSending()
  await ground.ledger.letters.send(sending)
  await ground.rests()
  const { mail } = ground.sent.find(({ to }) => to === 'ada@mail.example')!
  const report = (original: string) =>
    Buffer.from(
      [
        'From: <abusedesk@example.com>',
        'Date: Thu, 8 Mar 2005 17:40:36 EDT',
        'Subject: FW: Earn money',
        'To: <abuse@example.net>',
        'MIME-Version: 1.0',
        'Content-Type: multipart/report; report-type=feedback-report;',
        '     boundary="part1_13d.2e68ed54_boundary"',
        '',
        '--part1_13d.2e68ed54_boundary',
        'Content-Type: text/plain; charset="US-ASCII"',
        'Content-Transfer-Encoding: 7bit',
        '',
        'This is an email abuse report for an email message received from IP 192.0.2.1.',
        '',
        '--part1_13d.2e68ed54_boundary',
        'Content-Type: message/feedback-report',
        '',
        'Feedback-Type: abuse',
        'User-Agent: SomeGenerator/1.0',
        'Version: 1',
        '',
        '--part1_13d.2e68ed54_boundary',
        'Content-Type: message/rfc822',
        'Content-Disposition: inline',
        '',
        original,
        '--part1_13d.2e68ed54_boundary--',
      ].join('\r\n'),
    )
  const original = (await bytesOf(mail)).toString('latin1')
  expect(await takeReport(ground.ledger, report(original.replace('l-sending', 'l-sendinx')))).toMatchObject({
    ok: false,
  })
  expect(await takeReport(ground.ledger, report(original))).toMatchObject({ ok: true, member: true })
  expect(await ground.ledger.letters.sending(sending.id)).toMatchObject({ counts: { sent: 2, complained: 1 } })
  const people = await ground.ledger.letters.people(samples.list.id, 0, 10)
  expect(people.map(({ member }) => member.status).sort()).toEqual(['confirmed', 'left'])
})
