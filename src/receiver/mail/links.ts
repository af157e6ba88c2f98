import { type AnswerCase, answerCases } from '#core/form'
import type { MemberId } from '#core/ids'
import type { Member } from '#core/list'
import { endsWithMark, markOf } from '../marks'

/* Links in mails carry who they are for and a mark that only this receiver can make. */

type Purpose = 'confirm' | 'leave' | 'again' | 'gift'

/**
 * The paths of somebody's links. One to confirm is of one waiting alone, and says of which: that it is one of ours is known
 * before anybody is looked up, however long ago that waiting ended. The others never end by themselves.
 */
export function linksOf(key: string, publicUrl: string, { id, joinedAt }: Pick<Member, 'id' | 'joinedAt'>) {
  const since = waitingSince(joinedAt)
  const at = (path: string, ...marked: [Purpose, ...string[]]) => `${publicUrl}/${path}/${id}-${markOf(key, ...marked)}`
  return {
    confirm: `${publicUrl}/confirm/${id}-${since}-${markOf(key, 'confirm', id, since)}`,
    leave: at('leave', 'leave', id),
    gift: at('gift', 'gift', id),
  }
}

/** When a waiting began, as a link says it: milliseconds since 1970 to the base of 36. */
export const waitingSince = (joinedAt: string): string => Date.parse(joinedAt).toString(36)

/** Facts of a sign-up that its answer page may show. */
export interface AnsweredSignUp {
  member: MemberId
  spot: string
  /** As the visitor was told. */
  answerCase: AnswerCase
  /** Whether the mail that comes of it was held back. */
  isMailHeld: boolean
  /** Milliseconds since 1970; whole seconds are kept. */
  at: number
}

/**
 * Names one sign-up and what came of it, for the page that answers it and for sending its mail again. Nobody else can
 * make one, nor make of it another case, spot or time.
 */
export function signUpToken(key: string, { member, spot, answerCase, isMailHeld, at }: AnsweredSignUp): string {
  const facts = `${answerCases.indexOf(answerCase)}${isMailHeld ? 'h' : 's'}${Math.floor(at / 1000).toString(36)}`
  return `${member}-${facts}-${markOf(key, 'again', member, spot, facts)}`
}

/** The sign-up that a token names; null when it is none of ours, or of another spot. */
export function signUpIn(key: string | undefined, token: string, spot: string): AnsweredSignUp | null {
  const [, member, facts, index, fate, seconds] =
    /^([a-z0-9]{4,32})-((\d{1,2})([hs])([a-z0-9]{1,9}))-[\w-]{22}$/.exec(token) ?? []
  const answerCase = answerCases[Number(index)]
  if (key === undefined || member === undefined || facts === undefined || answerCase === undefined) return null
  if (!endsWithMark(token, markOf(key, 'again', member, spot, facts))) return null
  return {
    member: member as MemberId,
    spot,
    answerCase,
    isMailHeld: fate === 'h',
    at: Number.parseInt(seconds!, 36) * 1000,
  }
}

/** Whom a mail link's token names, and which waiting of theirs, where it is to confirm. */
export interface NamedByLink {
  member: MemberId
  since: string | null
}

/** Null for a token that is none of ours for this purpose: of it nothing is read, whomever it names. */
export function namedBy(key: string | undefined, token: string, purpose: Purpose): NamedByLink | null {
  const [, member, since = null] = /^([a-z0-9]{4,32})(?:-([a-z0-9]{1,9}))?-[\w-]{22}$/.exec(token) ?? []
  if (key === undefined || member === undefined || (since !== null) !== (purpose === 'confirm')) return null
  const mark = markOf(key, purpose, member, ...(since === null ? [] : [since]))
  return endsWithMark(token, mark) ? { member: member as MemberId, since } : null
}
