import { type AnswerCase, answerCases } from '#core/form'
import type { MemberId } from '#core/ids'
import type { Member } from '#core/list'
import { endsWithMark, markOf } from '../marks'

/* Links in mails carry who they are for and a mark that only this receiver can make. */

type Purpose = 'confirm' | 'leave' | 'again' | 'gift'

/** The paths of somebody's links. One to confirm is of one waiting alone; the others never end by themselves. */
export function linksOf(key: string, publicUrl: string, { id, joinedAt }: Pick<Member, 'id' | 'joinedAt'>) {
  const at = (path: string, ...marked: [Purpose, ...string[]]) => `${publicUrl}/${path}/${id}-${markOf(key, ...marked)}`
  return {
    confirm: at('confirm', 'confirm', id, joinedAt),
    leave: at('leave', 'leave', id),
    gift: at('gift', 'gift', id),
  }
}

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

/** Member id in a mail link's token; its signature is not checked here. */
export function memberIn(token: string): MemberId | null {
  return (/^([a-z0-9]{4,32})-[\w-]{22}$/.exec(token)?.[1] as MemberId | undefined) ?? null
}

/** Whether a token is one of ours for this purpose. */
export function isOurs(key: string | undefined, token: string, purpose: Purpose, ...more: string[]): boolean {
  const member = memberIn(token)
  if (key === undefined || member === null) return false
  return endsWithMark(token, markOf(key, purpose, member, ...more))
}
