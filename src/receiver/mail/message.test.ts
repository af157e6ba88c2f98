import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { dkimVerify } from 'mailauth/lib/dkim/verify.js'
import { simpleParser, type HeaderValue } from 'mailparser'
import type { ListId, MemberId } from '#core/ids'
import type { List, Member } from '#core/list'
import { type MailSettings, messageKinds, type MessageKind } from '#core/mail'
import { renderMessage, startMail } from '#core/message'
import { richText } from '#core/text'
import { type Language, languages } from '#core/texts'
import { mailMarkupProblems, unsupportedInMail } from '../../../tests/html-checker'
import type { Ledger } from '../ledger'
import type { QueuedMail } from './queued'
import { bytesOf, compose, type ComposedMail, dkimRecord, makeDkim } from '.'
import { openTransport } from './transport'

const list: List = {
  id: 'clearskyalerts' as ListId,
  name: 'Sternkarte für Käuze 🌌',
  why: 'You asked for it.',
  columns: [{ key: 'first-name', label: 'First name' }],
  createdAt: '2026-01-01T00:00:00.000Z',
}
const settingsFor = (language: Language, changes: Partial<MailSettings> = {}): MailSettings => ({
  ...startMail(list.id, list.name, language).draft,
  confirm: 'always',
  senderName: 'Zoë Ångström, at the hill',
  senderAddress: 'letters@hill.example',
  replyTo: 'zoe@hill.example',
  bounceAddress: 'bounces@hill.example',
  postalAddress: 'Quarry Road 7\nHilltown',
  ...changes,
})
const statusOf: Record<MessageKind, Member['status']> = {
  confirmation: 'waiting',
  reminder: 'waiting',
  welcome: 'confirmed',
  'already-there': 'confirmed',
  leaving: 'left',
}
const member = (kind: MessageKind, firstName = 'Renée', address = 'renee@visitor.example'): Member => ({
  id: 'somemember' as MemberId,
  list: list.id,
  email: { typed: address, compared: address },
  values: { 'first-name': firstName },
  status: statusOf[kind],
  joinedAt: '2026-03-01T12:00:00.000Z',
  from: null,
  revision: 1,
})
const QUEUED = Date.parse('2026-03-02T10:00:00.000Z')
const queued = (kind: MessageKind, to = 'renee@visitor.example'): QueuedMail => ({
  id: 'mailnumber1',
  space: '',
  list: list.id,
  member: 'somemember' as MemberId,
  kind,
  recipient: to,
  inbox: to,
  compared: to,
  queued: QUEUED,
  due: QUEUED,
  state: 'waiting',
  attempts: 0,
  said: '',
  sent: 0,
})
const composed = (kind: MessageKind, settings: MailSettings, of = member(kind), named = list): Promise<ComposedMail> =>
  compose(queued(kind, of.email.typed), {
    ledger: {
      published: () => ({ list: () => named, mail: () => settings }),
      isAmongFirst: () => Promise.resolve(true),
    } as unknown as Ledger,
    publicUrl: 'https://forms.hill.example',
    keys: { newest: () => 'A'.repeat(43), accepted: () => ['A'.repeat(43)] },
    giftFile: () => null,
    memberOf: () => Promise.resolve(of),
  })

describe('every message, parsed back by a parser that knows nothing of how it was written', () => {
  const all = languages.flatMap((language) => messageKinds.map((kind) => [language, kind] as const))
  test.each(all)('%s, %s', async (language, kind) => {
    const settings = settingsFor(language)
    const mail = await simpleParser(await bytesOf(await composed(kind, settings)))
    const header = (name: string) => mail.headers.get(name) as HeaderValue & { text?: string; value?: unknown }
    // RFC 5322, sections 3.6.1 to 3.6.5; RFC 2047 for names and subjects that are not ASCII.
    expect(mail.from?.value).toEqual([{ name: 'Zoë Ångström, at the hill', address: 'letters@hill.example' }])
    expect(mail.to).toMatchObject({ value: [{ address: 'renee@visitor.example' }] })
    expect(mail.replyTo?.value[0]?.address).toBe('zoe@hill.example')
    expect(mail.messageId).toBe('<mailnumber1@hill.example>')
    // Of when it was queued, however often it goes out.
    expect(mail.date!.getTime()).toBe(QUEUED)
    expect(mail.subject).toContain(list.name)
    // RFC 3834, section 5.
    expect(header('auto-submitted')).toBe('auto-generated')
    // RFC 2919, section 3; RFC 2369, section 3.2; RFC 8058, section 3.1.
    expect(mail.headerLines.find(({ key }) => key === 'list-id')?.line).toMatch(
      /^List-Id: "Sternkarte fur Kauze" <clearskyalerts\.hill\.example>$/i,
    )
    const isOnList = kind === 'welcome' || kind === 'already-there'
    const unsubscribe = mail.headerLines.find(({ key }) => key === 'list-unsubscribe')?.line
    if (isOnList) {
      expect(unsubscribe).toMatch(/^List-Unsubscribe:\s<https:\/\/forms\.hill\.example\/leave\/somemember-[\w-]{22}>$/)
      expect(mail.headerLines.find(({ key }) => key === 'list-unsubscribe-post')?.line).toBe(
        'List-Unsubscribe-Post: List-Unsubscribe=One-Click',
      )
    } else expect(unsubscribe).toBeUndefined()
    // A true plain part: it says all that the other says.
    expect(mail.text).toContain(list.why)
    expect(mail.text).toContain('Quarry Road 7\nHilltown')
    if (!isOnList) expect(mail.text).toMatch(/https:\/\/forms\.hill\.example\/(confirm|leave)\/somemember-/)
    expect(mail.html).not.toMatch(/\[\[|\{[a-z-]+(\||\})/)
    expect(mail.text).not.toMatch(/\[\[|\{[a-z-]+(\||\})/)
  })
})

test('signed with a key made here, an independent verifier takes the signature (RFC 6376), and not that of a changed mail', async () => {
  const dkim = makeDkim('hill.example', 'askbox')
  const record = dkimRecord(dkim)
  expect(record.name).toBe('askbox._domainkey.hill.example')
  const transport = openTransport({ host: '127.0.0.1', port: 1, security: 'none', user: '', password: '' }, dkim)
  transport.close()
  const bytes = await bytesOf({
    ...(await composed('welcome', settingsFor('de'))),
    dkim: { domainName: dkim.domain, keySelector: dkim.selector, privateKey: dkim.privateKey },
  })
  const verify = async (message: Buffer) =>
    (
      await dkimVerify(message, {
        resolver: async (name: string) => {
          expect(name).toBe(record.name)
          return [[record.value]]
        },
      })
    ).results[0]!.status
  expect(await verify(bytes)).toMatchObject({ result: 'pass', aligned: 'hill.example' })
  const changed = Buffer.from(bytes.toString('latin1').replace('Quarry', 'Parish'), 'latin1')
  expect((await verify(changed)).result).not.toBe('pass')
})

describe('the HTML of messages', () => {
  const rendered = (kind: MessageKind, language: Language = 'en') =>
    renderMessage(settingsFor(language), list, kind, {
      firstName: 'Renée',
      link: 'https://forms.hill.example/confirm/x',
      leaveLink: 'https://forms.hill.example/leave/x',
      giftLink: null,
    }).html

  test('holds in what mail programs support, by the tables of a registry package', () => {
    expect(unsupportedInMail(rendered('confirmation'))).toEqual([])
  })

  test.each(messageKinds)('%s is HTML by a checker, in a language that reads from right to left too', async (kind) => {
    for (const language of ['en', 'ar'] as const) {
      expect(rendered(kind, language)).not.toContain(`direction:${language === 'ar' ? 'ltr' : 'rtl'}`)
      expect(await mailMarkupProblems(rendered(kind, language))).toEqual([])
    }
    expect(rendered(kind, 'ar')).toMatch(/<html lang="ar" dir="rtl"/)
  })
})

/** Whatever anybody could type to get more into a mail than words. */
const nasty = fc.oneof(
  fc.string({ unit: 'grapheme' }),
  fc.constantFrom(
    'x\r\nBcc: victim@post.example',
    'x\nContent-Type: text/html\n\n<script>alert(1)</script>',
    '<img src=x onerror=alert(1)>',
    '"><a href="https://evil.example">',
    '[[link]]',
    '{first-name|x}',
    '=?utf-8?Q?=0ABcc:_victim@post.example?=',
    '\u2028Bcc: victim@post.example',
    '--boundary\r\n',
    '<!--/button-->',
    '$&$1',
  ),
)

test('property: nothing that anybody typed adds a header, a recipient or markup', async () => {
  const plain = await simpleParser(await bytesOf(await composed('welcome', settingsFor('en'))))
  const names = plain.headerLines.map(({ key }) => key).sort()
  const tags = (html: string | false | undefined) => (String(html).match(/<[a-z]+[ >]/g) ?? []).join('')
  await fc.assert(
    fc.asyncProperty(nasty, nasty, nasty, nasty, async (firstName, listName, subject, words) => {
      const settings = settingsFor('en', { senderName: listName.replaceAll(/[\r\n\0]/g, ' ') })
      settings.messages.welcome = {
        ...settings.messages.welcome,
        subject: [{ kind: 'paragraph', spans: [{ text: `A${subject}` }, { text: '', placeholder: 'first-name' }] }],
        text: richText(`W${words.replaceAll(/\s+/g, ' ')}`),
      }
      const of = member('welcome', firstName)
      const bytes = await bytesOf(await composed('welcome', settings, of, { ...list, name: `L${listName}` }))
      const mail = await simpleParser(bytes)
      expect(mail.headerLines.map(({ key }) => key).sort()).toEqual(names)
      expect(mail.to).toMatchObject({ value: [{ address: 'renee@visitor.example' }] })
      expect(mail.cc ?? mail.bcc).toBeUndefined()
      // As many of each as in a message of the same paragraphs.
      expect(tags(mail.html).replaceAll(/<(p|a) /g, '')).toBe(tags(plain.html).replaceAll(/<(p|a) /g, ''))
    }),
    { numRuns: 60 },
  )
})

test('an attached gift arrives byte by byte', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'gift-'))
  const bytes = Buffer.from(Array.from({ length: 5_000 }, (_, at) => (at * 7) % 256))
  writeFileSync(join(folder, 'gift'), bytes)
  const settings = settingsFor('en', {
    gift: {
      label: 'The chart',
      what: { kind: 'file', id: 'a'.repeat(64), name: 'Sternkarte für März.pdf', type: 'application/pdf', size: 5_000 },
      onAnswer: false,
      inWelcome: 'attachment',
      firstSoMany: null,
      times: null,
      days: null,
    },
  })
  const mail = await compose(queued('welcome'), {
    ledger: {
      published: () => ({ list: () => list, mail: () => settings }),
      isAmongFirst: () => Promise.resolve(true),
    } as unknown as Ledger,
    publicUrl: 'https://forms.hill.example',
    keys: { newest: () => 'A'.repeat(43), accepted: () => ['A'.repeat(43)] },
    giftFile: () => join(folder, 'gift'),
    memberOf: () => Promise.resolve(member('welcome')),
  })
  const { attachments } = await simpleParser(await bytesOf(mail))
  expect(attachments[0]).toMatchObject({ filename: 'Sternkarte für März.pdf', contentType: 'application/pdf' })
  expect(attachments[0]!.content.equals(bytes)).toBe(true)
  rmSync(folder, { recursive: true })
})
