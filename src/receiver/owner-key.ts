import { createHash, randomBytes, timingSafeEqual } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

/** The key kept in the data folder, made on the first start and readable by its owner only. */
export function keptOwnerKey(folder: string): string {
  const file = join(folder, 'owner.key')
  if (existsSync(file)) return readFileSync(file, 'utf8').trim()
  const key = randomBytes(24).toString('base64url')
  writeFileSync(file, `${key}\n`, { mode: 0o600 })
  return key
}

/** Compares in constant time, so that answers do not tell how much of a guess was right. */
export function isSameKey(given: string, expected: string): boolean {
  const digest = (text: string) => createHash('sha256').update(text).digest()
  return timingSafeEqual(digest(given), digest(expected))
}
