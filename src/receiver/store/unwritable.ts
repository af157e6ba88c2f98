/** Codes of a disk that is full, broken or read-only: SQLite's own names, PostgreSQL's class 53 and 58, and Node's. */
const UNWRITABLE = /^(?:SQLITE_(?:FULL|IOERR|READONLY|CANTOPEN)\w*|5[38][0-9A-Z]{3}|ENOSPC|EDQUOT|EROFS|EIO)$/

/** Whether what failed did so because the store takes nothing at the moment; later it may. */
export function isUnwritable(error: unknown): boolean {
  const { code } = (error ?? {}) as { code?: unknown }
  return typeof code === 'string' && UNWRITABLE.test(code)
}
