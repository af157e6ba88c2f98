import { closeSync, mkdirSync, openSync, readdirSync, rmSync, statSync, type Stats } from 'node:fs'
import { dirname, join } from 'node:path'
import { CannotStart } from './cannot-start'

/** Files that a receiver writes to as long as it runs. */
const WRITTEN = /\.(?:sqlite|sqlite-wal|sqlite-shm|key|json)$/

/**
 * Makes the data folder where there is none, and sees that this process may write in it.
 *
 * @throws CannotStart with what is in the way, and the way out
 */
export function makeDataFolder(folder: string): void {
  const name = `The data folder ${folder} (ASKBOX_DATA)`
  const user = process.geteuid?.() ?? 0
  try {
    mkdirSync(folder, { recursive: true, mode: 0o700 })
  } catch (error) {
    throw new CannotStart(whyNotMade(folder, error as NodeJS.ErrnoException, user))
  }
  const probe = join(folder, `.askbox-probe-${process.pid}`)
  try {
    closeSync(openSync(probe, 'w'))
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException
    if (code === 'EACCES' || code === 'EPERM')
      throw new CannotStart(`${name} ${notOurs(folder, statSync(folder), user)}`)
    if (code === 'EROFS')
      throw new CannotStart(
        `${name} can only be read: its disk is mounted read-only. Mount it for writing, or set ASKBOX_DATA to a folder elsewhere.`,
      )
    if (code === 'ENOSPC' || code === 'EDQUOT')
      throw new CannotStart(
        `${name} takes nothing more: its disk is full. Make room, or set ASKBOX_DATA to a folder elsewhere.`,
      )
    throw new CannotStart(`${name} cannot be written to: ${(error as Error).message}`)
  }
  rmSync(probe, { force: true })
  if (user === 0) return
  // A start by root, or a restored backup, left files that belong to another.
  for (const file of readdirSync(folder).filter((one) => WRITTEN.test(one))) {
    const stats = statSync(join(folder, file))
    if (!mayWrite(stats, user))
      throw new CannotStart(`${file} in the data folder ${folder} (ASKBOX_DATA) ${notOurs(folder, stats, user)}`)
  }
}

/** What root is told, whose files no other user may open afterwards; null for anybody else. */
export function rootWarning(folder: string): string | null {
  if (process.geteuid?.() !== 0) return null
  const owner = statSync(folder).uid
  return owner === 0
    ? 'The receiver runs as root, which it does not need. Give it a user of its own (docs/going-online.md).'
    : `The receiver runs as root, but the data folder ${folder} belongs to user ${owner}: what it writes now, that user cannot open. Start it as user ${owner}.`
}

function whyNotMade(folder: string, { code, message }: NodeJS.ErrnoException, user: number): string {
  const name = `The data folder ${folder} (ASKBOX_DATA)`
  const nearest = nearestThere(folder)
  if (code === 'EEXIST' || code === 'ENOTDIR')
    return `${name} cannot be used: ${nearest} is a file. Name a folder, or move the file away.`
  if (code === 'EACCES' || code === 'EPERM')
    return `${name} cannot be used: user ${user} may make nothing in ${nearest}. Make it as root, and give it to that user: chown ${user} ${folder}`
  if (code === 'EROFS')
    return `${name} cannot be used: the disk of ${nearest} is mounted read-only. Mount it for writing, or set ASKBOX_DATA to a folder elsewhere.`
  return `${name} cannot be used: ${message}`
}

function notOurs(folder: string, { uid }: Stats, user: number): string {
  return uid === user
    ? `may not be written to by its own user ${user}: chmod -R u+rwX ${folder}`
    : `belongs to user ${uid}, and this is user ${user}. Start as that user, or give it to this one: chown -R ${user} ${folder}`
}

/** By the mode alone: the file systems that know more refuse when it is opened. */
const mayWrite = ({ uid, gid, mode }: Stats, user: number): boolean => {
  if (uid === user) return (mode & 0o200) !== 0
  const isOfGroup = process.getegid?.() === gid || process.getgroups?.().includes(gid)
  return (mode & (isOfGroup ? 0o020 : 0o002)) !== 0
}

function nearestThere(path: string): string {
  for (let at = path; ; at = dirname(at))
    try {
      statSync(at)
      return at
    } catch {
      if (dirname(at) === at) return at
    }
}
