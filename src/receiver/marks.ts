import { createHmac, timingSafeEqual } from 'node:crypto'

/*
 * Marks that only this receiver can make (HMAC-SHA-256, RFC 2104; 22 letters are 132 bits), so that nothing secret is stored.
 * The key goes wherever the history goes: a receiver that was refilled or put back makes the same ones.
 */

const LETTERS = 22

/** @param purpose what is marked: a mark of one thing is none of another */
export function markOf(key: string, purpose: string, ...parts: string[]): string {
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

/** Whether a token ends with a mark; its last letters have to be as many. */
export function endsWithMark(token: string, mark: string): boolean {
  const end = Buffer.from(token.slice(-LETTERS))
  return end.length === LETTERS && timingSafeEqual(end, Buffer.from(mark))
}
