import { createHash } from 'node:crypto'

/** RFC 9110, 8.8.3: the same for the same bytes. */
export function validatorOf(bytes: string | Buffer): string {
  return `"${createHash('sha256').update(bytes).digest('base64url').slice(0, 22)}"`
}
