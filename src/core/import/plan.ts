import { parseEmail } from '#core/email'
import type { Column, MemberStatus } from '#core/list'
import { dayOrderOf, type DayOrder, momentIn } from './moment'
import type { FileFormat, FileRow } from './reader'

/** What becomes of one of the file's columns. */
export type Target =
  | { to: 'email' | 'tags' | 'status' | 'joined' | 'nothing' }
  | { to: 'column'; key: string }
  /** Of a whole name, the first word and the rest. */
  | { to: 'name'; first: string; last: string | null }

/** What is done with who is on the list already. */
export const knownRules = ['keep', 'fill', 'replace'] as const
export type KnownRule = (typeof knownRules)[number]

/** How a file is to be read; what its owner decided. */
export interface ImportPlan {
  /** One for each of the file's columns; those that come later in it are left out. */
  targets: readonly Target[]
  known: KnownRule
  /** What everybody gets. */
  tags: readonly string[]
  /** Of those of whom the file says nothing. */
  status: Extract<MemberStatus, 'confirmed' | 'waiting'>
  /** Which way round days are written that tell it by nothing. */
  dayOrder: DayOrder
}

/** Names that columns go by, in several languages: common practice, no published source. */
const names: readonly [to: 'email' | 'tags' | 'status' | 'joined' | 'first' | 'last' | 'full', RegExp][] = [
  ['email', /^(?:e-?mail|mail|correo|courriel)\b|e-?mail[ _-]?(?:address|adresse)?$|^address$|^adresse$/i],
  ['first', /^(?:first|given|fore)[ _-]?name$|^vorname$|^prénom$|^nombre$|^nome$|^voornaam$|^imię$/i],
  [
    'last',
    /^(?:last|family|sur)[ _-]?name$|^nachname$|^nom(?: de famille)?$|^apellidos?$|^cognome$|^sobrenome$|^achternaam$|^nazwisko$/i,
  ],
  ['full', /^(?:full[ _-]?name|name|display[ _-]?name)$/i],
  ['tags', /^(?:tags?|labels?|categor(?:y|ies)|groups?|topics?|interests?)$/i],
  ['status', /^(?:status|state)$/i],
  [
    'joined',
    /^(?:joined(?:[ _-]?(?:at|on))?|joinedat|sign(?:ed)?[ _-]?up(?:[ _-]?(?:at|on|date))?|subscribed[ _-]?(?:at|on)|created(?:[ _-]?(?:at|on))?|date(?:[ _-]?(?:added|joined))?|added(?:[ _-]?(?:at|on))?|opt[ _-]?in[ _-]?(?:time|date))$/i,
  ],
]
/** Of the cells that say something, so many have to be of a kind for a column to count as it. */
const ENOUGH = 0.8

/** What each column of a file is most likely meant for, by its name and by what stands in it. */
export function matchColumns(
  fileColumns: readonly string[],
  sample: readonly FileRow[],
  columns: readonly Column[],
  format: FileFormat,
): { targets: Target[]; dayOrder: DayOrder } {
  const cells = (at: number) => sample.map((row) => row.cells[at]?.trim() ?? '').filter((cell) => cell !== '')
  const share = (at: number, holds: (cell: string) => boolean) => {
    const some = cells(at)
    return some.length === 0 ? 0 : some.filter(holds).length / some.length
  }
  const taken = new Set<string>()
  const take = (key: string, target: Target): Target => {
    if (taken.has(key)) return { to: 'nothing' }
    taken.add(key)
    return target
  }
  const isAddress = (cell: string) => parseEmail(cell).ok
  const keyed = (key: string) => columns.find((column) => column.key === key)
  // By content first: a column named “mail” may hold something else, and the best of several is the one with most addresses.
  const shares = fileColumns.map((_, at) => share(at, isAddress) + (nameOf(fileColumns[at]!) === 'email' ? 0.1 : 0))
  const best = shares.indexOf(Math.max(...shares))
  const emailAt = shares[best]! > 0.3 ? best : fileColumns.findIndex((name) => nameOf(name) === 'email')
  const targets = fileColumns.map((name, at): Target => {
    if (at === emailAt) return { to: 'email' }
    const own = columns.find(({ key, label }) => plain(key) === plain(name) || plain(label) === plain(name))
    if (own !== undefined) return take(own.key, { to: 'column', key: own.key })
    const is = nameOf(name)
    switch (is) {
      case 'first':
      case 'last': {
        const key = is === 'first' ? 'first-name' : 'last-name'
        return keyed(key) === undefined ? { to: 'nothing' } : take(key, { to: 'column', key })
      }
      case 'full': {
        if (keyed('full-name') !== undefined) return take('full-name', { to: 'column', key: 'full-name' })
        const isEmpty = format === 'vcard' || cells(at).length === 0
        if (isEmpty || keyed('first-name') === undefined || taken.has('first-name')) return { to: 'nothing' }
        taken.add('first-name')
        return { to: 'name', first: 'first-name', last: keyed('last-name')?.key ?? null }
      }
      case 'tags':
        return take(':tags', { to: 'tags' })
      case 'status':
        return share(at, (cell) => statusIn(cell) !== null) >= ENOUGH
          ? take(':status', { to: 'status' })
          : { to: 'nothing' }
      case 'joined':
        return share(at, (cell) => momentIn(cell, 'day-month') !== null || momentIn(cell, 'month-day') !== null) >=
          ENOUGH
          ? take(':joined', { to: 'joined' })
          : { to: 'nothing' }
      default:
        return { to: 'nothing' }
    }
  })
  const joinedAt = targets.findIndex(({ to }) => to === 'joined')
  return { targets, dayOrder: joinedAt < 0 ? 'day-month' : dayOrderOf(cells(joinedAt)) }
}

function nameOf(name: string) {
  return names.find(([, pattern]) => pattern.test(name.trim()))?.[0] ?? null
}

const plain = (name: string) => name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '')

/** Words for a status, as files of lists have them: common practice, no published source. */
const statusWords: Record<string, MemberStatus> = {
  confirmed: 'confirmed',
  subscribed: 'confirmed',
  active: 'confirmed',
  'on the list': 'confirmed',
  yes: 'confirmed',
  waiting: 'waiting',
  pending: 'waiting',
  unconfirmed: 'waiting',
  left: 'left',
  unsubscribed: 'left',
  'opted out': 'left',
  removed: 'removed',
  deleted: 'removed',
  archived: 'removed',
  inactive: 'removed',
  bounced: 'bounced',
  cleaned: 'bounced',
  invalid: 'bounced',
}

export function statusIn(cell: string): MemberStatus | null {
  return statusWords[cell.trim().toLowerCase()] ?? null
}
