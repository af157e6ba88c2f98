import { parseEmail } from '#core/email'
import { type Column, type MemberStatus, statusIn, tickIn } from '#core/list'
import { decided } from './decisions'
import { type Heading, headingIn, lettersOf } from './headings'
import { spellingOf } from './moment'
import type { FileFormat, FileRow } from './reader'
import type { Tally } from './survey'
import type { Target } from './target'

/** Rule for members who are on the list already. */
export const knownRules = ['keep', 'fill', 'replace'] as const
export type KnownRule = (typeof knownRules)[number]

/** How the owner wants a file read. */
export interface ImportPlan {
  /** One for each of the file's columns; those that come later in it are left out. */
  targets: readonly Target[]
  known: KnownRule
  /** Tags for all imported people. */
  tags: readonly string[]
  /** Of those of whom the file says nothing. */
  status: Extract<MemberStatus, 'confirmed' | 'waiting'>
}

/** Of the cells that say something, so many have to be of a kind for a column to count as it. */
const ENOUGH = 0.8
/** Least share of cells with known words of a status that makes a column one of status, whatever its heading. */
const ENOUGH_WORDS = 0.5

/**
 * What each column of a file is most likely meant for, by its heading and by what stands in it. A column that may be about
 * status is never left out: who left would come onto the list in silence.
 */
export function matchColumns({
  fileColumns,
  sample,
  tallies,
  columns,
  format,
}: {
  fileColumns: readonly string[]
  sample: readonly FileRow[]
  tallies: readonly Tally[]
  columns: readonly Column[]
  format: FileFormat
}): Target[] {
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
  const shares = fileColumns.map((name, at) => share(at, isAddress) + (headingIn(name) === 'email' ? 0.1 : 0))
  const best = shares.indexOf(Math.max(...shares))
  const emailAt = shares[best]! > 0.3 ? best : fileColumns.findIndex((name) => headingIn(name) === 'email')
  const targets = fileColumns.map((name, at): Target => {
    if (at === emailAt) return { to: 'email' }
    const own = columns.find(
      ({ key, label }) => lettersOf(key) === lettersOf(name) || lettersOf(label) === lettersOf(name),
    )
    const heading = headingIn(name)
    // Status goes before a list's own column of that name, so that nobody who left gets mail.
    const isStatus = heading !== null && aboutStatus.includes(heading) && says(tallies[at], statusIn)
    if (own !== undefined && !isStatus) return take(own.key, { to: 'column', key: own.key })
    switch (heading) {
      case 'full': {
        if (keyed('full-name') !== undefined) return take('full-name', { to: 'column', key: 'full-name' })
        const isEmpty = format === 'vcard' || cells(at).length === 0
        const [first, last] = [keyed('first-name'), keyed('last-name')]
        if (isEmpty || first === undefined || last === undefined || taken.has(first.key)) return { to: 'nothing' }
        taken.add(first.key).add(last.key)
        return { to: 'name', first: first.key, last: last.key }
      }
      case 'tags':
        return take(':tags', { to: 'tags', separator: ',', leftOut: [] })
      case 'status':
      case 'left':
      case 'bounced':
      case 'complained':
      case 'consent':
        return { to: 'status', means: {} }
      case 'joined':
        if (share(at, (cell) => spellingOf(cell) !== null) >= ENOUGH) return take(':joined', { to: 'joined', read: {} })
        // “Opt-in: yes” is no date.
        return says(tallies[at], (word) => statusIn(word) ?? tickIn(word))
          ? { to: 'status', means: {} }
          : { to: 'nothing' }
      default: {
        if (says(tallies[at], statusIn)) return { to: 'status', means: {} }
        const alike = columns.find(
          ({ key, label }) => heading !== null && [key, label].some((text) => headingIn(text) === heading),
        )
        return alike === undefined ? { to: 'nothing' } : take(alike.key, { to: 'column', key: alike.key })
      }
    }
  })
  return targets.map((target, at) => decided(target, tallies[at], fileColumns[at]!, columns))
}

const aboutStatus: readonly Heading[] = ['status', 'left', 'bounced', 'complained']

/** Whether most cells of a column are known words. */
function says(tally: Tally | undefined, meaning: (word: string) => unknown): boolean {
  if (tally === undefined || tally.words === null || tally.filled === 0) return false
  const known = Object.entries(tally.words).filter(([word]) => word !== '' && meaning(word) !== null)
  return known.reduce((sum, [, { count }]) => sum + count, 0) >= ENOUGH_WORDS * tally.filled
}
