import { createHash, randomBytes, timingSafeEqual } from 'node:crypto'
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

/** 16 to 200 visible ASCII characters. */
export const OWNER_KEY = /^[\x21-\x7e]{16,200}$/

export class WrongOwnerKey extends Error {
  constructor(file: string) {
    super(
      `The owner’s key in ${file} is empty or damaged. Put a saved copy back, or remove the file to have a new key made.`,
    )
  }
}

/** The key kept in the data folder, made on the first start and readable by its owner only. */
export function keptOwnerKey(folder: string): string {
  const file = join(folder, 'owner.key')
  if (existsSync(file)) {
    const stored = readFileSync(file, 'utf8').trim()
    if (!OWNER_KEY.test(stored)) throw new WrongOwnerKey(file)
    return stored
  }
  const key = randomBytes(24).toString('base64url')
  // Atomic: the start may be killed at any moment.
  writeFileSync(`${file}.new`, `${key}\n`, { mode: 0o600 })
  renameSync(`${file}.new`, file)
  return key
}

/** Compares in constant time, so that answers do not tell how much of a guess was right. */
export function isSameKey(given: string, expected: string): boolean {
  const digest = (text: string) => createHash('sha256').update(text).digest()
  return timingSafeEqual(digest(given), digest(expected))
}
