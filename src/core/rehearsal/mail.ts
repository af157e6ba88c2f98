import { type Answer, type AnswerCase, answerTo, type FormContent } from '#core/form'
import type { List } from '#core/list'
import type { MailSettings, MessageKind } from '#core/mail'
import { gifts, messageNames } from '#core/mail'
import {
  type Evidence,
  evidence,
  type Failure,
  failure,
  judgeMail,
  judgeOwnPage,
  linkIn,
  type OnItsWay,
  type ReceivedMail,
  rewrittenLinks,
  type Shown,
  squeezed,
} from '#core/proof'
import type { MemberStatus } from '#core/list'
import { NoAnswer, type Ports, type PressSeen } from './ports'
import { pressFailure, shownAfter } from './pressing'
import type { CaseContext } from './way'

/** How long a mail may take before it is called missing: most servers need seconds. */
const LONGEST_WAIT_MS = 20_000
const LOOK_EVERY_MS = 150
const RARELY_MS = 5_000

export interface MailWay {
  ports: Ports
  settings: MailSettings
  list: List
  content: FormContent
  publicUrl: string
}

/** Null for a list without mail. */
export function mailWayOf({ ports, content, subject }: CaseContext): MailWay | null {
  const { mail: settings, list, receiver } = subject
  return settings === null || list === null ? null : { ports, settings, list, content, publicUrl: receiver }
}

/** What was waited for; `notYet` where the server asked to come again, as many do with whom they do not know. */
export type AwaitedMail =
  { ok: true; mail: ReceivedMail; seen: string } | { ok: false; problem: Failure } | { ok: false; notYet: string }

/** RFC 5321, section 4.2.1: a transient refusal, to be tried again. */
const ASKED_TO_WAIT = /\b4\d\d[ -]|\b4\.\d{1,3}\.\d{1,3}\b/
const SLOW_MS = 5_000

const notYet = (said: string) =>
  `Not yet arrived: the mail server asked to come again later, as many do at first (“${said.slice(0, 200)}”). It is tried again by itself, and this is completed when it comes, within an hour.`

/** The very same mail, twice: RFC 5322, section 3.6.4, gives each an id of its own. */
function twiceIn(received: readonly ReceivedMail[], kind: MessageKind): Failure | null {
  const ids = received.map(({ headers }) => headers['message-id'] ?? '').filter((id) => id !== '')
  const double = ids.find((id, at) => ids.indexOf(id) !== at)
  if (double === undefined) return null
  return failure(
    'mail-twice',
    'mail',
    {
      expected: `“${messageNames[kind]}” arrives once.`,
      happened: 'The very same mail arrived twice.',
      cause: 'The mail server hands mails on twice: a copy rule, or two ways to the same mailbox.',
      mend: 'Look at the mail server’s rules for outgoing mail; Ask Box sent it once.',
    },
    evidence('response', `Message-ID: ${double}, ${received.length} mails`),
  )
}

/** A mail whose links are led over another host that works has our own links, as its reader arrives there, and a warning. */
async function withFollowedLink(
  mail: ReceivedMail,
  ports: Ports,
  publicUrl: string,
): Promise<{ mail: ReceivedMail; warning: string[] }> {
  const rewritten = rewrittenLinks(mail, publicUrl)
  if (rewritten.length === 0) return { mail, warning: [] }
  let { text, html } = mail
  for (const link of rewritten) {
    const landed = await ports.fetch(link).then(
      ({ address }) => address,
      () => '',
    )
    if (!landed.startsWith(`${publicUrl}/`)) return { mail, warning: [] }
    text = text.replaceAll(link, landed)
    html = html.replaceAll(link.replaceAll('&', '&amp;'), landed).replaceAll(link, landed)
  }
  const host = /^https?:\/\/([^/?#]+)/.exec(rewritten[0]!)?.[1] ?? ''
  return {
    mail: { ...mail, text, html },
    warning: [
      `Its links are led over ${host} first, to count who presses them: where that is blocked, nobody can confirm`,
    ],
  }
}

/** Waits for somebody's next mail after `known` ones; the failure when it does not come or is not as it has to be. */
export async function awaitMail(
  { ports, settings, list, publicUrl }: MailWay,
  email: string,
  kind: MessageKind,
  { known, firstName }: { known: number; firstName: string },
): Promise<AwaitedMail> {
  const begun = ports.now()
  for (;;) {
    const { received, queued } = await ports.mails(email)
    const mail = received[known]
    const ms = ports.now() - begun
    if (mail !== undefined) {
      const twice = twiceIn(received, kind)
      if (twice !== null) return { ok: false, problem: twice }
      const { mail: read, warning } = await withFollowedLink(mail, ports, publicUrl)
      const problem = judgeMail(read, kind, { settings, list, firstName, publicUrl, now: ports.today() })
      const after = `After ${(ms / 1000).toFixed(1)} s${ms > SLOW_MS ? ', which is slow' : ''}`
      return problem === null
        ? { ok: true, mail: read, seen: [`${after}: “${squeezed(mail.subject)}”`, ...warning].join('. ') }
        : { ok: false, problem }
    }
    const putOff = queued.find(({ state, said }) => state === 'waiting' && ASKED_TO_WAIT.test(said))
    const longest = ports.mailPatienceMs ?? LONGEST_WAIT_MS
    const isPatient = longest > LONGEST_WAIT_MS
    if (putOff !== undefined && !isPatient && ms > LONGEST_WAIT_MS / 4)
      return { ok: false, notYet: notYet(putOff.said) }
    const refused = queued.find(({ state }) => state === 'refused')
    const isLate = ms > longest
    const isStuck = queued.some(({ state, said }) => state === 'waiting' && said !== '')
    if (refused !== undefined || isLate || (isStuck && !isPatient && ms > LONGEST_WAIT_MS / 4))
      return { ok: false, problem: missing(kind, refused, queued) }
    await ports.pause(ms > LONGEST_WAIT_MS ? RARELY_MS : LOOK_EVERY_MS)
  }
}

function missing(kind: MessageKind, refused: OnItsWay | undefined, queued: readonly OnItsWay[]): Failure {
  const expected = `“${messageNames[kind]}” arrives within ${LONGEST_WAIT_MS / 1000} seconds.`
  const shown: Evidence = evidence('response', JSON.stringify(queued, null, 1))
  if (refused !== undefined)
    return failure(
      'mail-refused',
      'mail',
      {
        expected,
        happened: `The mail server refused it: ${refused.said}`,
        cause: 'The mail server does not take mail from this receiver, or not for this address.',
        mend: 'Look at the server set up in the Mail room, and at what it answered.',
      },
      shown,
    )
  const stuck = queued.find(({ state, said }) => state === 'waiting' && said !== '')
  if (stuck !== undefined)
    return failure(
      'mail-put-off',
      'mail',
      {
        expected,
        happened: `The mail server put it off: ${stuck.said}`,
        cause: 'The mail server does not answer, or takes no mail at the moment.',
        mend: 'Look at the server set up in the Mail room. What waits is tried again by itself.',
      },
      shown,
    )
  if (queued.some(({ state }) => state === 'sending'))
    return failure(
      'mail-server-slow',
      'mail',
      {
        expected,
        happened: 'The mail server has it and has not answered yet.',
        cause:
          'The mail server takes its time before it takes a mail. Nothing is lost: it is waited for, up to ten minutes.',
        mend: 'Rehearse again later. If it stays so, ask the mail server’s provider, or set another server up in the Mail room.',
      },
      shown,
    )
  const isSent = queued.some(({ state }) => state === 'sent')
  if (queued.length === 0)
    return failure(
      'mail-not-written',
      'mail',
      {
        expected,
        happened: 'No mail was queued.',
        cause: 'The message is off in the settings that the receiver knows.',
        mend: 'Publish the mail again.',
      },
      shown,
    )
  return failure(
    isSent ? 'mail-slow' : 'mail-waiting',
    'mail',
    {
      expected,
      happened: isSent ? 'The server took it, and it has not arrived.' : 'It waits to be sent.',
      cause: isSent ? 'The mail is slow on its way.' : 'Sending is stopped, or no mail server is set up.',
      mend: isSent ? 'Wait and rehearse again; ask the provider of the mailbox.' : 'Let mail go in the Mail room.',
    },
    shown,
  )
}

/** Whether a page says what an answer is written to say. */
export function saysAnswer(content: FormContent, one: AnswerCase, shown: Shown): Failure | null {
  const said = answerTo(content, one)
  if (said.show === 'address') return judgeOwnPage(said.address.trim(), withoutPassed(said, shown))
  if (squeezed(said.heading) === shown.heading && squeezed(said.message) === shown.message) return null
  const over = one === 'link-expired' ? null : answerTo(content, 'link-expired')
  if (over !== null && over.show !== 'address' && squeezed(over.heading) === shown.heading)
    return failure('link-over', 'mail', {
      expected: `“${squeezed(`${said.heading} ${said.message}`)}”`,
      happened: `“${shown.heading}”: the link counts as used up or too old.`,
      cause:
        'The days for confirming are over before the press, or the link is of another receiver, or its key was changed.',
      mend: 'Look at the days for confirming at the Mail station, and at the clock in Settings.',
    })
  return failure('mail-page', 'mail', {
    expected: `“${squeezed(`${said.heading} ${said.message}`)}”`,
    happened: `“${squeezed(`${shown.heading} ${shown.message}`)}”, status ${shown.status}`,
    cause:
      'The page that the mail leads to shows something else: something before the receiver answers in its place, or the link was changed.',
    mend: 'Open the link yourself; look at what stands before the receiver.',
  })
}

/** What was passed on stands in the address, and says nothing of which page it is. */
function withoutPassed({ pass = [] }: Answer, shown: Shown): Shown {
  if (pass.length === 0 || !URL.canParse(shown.address)) return shown
  const { origin, pathname, search } = new URL(shown.address)
  const pairs = search
    .slice(1)
    .split('&')
    .filter((pair) => pair !== '' && !pass.some((key) => pair.startsWith(`${key}=`)))
  return { ...shown, address: `${origin}${pathname}${pairs.length === 0 ? '' : `?${pairs.join('&')}`}` }
}

export function statusProblem(expected: MemberStatus, found: MemberStatus | null, cause: string): Failure | null {
  return expected === found
    ? null
    : failure('status-differs', 'mail', {
        expected: `The member is “${expected}”.`,
        happened: found === null ? 'Nobody is there.' : `The member is “${found}”.`,
        cause,
        mend: 'Rehearse again; if it stays so, tell whoever looks after the receiver.',
      })
}

const GIFT_WORDS = {
  'gift-missing': {
    cause: 'The gift’s file was taken away, or is another than the one that was published.',
    mend: 'Choose the file again at the Mail station, and publish.',
  },
  'gift-over': {
    cause: 'It is for the first so many, for some days, or for so many times, and that is used up.',
    mend: 'Raise the number or the days of the gift at the Mail station, or take it away, and publish.',
  },
  'gift-not-attached': {
    cause: 'The mail server takes attachments off, or the file is larger than it takes.',
    mend: 'Hand the gift over by a link in place of an attachment, and publish.',
  },
}

/** The gift of a welcome as it is handed over, byte by byte; null where it has none. */
export function judgeGift(way: MailWay, mail: ReceivedMail): Promise<JudgedGift> | null {
  const { settings, publicUrl } = way
  const { gift } = settings
  if (gift === null || !gifts(settings, 'welcome')) return null
  if (gift.inWelcome !== 'attachment')
    return judgeLink(way, linkIn(mail, publicUrl, 'gift'), 'The welcome has no link to it.')
  const wanted = gift.what.kind === 'file' ? gift.what.id : null
  const attachment = mail.attachments.find(({ sha256 }) => sha256 === wanted)
  return Promise.resolve(
    attachment !== undefined
      ? { problem: null, seen: `Attached: ${attachment.name}, ${attachment.size} bytes, the same as published.` }
      : mail.attachments.length === 0
        ? notHandedOver(way, 'Nothing is attached.', 'gift-not-attached')
        : notHandedOver(way, 'Another file is attached.'),
  )
}

export interface JudgedGift {
  problem: Failure | null
  seen: string
}

/** The gift behind a link; `without` says what is wrong where there is none. */
export async function judgeLink(way: MailWay, link: string | null, without: string): Promise<JudgedGift> {
  const { ports, settings } = way
  const wanted = settings.gift?.what.kind === 'file' ? settings.gift.what.id : null
  if (link === null) return notHandedOver(way, without)
  try {
    const got = await ports.download(link)
    if (got.status === 410) return notHandedOver(way, 'Its link says that it is not given any more.', 'gift-over')
    if (got.status >= 400) return notHandedOver(way, `Its link answers ${got.status}.`)
    return wanted !== null && got.sha256 !== wanted
      ? notHandedOver(way, `Its link hands over ${got.size} other bytes.`)
      : {
          problem: null,
          seen: wanted === null ? `${got.address} opened.` : `${got.size} bytes, the same as published.`,
        }
  } catch (error) {
    if (!(error instanceof NoAnswer)) throw error
    return notHandedOver(way, error.message)
  }
}

/** A gift that was pressed for: the file that was published, or its address. */
export function judgeTaken(way: MailWay, seen: PressSeen | null | undefined): JudgedGift {
  const { gift } = way.settings
  if (seen === null || seen === undefined) return notHandedOver(way, 'Nothing there hands it over.')
  const problem = pressFailure(seen, `“${gift?.label ?? 'The gift'}”`)
  if (problem !== null) return { problem, seen: '' }
  const { file, page } = seen
  if (gift?.what.kind === 'file') {
    if (file !== null && file.sha256 === gift.what.id)
      return { problem: null, seen: `Pressed: ${file.name}, ${file.size} bytes, the same as published.` }
    if (file !== null) return notHandedOver(way, `${file.size} other bytes came.`)
    return page?.status === 410
      ? notHandedOver(way, 'Its link says that it is not given any more.', 'gift-over')
      : notHandedOver(way, `A page came in its place, status ${page?.status}.`)
  }
  const shown = shownAfter(seen)
  return shown.status >= 400
    ? notHandedOver(way, `Its address answers ${shown.status}.`)
    : { problem: null, seen: `Pressed: ${shown.address} opened.` }
}

function notHandedOver(
  { settings: { gift } }: MailWay,
  happened: string,
  code: keyof typeof GIFT_WORDS = 'gift-missing',
): JudgedGift {
  const file = gift?.what.kind === 'file' ? `: ${gift.what.name}, ${gift.what.size} bytes` : ''
  const expected = `“${gift?.label ?? ''}” is handed over${file}.`
  return { problem: failure(code, 'mail', { expected, happened, ...GIFT_WORDS[code] }), seen: '' }
}
