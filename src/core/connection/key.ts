import { expanded } from './request'
import type { Way } from './connection'

/**
 * Why a text cannot be a key; null where it can. What goes into a header is visible ASCII with spaces or tabs between (RFC
 * 9110, section 5.5): what else stands in a pasted key came by an editor, and no service gave it.
 */
export function keyProblem(text: string): string | null {
  if (text !== '' && text.trim() === '') return 'It is blank: nothing of the key was copied.'
  if (/[\r\n]/.test(text)) return 'It has a line break in it: more than the key was copied. Copy the key alone.'
  const sign = /[^\t\u0020-\u007e]/u.exec(text)?.[0]
  if (sign === undefined) return null
  if (/[“”‘’„‚«»‹›]/.test(sign))
    return `It has a curly quote in it (${sign}), which an editor put there. Copy it from the service itself.`
  return /[\p{Cc}\p{Cf}\p{Z}]/u.test(sign)
    ? 'It has a sign in it that cannot be seen. Copy it once more, from the service itself.'
    : `It has a letter in it that no key can have (${sign}). Copy it once more, from the service itself.`
}

/** Where the key of a connection may go: the origins of its service, as it stands. None for what has no key that is sent. */
export function originsOf(way: Way): string[] {
  if (way.kind !== 'api') return []
  const { base, key } = way.service
  const addresses = [expanded(base, way.asked), ...(key.way === 'oauth' ? [key.token] : [])]
  return [...new Set(addresses.flatMap((address) => (URL.canParse(address) ? [new URL(address).origin] : [])))]
}
