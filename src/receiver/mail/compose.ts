import type Mail from 'nodemailer/lib/mailer'
import type { SentMessage } from '#core/journal'
import { type List, type Member, valueOf } from '#core/list'
import { domainOf, type Gift, gifts, type MailSettings, type MessageKind } from '#core/mail'
import { type MessageFacts, renderMessage, withoutLinks } from '#core/message'
import type { Ledger } from '../ledger'
import type { MarkKeys } from '../marks'
import type { QueuedMail } from './queued'
import { linksOf } from './links'

/** A mail as nodemailer sends it, and the files that go with it. Plain data, so that it can be handed to a thread. */
export type ComposedMail = Omit<Mail.Options, 'attachments'> & { messageId: string; files: AttachedFile[] }

export interface AttachedFile {
  path: string
  name: string
  /** Its media type. */
  type: string
}

export interface ComposeParts {
  ledger: Ledger
  publicUrl: string
  keys: MarkKeys
  /** Where a gift's bytes are; null when they are not there. */
  giftFile(id: string): string | null | Promise<string | null>
  /** Text of an alert mail; null once the trouble is over. */
  alertWords?(mailId: string): Promise<{ subject: string; text: string } | null>
  /** Composes what its owner wrote to a member who is on the list. */
  letter?(mail: QueuedMail, member: Member): Promise<ComposedMail>
  /** Looks up a mail's member, real or made-up. */
  memberOf(mail: QueuedMail): Promise<Member | null>
  /** Looks up what a visitor wrote to the owner, real or made-up. */
  messageOf?(mail: QueuedMail): Promise<SentMessage | null>
}

/** Why a mail that was queued is not needed any more. */
export class NotNeeded extends Error {}

/**
 * Composes a mail when it is sent, from the state of that moment.
 *
 * @throws NotNeeded
 */
export async function compose(mail: QueuedMail, parts: ComposeParts): Promise<ComposedMail> {
  const { ledger, publicUrl } = parts
  const published = ledger.published()
  if (mail.kind === 'letter') {
    const member = await parts.memberOf(mail)
    if (member?.status !== 'confirmed') throw new NotNeeded('They are not on the list any more.')
    if (parts.letter === undefined) throw new NotNeeded('No letters are sent here.')
    return parts.letter(mail, member)
  }
  const list = published.list(mail.list)
  const settings = published.mail(mail.list)
  if (list === null) throw new NotNeeded('The list was taken away.')
  if (settings === null) throw new NotNeeded('The list sends no mail any more.')
  const named = { id: mail.id, to: mail.recipient, date: new Date(Math.max(mail.queued, mail.due)) }
  if (mail.kind === 'alert') {
    const words = (await parts.alertWords?.(mail.id)) ?? null
    if (words === null) throw new NotNeeded('It is well again.')
    return { ...envelopeOf(settings, list, named), ...words, headers: automatic }
  }
  if (mail.kind === 'message')
    return { ...envelopeOf(settings, list, named), ...(await messageFrom(mail, list, parts)), headers: automatic }
  if (mail.kind === 'daily-notice' || mail.kind === 'notice')
    return { ...envelopeOf(settings, list, named), ...(await noticeOf(mail, list, parts)), headers: automatic }

  const member = await parts.memberOf(mail)
  if (member === null || !isStillDue(mail.kind, member)) throw new NotNeeded('Meanwhile it has no purpose any more.')
  const links = linksOf(parts.keys, publicUrl, member)
  const gift = await giftFor(settings, member, mail.kind, ledger)
  const attached = gift?.inWelcome === 'attachment' && gift.what.kind === 'file' ? gift.what : null
  const file = attached === null ? null : await parts.giftFile(attached.id)
  // It waits, with the reason in the Mail room, until the file is there again.
  if (attached !== null && file === null) throw new Error(`The gift’s file, ${attached.name}, is not there.`)
  return {
    ...composeMessage({
      settings,
      list,
      kind: mail.kind,
      named,
      facts: {
        firstName: firstNameOf(member),
        link: linkFor(mail.kind, links),
        leaveLink: member.status === 'confirmed' ? links.leave : null,
        giftLink: gift === null ? null : links.gift,
      },
    }),
    files: attached === null || file === null ? [] : [{ path: file, name: attached.name, type: attached.type }],
  }
}

/** RFC 3834, section 5. */
const automatic = { 'Auto-Submitted': 'auto-generated' }

/** A message with all its headers. */
export function composeMessage({
  settings,
  list,
  kind,
  named,
  facts,
}: {
  settings: MailSettings
  list: Pick<List, 'id' | 'name' | 'why'>
  kind: MessageKind
  named: Named
  facts: MessageFacts
}): ComposedMail {
  return {
    ...envelopeOf(settings, list, named),
    ...renderMessage(settings, list, kind, facts),
    headers: { ...automatic, ...listHeaders(settings, list, facts.leaveLink) },
  }
}

/** What programs know a list by, and by what they let its reader leave. */
export function listHeaders(
  { senderAddress }: Pick<MailSettings, 'senderAddress'>,
  { id, name }: Pick<List, 'id' | 'name'>,
  leaveLink: string | null,
) {
  return {
    // RFC 2919: a name of its own for each list, within a domain of its sender's.
    'List-Id': { prepared: true, value: `${quotedName(name)} <${id}.${domainOf(senderAddress.trim())}>` },
    ...(leaveLink !== null && {
      // RFC 2369, section 3.2, and RFC 8058, section 3.1.
      'List-Unsubscribe': { prepared: true, value: `<${leaveLink}>` },
      'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click',
    }),
  }
}

/** What tells a mail from others. Sent again after a crash it has the same date, so that programs take both for one. */
interface Named {
  id: string
  to: string
  date?: Date
}

/** From whom and to whom, by the list's mail. */
export function envelopeOf(
  { senderName, senderAddress, replyTo, bounceAddress }: MailSettings,
  list: Pick<List, 'name'>,
  { id, to, date }: Named,
): ComposedMail {
  const sender = senderAddress.trim()
  return {
    messageId: `<${id}@${domainOf(sender)}>`,
    ...(date !== undefined && { date }),
    from: { name: senderName || list.name, address: sender },
    to,
    ...(replyTo.trim() !== '' && { replyTo: replyTo.trim() }),
    envelope: { from: bounceAddress.trim() || sender, to },
    files: [],
    // Nothing that anybody typed is read as a path or an address to fetch.
    disableFileAccess: true,
    disableUrlAccess: true,
  }
}

function isStillDue(kind: MessageKind, { status }: Member): boolean {
  switch (kind) {
    case 'confirmation':
    case 'reminder':
      return status === 'waiting'
    case 'welcome':
    case 'already-there':
      return status === 'confirmed'
    case 'leaving':
      return status === 'left'
  }
}

function linkFor(kind: MessageKind, links: ReturnType<typeof linksOf>): string | null {
  if (kind === 'confirmation' || kind === 'reminder') return links.confirm
  return kind === 'leaving' ? `${links.leave}?back` : null
}

/** The gift that a message hands over to somebody, or null. */
export async function giftFor(
  settings: MailSettings,
  member: Member,
  kind: MessageKind,
  ledger: Ledger,
): Promise<Gift | null> {
  const { gift } = settings
  if (gift === null || !gifts(settings, kind)) return null
  return gift.firstSoMany === null || (await ledger.isAmongFirst(member, gift.firstSoMany)) ? gift : null
}

/** What the list keeps under a column that is named so. */
function firstNameOf(member: Member): string {
  return valueOf(member, 'first-name').slice(0, 100)
}

/**
 * What a visitor wrote, as a mail to the owner: an answer to it goes to the visitor. Nothing that was typed is a header but
 * that one address, which was read as one, and nothing in it becomes a link.
 */
async function messageFrom(
  mail: QueuedMail,
  list: List,
  { messageOf, publicUrl, ledger }: ComposeParts,
): Promise<Pick<Mail.Options, 'subject' | 'text' | 'replyTo'>> {
  const message = (await messageOf?.(mail)) ?? null
  if (message === null || message.personal === null) throw new NotNeeded('The message was erased.')
  const { form, joins, personal } = message
  const { email, subject, text, answers, page } = personal
  const name = line(await ledger.formName(form))
  return {
    subject: name === '' ? 'A message by your form' : `A message by “${name}”`,
    ...(email !== null && { replyTo: { name: '', address: email.typed.trim() } }),
    text: [
      `From: ${withoutLinks(email?.typed ?? '')}`,
      ...(subject === '' ? [] : [`Subject: ${withoutLinks(subject)}`]),
      '',
      withoutLinks(text),
      '',
      ...answers.map(({ label, answer }) => `${line(label)}: ${withoutLinks(answer)}`),
      joins ? `They ticked the box to join “${list.name}”.` : 'They did not ask to join a list.',
      ...(page === '' ? [] : [`Written on ${withoutLinks(page)}`]),
      '',
      'Answer this mail to write to them. All messages of this form:',
      `${publicUrl}/forms/${form}/messages`,
    ].join('\n'),
  }
}

async function noticeOf(
  { kind, member: id, queued }: QueuedMail,
  list: List,
  { ledger, publicUrl }: ComposeParts,
): Promise<Pick<Mail.Options, 'subject' | 'text'>> {
  const at = `${publicUrl}/lists/${list.id}`
  if (kind === 'notice') {
    const member = id === '' ? null : await ledger.member(id)
    if (member === null) throw new NotNeeded('The member is gone.')
    const values = list.columns
      .map(({ key, label }) => [label, valueOf(member, key)] as const)
      .filter(([, value]) => value !== '')
    // All of it was typed by whoever it was: nothing in it becomes a link, and none of it is a subject.
    return {
      subject: `Somebody joined ${line(list.name)}`,
      text: [
        `${withoutLinks(member.email.typed)} joined “${list.name}”.`,
        ...values.map(([label, value]) => `${label}: ${withoutLinks(value)}`),
        ...(member.from?.page ? [`On ${withoutLinks(member.from.page)}`] : []),
        '',
        at,
      ].join('\n'),
    }
  }
  const day = new Date(queued).toISOString().slice(0, 10)
  const joined = await ledger.joinedOn(list.id, day)
  return {
    subject: `${joined.length === 1 ? 'One person' : `${joined.length} people`} joined ${line(list.name)} on ${day}`,
    text: [
      `Joined “${list.name}” on ${day}:`,
      ...joined.map(({ email }) => `- ${withoutLinks(email.typed)}`),
      '',
      at,
    ].join('\n'),
  }
}

/** A phrase of RFC 5322 as a quoted string in ASCII; accents and other letters are left out, as RFC 2919 takes the id to name the list. */
function quotedName(name: string): string {
  const plain = line(name)
    .normalize('NFD')
    .replaceAll(/[^\x20-\x7e]/g, '')
    .replaceAll(/["\\<>]/g, '')
    .trim()
  return plain === '' ? '' : `"${plain.slice(0, 60)}"`
}

function line(text: string): string {
  return text.replaceAll(/\p{Cc}+/gu, ' ').trim()
}
