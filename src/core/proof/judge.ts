import { sameValue } from '#core/json'
import type { AnswerCase, Field, FormContent } from '#core/form'
import type { Arrival, SentMessage } from '#core/journal'
import { isJoining, type List, type Member } from '#core/list'
import type { ExpectedAnswer, ExpectedMember } from './expected'
import type { Evidence, Failure, MendPlace } from './proof'
import { type Shown, squeezed } from './shown'

/*
 * What was seen, held against what had to be. Each returns null where both agree, else the failure with its likely cause.
 */

const LONGEST_EVIDENCE = 4_000

export function evidence(kind: Evidence['kind'], text: string): Evidence {
  return { kind, text: text.length > LONGEST_EVIDENCE ? `${text.slice(0, LONGEST_EVIDENCE)} …` : text }
}

export function failure(
  code: string,
  at: MendPlace,
  words: { expected: string; happened: string; cause: string; mend: string },
  ...shown: Evidence[]
): Failure {
  const cut = (text: string, longest: number) => (text.length > longest ? `${text.slice(0, longest - 2)} …` : text)
  return {
    code,
    at,
    expected: cut(words.expected, 2_000),
    happened: cut(words.happened, 2_000),
    cause: cut(words.cause, 600),
    mend: cut(words.mend, 600),
    evidence: shown.slice(0, 6),
  }
}

const answerWords = {
  joined: 'who joins',
  'confirm-first': 'who has to confirm',
  'already-on-list': 'who is on the list already',
  'already-waiting': 'who has yet to confirm',
  'message-sent': 'who sends a message and joins nothing',
  confirmed: 'who confirmed',
  'link-expired': 'who follows a link that is used up',
  left: 'who left',
  'not-possible': 'whose sign-up could not be taken',
} satisfies Record<AnswerCase, string>

/** What the receiver means by a status where it takes nothing; docs/how/sign-up.md, “Answers”. */
const NOT_TAKEN: Record<number, { code: string; at: MendPlace; cause: string; mend: string }> = {
  403: {
    code: 'not-taken',
    at: 'settings',
    cause: 'Something before the receiver forbids sign-ups, or the rehearsal was over.',
    mend: 'Rehearse again. If it stays so, let /join/ through at whatever stands before the receiver.',
  },
  404: {
    code: 'spot-unknown',
    at: 'spot',
    cause: 'The receiver knows no such spot: it was never sent there, or the receiver was put back to an older copy.',
    mend: 'Publish the form, so that the receiver has its spots, and rehearse again.',
  },
  410: {
    code: 'closed',
    at: 'spot',
    cause: 'The receiver holds this spot for closed.',
    mend: 'Make the spot live again.',
  },
  413: {
    code: 'not-taken',
    at: 'page',
    cause: 'The page sends more than a sign-up is: other fields of the page are sent along.',
    mend: 'Put the code outside of the page’s own form, or use a frame or a link.',
  },
  415: {
    code: 'not-taken',
    at: 'page',
    cause: 'The form’s kind of sending (enctype) was changed on the page.',
    mend: 'Paste the code anew.',
  },
  429: {
    code: 'too-many',
    at: 'settings',
    cause: 'Too many sign-ups came from one place: visitors seem to share one address.',
    mend: 'Where a proxy stands before the receiver, set ASKBOX_TRUST_PROXY, so that visitors’ own addresses count.',
  },
  503: {
    code: 'not-ready',
    at: 'settings',
    cause: 'The receiver cannot store sign-ups at the moment: its disk is full, or it is just starting.',
    mend: 'Look at the receiver’s log and at the room on its disk.',
  },
}

/** An answer's words, or the owner's own page. */
export function judgeAnswer(
  expected: ExpectedAnswer,
  shown: Shown,
  one: keyof typeof answerWords,
  more: readonly Evidence[],
): Failure | null {
  const errors = Object.entries(shown.errors)
  if (errors.length > 0)
    return failure(
      'refused',
      'form',
      {
        expected: 'The sign-up is taken.',
        happened: `The form came back: ${errors.map(([field, message]) => `${field}: ${message}`).join('; ')}`,
        cause: 'An answer that fits the question was refused.',
        mend: 'Look at the field’s kind and limits, publish, and rehearse again.',
      },
      ...more,
    )
  if (expected.kind === 'own-page') return judgeOwnPage(expected.address, shown, more)
  if (shown.status >= 400) {
    const reason = NOT_TAKEN[shown.status]
    const said = [shown.heading, shown.message].filter(Boolean).join(' ')
    return failure(
      reason?.code ?? 'not-taken',
      reason?.at ?? 'settings',
      {
        expected: `The answer to ${answerWords[one]}: “${expected.heading}”`,
        happened: `The sign-up was sent and not taken: status ${shown.status}${said === '' ? '' : `, “${said}”`}, at ${shown.address}.`,
        cause:
          reason?.cause ??
          'Something before the receiver, such as a firewall or a cache, answered in its place, or the receiver has trouble.',
        mend:
          reason?.mend ??
          'Look at what the answer says, and at the receiver’s log; let sign-ups (/join/) through as they are.',
      },
      ...more,
    )
  }
  if (squeezed(expected.heading) === shown.heading && squeezed(expected.message) === shown.message) return null
  return failure(
    'other-words',
    'answer',
    {
      expected: `“${squeezed(`${expected.heading} ${expected.message}`)}”`,
      happened: `“${squeezed(`${shown.heading} ${shown.message}`)}” at ${shown.address}`,
      cause: `Visitors read other words than the answer to ${answerWords[one]} in the version that is published.`,
      mend: 'Publish the form anew; where the page is older code, paste the new.',
    },
    ...more,
  )
}

export function judgeOwnPage(address: string, shown: Shown, more: readonly Evidence[] = []): Failure | null {
  const expected = `The page ${address} opens.`
  if (shown.isHeldBack === true) return heldBack(expected, shown.address, more)
  if (shown.status === 0)
    return failure(
      'own-page-unreached',
      'answer',
      {
        expected,
        happened: shown.message || 'It could not be reached.',
        cause: 'The site of the after-page does not answer.',
        mend: 'Open the address yourself; correct it, or wait until the site is back.',
      },
      ...more,
    )
  if (shown.status >= 400) {
    const isMissing = shown.status === 404 || shown.status === 410
    return failure(
      isMissing ? 'own-page-missing' : 'own-page-error',
      'answer',
      {
        expected,
        happened: `It answers ${shown.status}${isMissing ? ': there is no such page.' : '.'}`,
        cause: isMissing
          ? 'The after-page was not made yet, or its address is another.'
          : 'The site of the after-page has trouble of its own.',
        mend: isMissing
          ? 'Make the page at that address, or correct the address in the answer.'
          : 'Open the address yourself and look what the site says.',
      },
      ...more,
    )
  }
  const looks = shown.looks === undefined ? undefined : OWN_PAGE_LOOKS[shown.looks]
  if (looks !== undefined) return failure(looks.code, 'answer', { expected, ...looks.words }, ...more)
  if (isSamePage(address, shown.address)) return null
  return failure(
    'own-page-leads-elsewhere',
    'answer',
    {
      expected,
      happened: `It leads on to ${shown.address}.`,
      cause: 'The address of the after-page sends visitors to another page.',
      mend: 'Put the address where visitors arrive into the answer, or take the redirect away.',
    },
    ...more,
  )
}

/** What browsers say that they forbid. */
const FORBIDS = /Content Security Policy|sandboxed|disallowed/i

/** The browser did not let a press lead where it was to lead. @param address where the page stays; null for the page before */
export function heldBack(expected: string, address: string | null, more: readonly Evidence[]): Failure {
  const line = more.flatMap(({ text }) => text.split('\n')).find((one) => FORBIDS.test(one))
  return failure(
    'press-held-back',
    'answer',
    {
      expected,
      happened: `Nothing came of the press: the page stays ${address === null ? 'as it was' : `at ${address}`}${line === undefined ? '' : `, and the browser says “${line.slice(0, 200)}”`}`,
      cause: 'A policy of the page, or of something before the receiver, does not let the press lead there.',
      mend: 'Look at what stands before the receiver and changes its headers; until then, show a message in place of the page.',
    },
    ...more,
  )
}

/** A page that answers, and is not what its visitors were promised. */
const OWN_PAGE_LOOKS = {
  'not-found': {
    code: 'own-page-missing',
    words: {
      happened: 'It answers as if all were well, and says that there is no such page.',
      cause: 'The after-page was not made yet, or its address is another.',
      mend: 'Make the page at that address, or correct the address in the answer.',
    },
  },
  empty: {
    code: 'own-page-empty',
    words: {
      happened: 'It opens, and shows nothing.',
      cause: 'The after-page was made and nothing put on it, or what should fill it does not come.',
      mend: 'Open the address yourself, and put words on the page.',
    },
  },
  'sign-in': {
    code: 'own-page-private',
    words: {
      happened: 'It asks for a password.',
      cause: 'The after-page is for members, or not public yet.',
      mend: 'Publish the page for everybody, or choose another for the answer.',
    },
  },
}

/** Sites add a slash, `www` or the s of https by themselves: that is no other page. */
export function isSamePage(one: string, other: string): boolean {
  const plain = (address: string) => {
    try {
      const { host, pathname, search } = new URL(address)
      return `${host.replace(/^www\./, '')}${pathname.replace(/\/$/, '')}${search}`
    } catch {
      return address
    }
  }
  return plain(one) === plain(other)
}

/** What the list knows of somebody. */
export interface SeenMember {
  /** What they wrote to the owner. */
  messages: SentMessage[]
  member: Member | null
  arrivals: readonly Arrival[]
}

/** How what the list knows of somebody differs from what they typed; null where it does not. */
export function judgeMember(
  expected: ExpectedMember,
  { member, arrivals }: Omit<SeenMember, 'messages'>,
  list: List | null,
  { fields }: FormContent,
): Failure | null {
  const shown = evidence('member', JSON.stringify({ member, arrivals }, null, 1))
  if (list === null)
    return failure(
      'list-deleted',
      'list',
      {
        expected: 'The list that the form feeds is there.',
        happened: 'There is no such list any more.',
        cause: 'The list was taken away after the form was published.',
        mend: 'Choose another list for the form and publish it.',
      },
      shown,
    )
  if (member === null) return missingMember(`${expected.typed} is in “${list.name}”.`, arrivals, shown)
  const lost = Object.keys(expected.values).filter((column) => !list.columns.some(({ key }) => key === column))
  if (lost.length > 0)
    return failure(
      'column-missing',
      'form',
      {
        expected: `“${list.name}” has a column for each answer: ${Object.keys(expected.values).join(', ')}.`,
        happened: lost.map((column) => `There is no column “${column}”.`).join(' '),
        cause: `The column was taken away; the field “${fieldFilling(fields, lost[0]!)}” still fills it.`,
        mend: 'Add the column to the list again, or let the field fill another and publish.',
      },
      shown,
    )
  const difference = differencesOf(expected, member, arrivals).find(({ wanted, found }) => !sameValue(wanted, found))
  if (difference === undefined) return null
  const { code, what, wanted, found } = difference
  return failure(
    code,
    'form',
    {
      expected: `${what}: ${JSON.stringify(wanted)}`,
      happened: `${what}: ${JSON.stringify(found)}`,
      cause: 'What was typed did not reach the list as it was typed.',
      mend: 'Look at the field and the column that it fills, publish, and rehearse again.',
    },
    shown,
  )
}

function missingMember(expected: string, arrivals: readonly Arrival[], shown: Evidence): Failure {
  return arrivals.at(-1)?.verdict === 'bot'
    ? failure(
        'taken-for-bot',
        'page',
        {
          expected,
          happened: 'The sign-up was taken for a bot’s: the trap was filled in.',
          cause: 'The site shows the trap to people, or something fills it in.',
          mend: 'Paste the code anew, so that the trap is hidden again.',
        },
        shown,
      )
    : failure(
        'not-in-list',
        'list',
        {
          expected,
          happened: 'Nobody with this address is there, although the answer said so.',
          cause: 'The sign-up went to another list, or was not stored.',
          mend: 'Look at the list that the form feeds and publish again.',
        },
        shown,
      )
}

/** What has to be alike, as it was typed and as the list has it; order of tags does not count. */
function differencesOf(
  expected: ExpectedMember,
  member: Member,
  arrivals: readonly Arrival[],
): { code: string; what: string; wanted: unknown; found: unknown }[] {
  const columns = [...new Set([...Object.keys(expected.values), ...Object.keys(member.values)])]
  const joining = arrivals.find(({ verdict }) => isJoining(verdict))
  return [
    { code: 'address-differs', what: 'Address', wanted: expected.typed, found: member.email.typed },
    { code: 'status-differs', what: 'Status', wanted: expected.status, found: member.status },
    ...columns.map((column) => ({
      ...{ code: 'value-differs', what: `Column “${column}”` },
      ...{ wanted: expected.values[column] ?? '', found: member.values[column] ?? '' },
    })),
    {
      ...{ code: 'tags-differ', what: 'Tags' },
      ...{ wanted: expected.tags.toSorted(), found: (member.tags ?? []).toSorted() },
    },
    {
      ...{ code: 'consent-differs', what: 'Consent', wanted: [...expected.consents] },
      found: (joining?.personal?.consents ?? []).map(({ wording }) => wording),
    },
  ]
}

function fieldFilling(fields: readonly Field[], column: string): string {
  const field = fields.find((one) => one.column === column)
  return field?.label.trim() || field?.key || column
}

/** Whoever typed something wrong finds it in its place, to mend it. Only where the form is shown again as a page. */
export function judgeKept(field: string, typed: string, shown: Shown, more: readonly Evidence[]): Failure | null {
  const value = Object.hasOwn(shown.kept, field) ? shown.kept[field] : undefined
  return value === undefined || value === typed
    ? null
    : failure(
        'not-kept',
        'form',
        {
          expected: `“${typed}” stands in its field again.`,
          happened: value === '' ? 'The field is empty.' : `“${value}” stands there.`,
          cause: 'What visitors typed is lost when the form comes back.',
          mend: 'Tell whoever looks after the receiver.',
        },
        ...more,
      )
}

export function judgeRefusal(
  wanted: ReadonlyMap<string, string>,
  shown: Shown,
  what: string,
  more: readonly Evidence[],
): Failure | null {
  const words = (errors: Iterable<[string, string]>) =>
    [...errors].map(([field, message]) => `${field}: “${message}”`).join('; ')
  const missing = [...wanted].filter(([field, message]) => shown.errors[field] !== squeezed(message))
  if (missing.length === 0 && Object.keys(shown.errors).every((field) => wanted.has(field))) return null
  return failure(
    'not-refused',
    'form',
    {
      expected: `${what} is refused, with ${words(wanted)}`,
      happened:
        Object.keys(shown.errors).length > 0
          ? words(Object.entries(shown.errors))
          : `No message beside a field: “${shown.heading}”, status ${shown.status}`,
      cause: 'What visitors are told differs from what the published form says.',
      mend: 'Look at the field’s words and rules, publish, and rehearse again.',
    },
    ...more,
  )
}
