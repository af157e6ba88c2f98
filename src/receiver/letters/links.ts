import type { MemberId, SendingId } from '#core/ids'
import { endsWithMark, type MarkKeys, markOf } from '../marks'

/* Links of letters carry what they are about and a mark that only this receiver can make: nobody guesses one. */

/** The web copy of a letter: somebody's own, or everybody's where nobody is named. */
export function webCopyToken(keys: MarkKeys, sending: string, member: string | null): string {
  return `${sending}${member === null ? '' : `-${member}`}-${markOf(keys, 'letter', sending, member ?? '')}`
}

export function webCopyIn(keys: MarkKeys, token: string): { sending: SendingId; member: MemberId | null } | null {
  const [, sending, member] = /^([a-z0-9]{4,32})(?:-([a-z0-9]{4,32}))?-[\w-]{22}$/.exec(token) ?? []
  if (sending === undefined) return null
  return endsWithMark(keys, token, 'letter', sending, member ?? '')
    ? { sending: sending as SendingId, member: (member as MemberId | undefined) ?? null }
    : null
}

/** A link whose presses are counted. What it leads to is shown, and decided by what the letter says alone. */
export function countedLink(
  keys: MarkKeys,
  publicUrl: string,
  sending: string,
  link: { number: number; address: string },
) {
  const { host, pathname } = new URL(link.address)
  const token = `${sending}-${link.number}-${markOf(keys, 'to', sending, String(link.number))}`
  return `${publicUrl}/to/${token}?${new URLSearchParams({ leads: `${host}${pathname === '/' ? '' : pathname}`.slice(0, 200) })}`
}

export function countedLinkIn(keys: MarkKeys, token: string): { sending: SendingId; number: number } | null {
  const [, sending, number] = /^([a-z0-9]{4,32})-(\d{1,4})-[\w-]{22}$/.exec(token) ?? []
  if (sending === undefined || number === undefined) return null
  return endsWithMark(keys, token, 'to', sending, number)
    ? { sending: sending as SendingId, number: Number(number) }
    : null
}
