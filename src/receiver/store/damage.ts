/** Stored data differ from what was written. */
export class Damaged extends Error {
  readonly code = 'DAMAGED'
}

/** SQLite's own names for a file that is not as it was written. */
const BROKEN = /^(?:SQLITE_CORRUPT|SQLITE_NOTADB|DAMAGED)/
const BROKEN_WORDS = /^(?:database disk image is malformed|file is not a database)/

/** Whether what failed says that the store's file is damaged, and not that there was no room, or no right, to read it. */
export function isDamage(error: unknown): boolean {
  const { code, message } = (error ?? {}) as { code?: unknown; message?: unknown }
  // Between threads, an error keeps nothing but its words.
  return (typeof code === 'string' && BROKEN.test(code)) || BROKEN_WORDS.test(String(message))
}
