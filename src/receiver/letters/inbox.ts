import { createHash } from 'node:crypto'
import { inboxOf } from '#core/email'

/** What an inbox is known by, whatever its spelling: 32 hexadecimal digits. */
export function inboxHash(compared: string): string {
  return createHash('sha256').update(inboxOf(compared)).digest('hex').slice(0, 32)
}
