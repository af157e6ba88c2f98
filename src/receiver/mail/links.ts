import { type AnswerCase, answerCases } from '#core/form'
import type { MemberId } from '#core/ids'
import type { Member } from '#core/list'
import { endsWithMark, isSameText, type MarkKeys, type MarkPurpose, markOf, marksOf } from '../marks'

/* Links in mails carry who they are for and a mark that only this receiver can make. */

/**
 * The paths of somebody's links. One to confirm is of one waiting alone, the others never end by themselves.
 *
 * The mark of one to confirm has two halves of 66 bits: the first says that it is one of ours, before anybody is looked up
 * and however long ago that waiting ended, the second of which waiting it is. So it is no longer than the others, and a mail
 * breaks no line for it.
 */
export function linksOf(keys: MarkKeys, publicUrl: string, { id, joinedAt }: Pick<Member, 'id' | 'joinedAt'>) {
  const at = (path: 'leave' | 'gift') => `${publicUrl}/${path}/${id}-${markOf(keys, path, id)}`
  return {
    confirm: `${publicUrl}/confirm/${id}-${halfOf(markOf(keys, 'confirm', id))}${halfOf(markOf(keys, 'confirm', id, joinedAt))}`,
    leave: at('leave'),
    gift: at('gift'),
  }
}

const HALF = 11
const halfOf = (mark: string) => mark.slice(0, HALF)

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
export function signUpToken(keys: MarkKeys, { member, spot, answerCase, isMailHeld, at }: AnsweredSignUp): string {
  const facts = `${answerCases.indexOf(answerCase)}${isMailHeld ? 'h' : 's'}${Math.floor(at / 1000).toString(36)}`
  return `${member}-${facts}-${markOf(keys, 'again', member, spot, facts)}`
}

/** The sign-up that a token names; null when it is none of ours, or of another spot. */
export function signUpIn(keys: MarkKeys, token: string, spot: string): AnsweredSignUp | null {
  const [, member, facts, index, fate, seconds] =
    /^([a-z0-9]{4,32})-((\d{1,2})([hs])([a-z0-9]{1,9}))-[\w-]{22}$/.exec(token) ?? []
  const answerCase = answerCases[Number(index)]
  if (member === undefined || facts === undefined || answerCase === undefined) return null
  if (!endsWithMark(keys, token, 'again', member, spot, facts)) return null
  return {
    member: member as MemberId,
    spot,
    answerCase,
    isMailHeld: fate === 'h',
    at: Number.parseInt(seconds!, 36) * 1000,
  }
}

/** Whom a mail link's token names; null for a token that is none of ours for this purpose: of it nothing is read. */
export function namedBy(
  keys: MarkKeys,
  token: string,
  purpose: Extract<MarkPurpose, 'confirm' | 'leave' | 'gift'>,
): MemberId | null {
  const [, member, mark] = /^([a-z0-9]{4,32})-([\w-]{22})$/.exec(token) ?? []
  if (member === undefined || mark === undefined) return null
  const isOurs = marksOf(keys, purpose, member).some((expected) =>
    purpose === 'confirm' ? isSameText(halfOf(mark), halfOf(expected)) : isSameText(mark, expected),
  )
  return isOurs ? (member as MemberId) : null
}

/** Whether a link to confirm, which is one of ours, is of the waiting that goes on. */
export function isOfWaiting(keys: MarkKeys, token: string, { id, joinedAt }: Pick<Member, 'id' | 'joinedAt'>): boolean {
  return marksOf(keys, 'confirm', id, joinedAt).some((mark) => isSameText(token.slice(-HALF), halfOf(mark)))
}
