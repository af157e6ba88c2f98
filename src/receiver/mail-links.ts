import { createHmac, timingSafeEqual } from 'node:crypto'
import type { MemberId } from '#core/ids'
import type { Member } from '#core/list'

/*
 * Links in mails carry who they are for and a mark that only this receiver can make (HMAC-SHA-256, RFC 2104; 22 letters
 * are 132 bits), so nothing secret is stored. The key goes wherever the history goes: a receiver that was refilled or
 * put back makes the same links.
 */

type Purpose = 'confirm' | 'leave' | 'again' | 'gift'

function markOf(key: string, purpose: Purpose, ...parts: string[]): string {
  return createHmac('sha256', Buffer.from(key, 'base64url'))
    .update(JSON.stringify([purpose, ...parts]))
    .digest('base64url')
    .slice(0, 22)
}

/** The paths of somebody's links. One to confirm is of one waiting alone; the others never end by themselves. */
export function linksOf(key: string, publicUrl: string, { id, joinedAt }: Pick<Member, 'id' | 'joinedAt'>) {
  const at = (path: string, ...marked: [Purpose, ...string[]]) => `${publicUrl}/${path}/${id}-${markOf(key, ...marked)}`
  return {
    confirm: at('confirm', 'confirm', id, joinedAt),
    leave: at('leave', 'leave', id),
    gift: at('gift', 'gift', id),
  }
}

/** Names somebody who just signed up, for sending the mail again, without telling who it is. */
export function againToken(key: string, member: string): string {
  return `${member}-${markOf(key, 'again', member)}`
}

/** Who a token names, whatever its mark says. */
export function memberIn(token: string): MemberId | null {
  return (/^([a-z0-9]{4,32})-[\w-]{22}$/.exec(token)?.[1] as MemberId | undefined) ?? null
}

/** Whether a token is one of ours for this purpose. */
export function isOurs(key: string | undefined, token: string, purpose: Purpose, ...more: string[]): boolean {
  const member = memberIn(token)
  if (key === undefined || member === null) return false
  const wanted = markOf(key, purpose, member, ...more)
  return timingSafeEqual(Buffer.from(token.slice(-22)), Buffer.from(wanted))
}
