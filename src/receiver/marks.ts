import { createHmac, timingSafeEqual } from 'node:crypto'

/*
 * Marks that only this receiver can make (HMAC-SHA-256, RFC 2104; 22 letters are 132 bits), so that nothing secret is stored.
 * The keys go wherever the store goes: a receiver that was put back or moved makes the same ones.
 */

const LETTERS = 22

/** What is marked: each has a key of its own, so a mark of one thing is none of another. */
export const markPurposes = [
  'confirm',
  'leave',
  'gift',
  /** A sign-up, for the page that answers it. */
  'again',
  'letter',
  /** A counted link of a letter. */
  'to',
  /** One view of a form. */
  'view',
  'still',
  'client',
] as const
export type MarkPurpose = (typeof markPurposes)[number]

/** Keys that links are marked with, in base64url. */
export interface MarkKeys {
  /** What new marks are made with. */
  newest(purpose: MarkPurpose): string
  /** All whose marks are still good, the newest first. */
  accepted(purpose: MarkPurpose): readonly string[]
}

/** Made with the newest key. */
export function markOf(keys: MarkKeys, purpose: MarkPurpose, ...parts: string[]): string {
  return markWith(keys.newest(purpose), purpose, parts)
}

/** All marks of it that are still good, the newest first. */
export function marksOf(keys: MarkKeys, purpose: MarkPurpose, ...parts: string[]): string[] {
  return keys.accepted(purpose).map((key) => markWith(key, purpose, parts))
}

/** Whether a token ends with a mark that is still good; its last letters have to be as many. */
export function endsWithMark(keys: MarkKeys, token: string, purpose: MarkPurpose, ...parts: string[]): boolean {
  const end = token.slice(-LETTERS)
  return marksOf(keys, purpose, ...parts).some((mark) => isSameText(end, mark))
}

function markWith(key: string, purpose: MarkPurpose, parts: readonly string[]): string {
  return createHmac('sha256', Buffer.from(key, 'base64url'))
    .update(JSON.stringify([purpose, ...parts]))
    .digest('base64url')
    .slice(0, LETTERS)
}

/** Compared in the same time, however much of it is right. */
export function isSameText(one: string, other: string): boolean {
  const [a, b] = [Buffer.from(one), Buffer.from(other)]
  return a.length === b.length && timingSafeEqual(a, b)
}
