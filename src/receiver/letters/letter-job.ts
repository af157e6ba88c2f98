import { inboxOf } from '#core/email'
import type { Member } from '#core/list'
import { mailJob } from '../mail/queued'
import { type Job, LATER } from '../work'
import type { StoredCopy, StoredSending } from './tables'

/** Letters of a series go before others of the same day. */
const SERIES_PRIORITY = LATER + 1
const LETTER_PRIORITY = LATER + 2

/** Names the mail of one reader's copy, whenever it is tried. */
export const letterJobId = (sending: string, member: string) => `l-${sending}-${member}`
/** What letters of an inbox are counted by: in none of the limits that hold against strangers. */
export const letterKey = (inbox: string) => `letter ${inbox}`

export function letterJob(stored: StoredSending, copy: StoredCopy, member: Member, now: number): Job {
  return mailJob(
    { list: member.list, member: member.id, kind: 'letter', recipient: member.email, sending: stored.id },
    now,
    {
      id: letterJobId(stored.id, copy.member),
      limitKey: letterKey(inboxOf(member.email.compared)),
      priority: stored.source.kind === 'series' ? SERIES_PRIORITY : LETTER_PRIORITY,
    },
  )
}
