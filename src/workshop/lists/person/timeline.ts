import type { LetterCopy, MailOnList, ToMember } from '#core/api'
import { mailNames } from '#core/mail'
import type { CameFrom, Entry, SentMessage } from '#core/journal'
import type { BatchId, FormId, ListId, SpotId } from '#core/ids'
import { applyToMember, type BatchRecord, type List, type Member, valueOf } from '#core/list'
import type { PersonFacts } from '../../people'

/** One thing that happened to somebody, in words for the owner. */
export interface TimelineEvent {
  /** Tells it from the others. */
  key: string
  /** ISO 8601. */
  at: string
  what: string
  /** More of it, a line each. */
  details: string[]
  /** Who did it: the person, the owner, or nobody but time and programs. */
  by: 'person' | 'owner' | 'itself'
  /** Still on its way to the receiver. */
  isWaiting?: true
}

/** Names of what entries refer to by ids. */
export interface Names {
  list: List
  form(id: FormId): string
  spot(id: SpotId): string
  /** Of a spot whose code is a frame, in words: the page around it is known by what the spot says; null for others. */
  frameAt(id: SpotId, page: string): string | null
  otherList(id: ListId): string
  batch(id: BatchId): BatchRecord | null
  /** Who has a key; null for whoever reads this. */
  key(id: string | undefined): string | null
}

/**
 * All that happened to somebody on one list, newest first.
 *
 * @param known what the receiver knows besides the journal: mails to them, and whether they fetched the gift
 */
export function timelineOf(
  { entries, waiting }: Pick<PersonFacts, 'entries' | 'waiting'>,
  {
    mails,
    gift,
    letters = [],
    messages = [],
  }: Pick<ToMember, 'gift'> & {
    mails: readonly MailOnList[]
    letters?: readonly LetterCopy[]
    messages?: readonly SentMessage[]
  },
  names: Names,
): TimelineEvent[] {
  const events: TimelineEvent[] = []
  let member: Member | null = null
  for (const entry of [...entries, ...waiting]) {
    const after: Member | null = applyToMember(member, entry)
    const isWaiting = waiting.includes(entry)
    const { what, details, by } = told(entry, member, after, names)
    events.push({ key: `entry ${entry.n}`, at: entry.at, what, details, by, ...(isWaiting && { isWaiting }) })
    member = after
  }
  for (const mail of mails) events.push({ key: `mail ${mail.id}`, ...toldOfMail(mail) })
  for (const message of messages) events.push({ key: `message ${message.n}`, ...toldOfMessage(message, names) })
  for (const letter of letters) events.push({ key: `letter ${letter.sending}`, ...toldOfLetter(letter) })
  if (gift.times > 0)
    events.push({
      key: 'gift',
      at: new Date(gift.last).toISOString(),
      what: 'Fetched the gift',
      details: gift.times === 1 ? [] : [`${gift.times} times until then.`],
      by: 'person',
    })
  // Of what happened in the same moment, the later stands above.
  return events.reverse().sort((one, other) => other.at.localeCompare(one.at))
}

function toldOfMessage({ at, form, personal }: SentMessage, names: Names): Omit<TimelineEvent, 'key'> {
  const { subject = '', text = ERASED } = personal ?? {}
  return { at, what: `Wrote to you by ${names.form(form)}`, details: [subject, text].filter(Boolean), by: 'person' }
}

function told(
  entry: Entry,
  before: Member | null,
  after: Member | null,
  names: Names,
): Omit<TimelineEvent, 'key' | 'at'> {
  const who = names.key(entry.by) ?? 'you'
  switch (entry.kind) {
    case 'arrival':
      return { what: verdictWords[entry.verdict], details: arrivalDetails(entry, names), by: 'person' }
    case 'member-added':
      return {
        what: `Added by ${who}`,
        details: [
          ...changes(null, after, names.list),
          ...(entry.personal?.consent === undefined
            ? []
            : [`How they agreed, as you stated: “${entry.personal.consent}”`]),
        ],
        by: 'owner',
      }
    case 'member-edited':
      return { what: `Changed by ${who}`, details: changes(before, after, names.list), by: 'owner' }
    case 'member-corrected':
      return { what: 'Put their address right', details: changes(before, after, names.list), by: 'person' }
    case 'member-noted':
      return {
        what: who === 'you' ? 'Your note' : `A note by ${who}`,
        details: [entry.personal?.text ?? ERASED],
        by: 'owner',
      }
    case 'member-removed':
      if (entry.isSlip)
        return { what: 'A slip', details: ['The address that was meant is on the list already.'], by: 'person' }
      return { what: `Taken off the list by ${who}`, details: [], by: 'owner' }
    case 'member-restored':
      return { what: `Put back by ${who}`, details: [], by: 'owner' }
    case 'member-confirmed':
      return {
        what: 'Confirmed',
        details: ['Followed the link in the mail, and pressed the button there.'],
        by: 'person',
      }
    case 'member-left':
      return {
        what: 'Left the list',
        details: [
          entry.by === 'one-click'
            ? 'By one press in the mail program.'
            : entry.by === 'service'
              ? 'At the service that the list is handed on to.'
              : 'On the page that the link leads to.',
        ],
        by: 'person',
      }
    case 'member-returned':
      return { what: 'Came back', details: [], by: 'person' }
    case 'member-expired':
      return { what: 'Never confirmed', details: ['Removed after the list’s days of waiting.'], by: 'itself' }
    case 'member-bounced':
      return { what: 'Takes no mail', details: [`“${entry.personal?.reason ?? ERASED}”`], by: 'itself' }
    case 'member-written':
    case 'members-changed': {
      const { what, details } = batchWords(names.batch(entry.batch), names)
      const different = changes(before, after, names.list)
      const status =
        before !== null && after !== null && before.status !== after.status ? [statusWords[after.status]] : []
      return { what, details: [...details, ...different, ...status], by: 'owner' }
    }
    case 'members-erased':
    // None of these is about a member.
    case 'message':
    case 'message-released':
    case 'messages-erased':
    case 'batch-begun':
    case 'batch-ended':
      return { what: 'Erased', details: [], by: 'owner' }
  }
}

const ERASED = 'erased'
const verdictWords = {
  joined: 'Joined',
  'confirm-first': 'Signed up, to be confirmed',
  'already-on-list': 'Signed up again, and was on the list',
  'already-waiting': 'Signed up again, while still to confirm',
  bot: 'Held back as a bot',
}

const statusWords = {
  confirmed: 'On the list.',
  waiting: 'To be confirmed.',
  left: 'Left.',
  removed: 'Taken off the list.',
  bounced: 'Takes no mail.',
}

/** What a batch did, told of one of its people. */
function batchWords(batch: BatchRecord | null, names: Names): { what: string; details: string[] } {
  switch (batch?.purpose.kind) {
    case 'import':
      return {
        what: `Brought in from “${batch.purpose.from}”${byWords(batch, names)}`,
        details: [`How they agreed, as you stated: “${batch.purpose.consent}”`],
      }
    case 'copy':
      return { what: `Brought over from “${names.otherList(batch.purpose.from)}”${byWords(batch, names)}`, details: [] }
    case 'undo':
      return { what: 'Put back to what it was, with others', details: [] }
    default:
      return { what: `Changed by ${names.key(batch?.by) ?? 'you'}, with others`, details: [] }
  }
}

function byWords(batch: BatchRecord, names: Names): string {
  const name = names.key(batch.by)
  return name === null ? '' : ` by ${name}`
}

function arrivalDetails(entry: Entry & { kind: 'arrival' }, names: Names): string[] {
  const { personal } = entry
  const where = `Through “${names.form(entry.form)}”, version ${entry.version}, at ${names.spot(entry.spot)}.`
  if (personal === null) return [where, `What was typed is ${ERASED}.`]
  const { values, tags = [], consents = [], page, cameFrom, region } = personal
  return [
    where,
    ...(page === '' ? [] : [names.frameAt(entry.spot, page) ?? `On ${page}`]),
    ...cameFromWords(cameFrom),
    ...Object.entries(values).map(([key, value]) => `${labelOf(names.list, key)}: ${value}`),
    ...(tags.length === 0 ? [] : [`Asked for: ${tags.join(', ')}`]),
    ...consents.map(({ wording }) => `Agreed to: “${wording}”`),
    ...(region === undefined ? [] : [`Taken to be in ${region === '' ? 'a country that is not known' : region}.`]),
  ]
}

function cameFromWords(from: CameFrom | undefined): string[] {
  const parts = [
    from?.source && `marked “${from.source}”`,
    from?.campaign && `campaign “${from.campaign}”`,
    from?.referrer && `from ${from.referrer}`,
  ].filter(Boolean)
  return parts.length === 0 ? [] : [`Came there: ${parts.join(', ')}.`]
}

/** What of somebody is otherwise than before. */
function changes(before: Member | null, after: Member | null, list: List): string[] {
  if (after === null) return []
  const email =
    before !== null && before.email.typed === after.email.typed
      ? []
      : [before === null ? after.email.typed : `Address: ${before.email.typed} → ${after.email.typed}`]
  const keys = new Set([...Object.keys(before?.values ?? {}), ...Object.keys(after.values)])
  const values = [...keys].flatMap((key) => {
    const [was, is] = [before === null ? '' : valueOf(before, key), valueOf(after, key)]
    return was === is ? [] : [`${labelOf(list, key)}: ${before === null ? is : `${was || 'empty'} → ${is || 'empty'}`}`]
  })
  const [had, has] = [before?.tags ?? [], after.tags ?? []]
  const given = has.filter((tag) => !had.includes(tag))
  const taken = had.filter((tag) => !has.includes(tag))
  return [
    ...email,
    ...values,
    ...(given.length === 0 ? [] : [`Tagged: ${given.join(', ')}`]),
    ...(taken.length === 0 ? [] : [`No longer tagged: ${taken.join(', ')}`]),
  ]
}

function labelOf({ columns }: List, key: string): string {
  return columns.find((column) => column.key === key)?.label ?? key
}

const letterWords: Record<LetterCopy['state'], string> = {
  waiting: 'waits for its turn',
  queued: 'goes next',
  sent: 'sent',
  refused: 'refused by the mail server',
  bounced: 'came back',
  dropped: 'not sent, not for them any more',
}
function toldOfLetter({ title, state, at, hasLeft, hasComplained }: LetterCopy): Omit<TimelineEvent, 'key'> {
  return {
    at: new Date(at).toISOString(),
    what: `Letter “${title}” ${letterWords[state]}`,
    details: [
      ...(hasLeft ? ['They left by its link.'] : []),
      ...(hasComplained ? ['They called it spam, as their service reported.'] : []),
    ],
    by: 'itself',
  }
}

function toldOfMail({ kind, state, queued, due, attempts, said, recipient }: MailOnList): Omit<TimelineEvent, 'key'> {
  const name = mailNames[kind]
  const what = {
    waiting: attempts > 0 ? 'will be tried again' : 'waits to be sent',
    sending: 'is being sent',
    sent: 'sent',
    refused: 'refused',
    dropped: 'not sent, not needed any more',
  }[state]
  return {
    at: new Date(state === 'waiting' || state === 'sending' ? queued : due).toISOString(),
    what: `Mail “${name}” ${what}`,
    details: [`To ${recipient}.`, ...(said === '' ? [] : [`The server said: “${said}”`])],
    by: 'itself',
  }
}
