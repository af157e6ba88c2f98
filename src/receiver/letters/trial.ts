import type { LetterTrialStep } from '#core/api'
import type { MemberId, SendingId } from '#core/ids'
import { type LetterContent, linksOfLetter } from '#core/letter'
import type { Member } from '#core/list'
import type { ReceivedMail } from '#core/proof'
import type { Ledger } from '../ledger'
import { mailJob } from '../mail/queued'
import { guardedRequest, OutsideProblem } from '../outside'
import { newId } from '../random'
import { mailsTo, type Rehearsal, type RehearsalMailParts, type Rehearsals } from '../rehearsals'
import type { Settings } from '../settings'
import { letterJobId } from './letter-job'
import { allowedOrigins, tryLink } from './tried-links'

const LONGEST_WAIT_MS = 30_000
const LOOK_EVERY_MS = 150

export interface TrialParts {
  ledger: Ledger
  settings: Settings
  rehearsals: Rehearsals
  rehearsalMail: RehearsalMailParts
  now(): number
}

/**
 * Has somebody made up get a letter as everybody will: its mail is read by a parser of its own, its links are followed, and
 * they leave by the one press that mail programs send (RFC 8058). Nothing of it is seen by real people.
 */
export async function tryLetter(parts: TrialParts, content: LetterContent): Promise<LetterTrialStep[]> {
  const { ledger, settings, rehearsals, now } = parts
  const steps: LetterTrialStep[] = []
  const step: TellStep = (name, ok, said) => {
    steps.push({ name, ok, said })
    return ok
  }
  const rehearsal = await rehearsals.start(null)
  if (rehearsal === null) return [{ name: 'A made-up reader', ok: false, said: 'Too many rehearsals are going on.' }]
  const id = newId<SendingId>()
  try {
    await ledger.letters.keepTrial(id, content)
    const reader = madeUpReader(content, rehearsal.code, now())
    const mail = { list: reader.list, member: reader.id, kind: 'letter' as const, recipient: reader.email, sending: id }
    await rehearsal.space.place(reader, mailJob(mail, now(), { id: letterJobId(id, reader.id) }))
    const arrived = await mailOrRefusal(rehearsal, reader, parts.rehearsalMail)
    if (arrived?.mail === undefined) {
      step('It arrives', false, arrived?.said ?? 'Nothing arrived within half a minute.')
      return steps
    }
    const leave = readMail(arrived.mail, content, step)
    for (const link of linksIn(arrived.mail.text, arrived.mail.html, settings.publicUrl)) {
      const tried = await tryLink(link, settings)
      step(linkName(link, settings.publicUrl), tried.ok, tried.said)
    }
    for (const { address } of linksOfLetter(content)) {
      const tried = await tryLink(address, settings)
      step('A link of yours', tried.ok, `${address}: ${tried.said}`)
    }
    await leaves(leave, settings, step)
    const hasLeft = (await rehearsal.space.member(reader.id))?.status === 'left'
    step('They are off the list', hasLeft, hasLeft ? 'By that one press.' : 'They are still on it.')
    return steps
  } finally {
    await ledger.letters.dropTrial(id)
    await rehearsals.end(rehearsal.code)
  }
}

type TellStep = (name: string, ok: boolean, said: string) => boolean

/** The mail once it is there, or what the server said that refused it; null for neither within half a minute. */
function mailOrRefusal(
  rehearsal: Rehearsal,
  { email }: Member,
  rehearsalMail: RehearsalMailParts,
): Promise<{ mail?: ReceivedMail; said: string } | null> {
  return waitFor(async () => {
    const { received, queued } = await mailsTo(rehearsal, email.typed, rehearsalMail)
    const [mail] = received
    if (mail !== undefined) return { mail, said: '' }
    const refused = queued.find(({ state }) => state === 'refused' || state === 'dropped')
    return refused === undefined ? null : { said: refused.said }
  })
}

/** What a mail program makes of it. Answers with the address that leaves by one press, empty for none. */
function readMail(mail: ReceivedMail, content: LetterContent, step: TellStep): string {
  step('It arrives', true, `“${mail.subject}”, from ${mail.from.name} <${mail.from.address}>.`)
  step(
    'A mail program reads it',
    mail.text.trim() !== '' && (content.isPlain || mail.html !== ''),
    content.isPlain ? 'Plain text.' : 'HTML, and the same said in plain text.',
  )
  const leave = /<(https?:[^>]{1,500})>/.exec(mail.headers['list-unsubscribe'] ?? '')?.[1] ?? ''
  const isOneClick = mail.headers['list-unsubscribe-post'] === 'List-Unsubscribe=One-Click'
  step(
    'It says which list, and how to leave',
    leave !== '' && isOneClick && (mail.headers['list-id'] ?? '') !== '',
    leave === '' ? 'No way to leave is said to mail programs.' : 'In the mail’s own headers (RFC 2919, 8058).',
  )
  const inText = mail.text.includes(leave)
  step(
    'Its reader sees how to leave',
    inText,
    inText ? 'At its end, in both parts.' : 'The link to leave is not in it.',
  )
  return leave
}

async function leaves(address: string, settings: Settings, step: TellStep): Promise<void> {
  try {
    const { status } = await guardedRequest(address, {
      method: 'POST',
      headers: { 'Content-Type': 'application/x-www-form-urlencoded' },
      body: Buffer.from('List-Unsubscribe=One-Click'),
      isFollowed: false,
      allowed: allowedOrigins(settings),
    })
    step('One press in a mail program', status === 200, `The receiver answered ${status}.`)
  } catch (error) {
    step('One press in a mail program', false, error instanceof OutsideProblem ? error.message : String(error))
  }
}

function madeUpReader({ lists }: LetterContent, code: string, now: number): Member {
  const address = `letter-${code}@mail.example`
  return {
    ...{ id: newId<MemberId>(), list: lists[0]!, email: { typed: address, compared: address } },
    ...{ values: { 'first-name': 'Wren' }, status: 'confirmed', joinedAt: new Date(now).toISOString() },
    // Before the first entry of its journal.
    ...{ from: null, revision: 0 },
  }
}

/** Addresses of ours that a mail leads to, each once; pressing one to leave changes nothing by itself. */
function linksIn(text: string, html: string, publicUrl: string): string[] {
  const all = [
    ...text.matchAll(/https?:\/\/[^\s<>"]{1,1500}/g),
    ...html.matchAll(/(?:href|src)="(https?:[^"]{1,1500})"/g),
  ]
  const found = all.map(([whole, inTag]) => (inTag ?? whole).replaceAll('&amp;', '&'))
  return [...new Set(found)].filter((address) => address.startsWith(`${publicUrl}/`)).slice(0, 60)
}

function linkName(link: string, publicUrl: string): string {
  const path = link.slice(publicUrl.length)
  if (path.startsWith('/leave/')) return 'The link to leave'
  if (path.startsWith('/letter/')) return 'The copy in the browser'
  if (path.startsWith('/picture/')) return 'A picture'
  if (path.startsWith('/page/')) return 'A form’s page'
  return path.startsWith('/to/') ? 'A counted link' : 'A link'
}

async function waitFor<T>(look: () => Promise<T | null>): Promise<T | null> {
  const end = performance.now() + LONGEST_WAIT_MS
  for (;;) {
    const found = await look()
    if (found !== null || performance.now() > end) return found
    await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS))
  }
}
