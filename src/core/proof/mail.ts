import { parseEmail } from '#core/email'
import type { List } from '#core/list'
import { domainOf, type MailSettings, type MessageKind, messageNames, needsLink } from '#core/mail'
import { isAligned } from '#core/sender'
import { placeholders, plainText, type RichText } from '#core/text'
import { evidence, failure } from './judge'
import type { Failure } from './proof'
import { squeezed } from './shown'

/** A mail as it came, read by a parser that knows nothing of how it was written. */
export interface ReceivedMail {
  /** When it came, in milliseconds since 1970. */
  at: number
  from: { name: string; address: string }
  subject: string
  /** The plain part; empty for none. */
  text: string
  /** The HTML part; empty for none. */
  html: string
  /** By name in small letters. */
  headers: Record<string, string>
  attachments: { name: string; size: number; sha256: string }[]
  /** Its source, for evidence. */
  source: string
}

/** A mail that was queued, and what became of it. */
export interface OnItsWay {
  kind: string
  state: 'waiting' | 'sending' | 'sent' | 'refused' | 'dropped'
  said: string
}

/** A message's subject by its settings alone. */
export function subjectOf(
  { messages }: MailSettings,
  kind: MessageKind,
  list: Pick<List, 'name'>,
  firstName: string,
): string {
  const filled: RichText = messages[kind].subject.map((block) =>
    block.kind === 'paragraph'
      ? {
          ...block,
          spans: block.spans.map((span) =>
            span.placeholder === 'list'
              ? { text: list.name }
              : span.placeholder === 'first-name'
                ? { text: firstName || span.text }
                : span,
          ),
        }
      : block,
  )
  return tidied(plainText(filled)) || list.name
}

/** A placeholder that nothing is known for leaves no gap: “Welcome, Ilse” and “Welcome” alike. */
function tidied(text: string): string {
  return squeezed(text).replace(/\s([,:!.،])/g, '$1')
}

const HOUR_MS = 3_600_000
/** What a `[[slot]]` or one of our placeholders looks like that nothing was filled into. Other braces are its owner's words. */
const UNFILLED = new RegExp(String.raw`\[\[[a-z-]{1,20}\]\]|\{(?:${placeholders.join('|')})(?:\|[^{}|]{0,40})?\}`)

/** A mail with what it is held against. */
interface JudgedMail {
  mail: ReceivedMail
  kind: MessageKind
  /** What the message is called. */
  name: string
  settings: MailSettings
  list: List
  firstName: string
  publicUrl: string
  now: number
}
type MailProblem = { code: string } & Parameters<typeof failure>[2]

/** A mail as it came, held against the list's settings: the first thing that is wrong. */
export function judgeMail(
  mail: ReceivedMail,
  kind: MessageKind,
  against: Omit<JudgedMail, 'mail' | 'kind' | 'name'>,
): Failure | null {
  const judged: JudgedMail = { mail, kind, name: `“${messageNames[kind]}”`, ...against }
  for (const check of [senderProblem, wordsProblem, linkProblem, restProblem]) {
    const problem = check(judged)
    if (problem === null) continue
    const { code, ...words } = problem
    return failure(code, 'mail', words, evidence('response', mail.source))
  }
  return null
}

/** Who it is from, and where it bounces to. */
function senderProblem({ mail, name, settings }: JudgedMail): MailProblem | null {
  const sender = settings.senderAddress.trim()
  if (mail.from.address.toLowerCase() !== sender.toLowerCase())
    return {
      code: 'other-sender',
      expected: `${name} is from ${sender}.`,
      happened: `It is from ${mail.from.address || 'nobody'}.`,
      cause: 'The mail server writes another sender into mails than they have.',
      mend: 'Use the address that belongs to the account at the mail server, or a server that leaves senders alone.',
    }
  const returnPath = parseEmail((mail.headers['return-path'] ?? '').replace(/^<|>$/g, ''))
  if (returnPath.ok && !isAligned(domainOf(returnPath.email.compared), domainOf(sender.toLowerCase())))
    return {
      code: 'sender-domain',
      expected: `Bounces of mail from ${sender} go to the same domain.`,
      happened: `The return path is ${returnPath.email.typed}.`,
      cause: 'The address for bounces is on another domain than the sender, so SPF cannot count for the sender.',
      mend: 'Choose an address for bounces on the sender’s own domain.',
    }
  return null
}

/** Its subject, its parts, and what was to be filled in. */
function wordsProblem({ mail, kind, settings, list, firstName }: JudgedMail): MailProblem | null {
  const wanted = subjectOf(settings, kind, list, firstName)
  if (tidied(mail.subject) !== wanted)
    return {
      code: 'other-subject',
      expected: `Its subject: “${wanted}”`,
      happened: `Its subject: “${mail.subject}”`,
      cause: 'Something on the way changed the subject, or the mail was written from older settings.',
      mend: 'Publish the mail again, and look what the mail server adds.',
    }
  if (mail.text.trim() === '' || mail.html.trim() === '')
    return {
      code: 'one-part',
      expected: 'The mail has a plain part and an HTML part.',
      happened: mail.text.trim() === '' ? 'The plain part is missing.' : 'The HTML part is missing.',
      cause: 'Something on the way took a part away.',
      mend: 'Look at the mail server’s settings for outgoing mail.',
    }
  const unfilled = UNFILLED.exec(mail.text) ?? UNFILLED.exec(mail.subject)
  if (unfilled !== null)
    return {
      code: 'placeholder-left',
      expected: 'Every placeholder is filled in.',
      happened: `“${unfilled[0]}” stands in the mail.`,
      cause: 'It was typed and not put in as a placeholder.',
      mend: 'Write the message again and choose the placeholder from the list.',
    }
  return null
}

/** Where its links lead. */
function linkProblem({ mail, kind, name, publicUrl }: JudgedMail): MailProblem | null {
  const path = kind === 'leaving' ? 'leave' : 'confirm'
  if (!needsLink.includes(kind)) return null
  const link = linkIn(mail, publicUrl, path)
  const inHtml = hrefsIn(mail.html).find((one) => one.startsWith(`${publicUrl}/${path}/`))
  if (inHtml !== undefined && link !== inHtml)
    return {
      code: 'text-link-broken',
      expected: 'The plain part’s link leads where the button leads.',
      happened: link === null ? 'It is not there, or broken.' : `It is cut short, or another: ${link.slice(0, 200)}`,
      cause: 'Something on the way broke the line of the plain part, which some people read alone.',
      mend: 'Look at the mail as it came, and at what the mail server does with long lines.',
    }
  const rewritten = link === null ? hostOfRewritten(mail, publicUrl, path) : null
  if (rewritten !== null)
    return {
      code: 'link-rewritten',
      expected: `${name} leads to ${publicUrl}.`,
      happened: `Its link leads to ${rewritten} first.`,
      cause: 'The mail server leads links over an address of its own, to count who presses them.',
      mend: 'Switch that counting off at the mail server: where its address fails or is blocked, nobody can confirm.',
    }
  if (link !== null && !hrefsIn(mail.html).includes(link))
    return {
      code: 'other-html-link',
      expected: 'The button leads where the plain part’s link leads.',
      happened: `It leads to ${hrefsIn(mail.html).find((one) => /^https?:/.test(one)) ?? 'nowhere'}.`,
      cause: 'Something on the way rewrote the links of the HTML part, which is the one that most people read.',
      mend: 'Switch off at the mail server what counts presses on links.',
    }
  if (link === null)
    return {
      code: 'no-link',
      expected: `${name} leads to ${publicUrl}.`,
      happened: 'No link in it does.',
      cause: 'The link was taken out of the message, or something on the way rewrote it.',
      mend: 'Put the button back into the message, publish, and rehearse again.',
    }
  return null
}

/** Why it came, its headers, its date. */
function restProblem({ mail, kind, list, now }: JudgedMail): MailProblem | null {
  if (!mail.text.includes(squeezedLine(list.why)))
    return {
      code: 'no-why',
      expected: `The mail says why its reader gets it: “${list.why}”`,
      happened: 'It does not.',
      cause: 'Something on the way cut the end of the mail.',
      mend: 'Look at the mail as it came.',
    }
  const isOnList = kind === 'welcome' || kind === 'already-there'
  const missing = [
    'date',
    'message-id',
    'list-id',
    'auto-submitted',
    ...(isOnList ? ['list-unsubscribe', 'list-unsubscribe-post'] : []),
  ].filter((header) => !mail.headers[header])
  if (missing.length > 0)
    return {
      code: 'header-missing',
      expected: `The mail has the header${missing.length > 1 ? 's' : ''} ${missing.join(', ')}.`,
      happened: 'It is not there.',
      cause: 'The mail server takes headers away.',
      mend: 'Use another mail server, or ask its provider.',
    }
  const date = Date.parse(mail.headers.date ?? '')
  if (Number.isNaN(date) || Math.abs(date - now) > HOUR_MS)
    return {
      code: 'clock',
      expected: 'The mail is dated now.',
      happened: `It is dated ${mail.headers.date}.`,
      cause: 'The clock of the receiver’s computer is wrong: links end too early or too late, and mail looks old.',
      mend: 'Set the clock of that computer, and let it be kept right by itself.',
    }
  return null
}

/** The link of ours in a mail that leads to a path; null for none. Read from the plain part, which nobody’s program hides. */
export function linkIn(
  { text }: Pick<ReceivedMail, 'text'>,
  publicUrl: string,
  path: 'confirm' | 'leave' | 'gift',
): string | null {
  const start = text.indexOf(`${publicUrl}/${path}/`)
  return start < 0 ? null : (/^[^\s<>]{1,500}/.exec(text.slice(start))?.[0] ?? null)
}

/** Where the links of an HTML part lead. */
function hrefsIn(html: string): string[] {
  return [...html.matchAll(/\bhref="([^"]{1,2000})"/g)].map(([, href]) => href!.replaceAll('&amp;', '&'))
}

/** Links of a mail that hold one of ours and lead to another host first. */
export function rewrittenLinks({ text, html }: ReceivedMail, publicUrl: string): string[] {
  // Not the gift: following its link would take it.
  const ours = ['confirm', 'leave'].flatMap((path) => [
    `${publicUrl}/${path}/`,
    encodeURIComponent(`${publicUrl}/${path}/`),
    `/${path}/`,
  ])
  const all = [...(text.match(/https?:\/\/[^\s<>]{1,2000}/g) ?? []), ...hrefsIn(html)]
  return [...new Set(all)].filter(
    (one) => !one.startsWith(`${publicUrl}/`) && ours.some((address) => one.includes(address)),
  )
}

/** The host over which a link of ours is led, which then stands in the other's address; null for none. */
function hostOfRewritten({ text, html }: ReceivedMail, publicUrl: string, path: string): string | null {
  const ours = [`${publicUrl}/${path}/`, encodeURIComponent(`${publicUrl}/${path}/`), `/${path}/`]
  const all = [...(text.match(/https?:\/\/[^\s<>]{1,2000}/g) ?? []), ...hrefsIn(html)]
  const led = all.find((one) => !one.startsWith(publicUrl) && ours.some((address) => one.includes(address)))
  return led === undefined ? null : (/^https?:\/\/([^/?#]+)/.exec(led)?.[1] ?? null)
}

function squeezedLine(text: string): string {
  return text.trim().split('\n')[0]!.slice(0, 60)
}
