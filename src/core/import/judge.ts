import { meantAddress, parseEmail, type EmailAddress } from '#core/email'
import { sameValue } from '#core/json'
import { type Column, type Member, type MemberStatus, oddValue, tagsIn, valueOf } from '#core/list'
import { MAX_VALUE_LENGTH, refusedCharacter } from '#core/text'
import { momentIn } from './moment'
import { type ImportPlan, statusIn, type Target } from './plan'
import type { FileRow } from './reader'

/** What a row comes to. */
export const rowVerdicts = ['new', 'same', 'changed', 'invalid', 'gone', 'erased', 'twice'] as const
export type RowVerdict = (typeof rowVerdicts)[number]

/** What somebody is to be. */
export interface Person {
  email: string
  values: Record<string, string>
  tags: string[]
  status: MemberStatus
  joinedAt: string | null
}

export interface JudgedRow {
  line: number
  verdict: RowVerdict
  /** As it is known by; empty where there is no address. */
  compared: string
  person: Person | null
  /** Who is there already. */
  before: Member | null
  /** Why it is refused, or what looks like a slip: rows with slips are taken all the same. */
  words: string
  isMistyped: boolean
}

/** What rows are judged against. */
export interface Against {
  columns: readonly Column[]
  /** Who is on the list already, in whatever status. */
  withAddress(compared: string): Member | null
  isErased(compared: string): boolean
  /** The line on which an address stood first; null where this is the first. Asked once a row. */
  firstLine(compared: string, line: number): number | null
}

/** Judges the rows of a file, one after the other. */
export function rowJudge(plan: ImportPlan, against: Against): (row: FileRow) => JudgedRow {
  const emailAt = plan.targets.findIndex(({ to }) => to === 'email')
  const parts = plan.targets.flatMap((target, at) =>
    target.to === 'nothing' || target.to === 'email' ? [] : [{ target, at }],
  )
  return (row) => {
    const { line } = row
    if (row.problem !== undefined) return invalid(line, row.problem)
    const parsed = parseEmail(row.cells[emailAt] ?? '')
    if (!parsed.ok) return invalid(line, parsed.problem.message)
    const told = toldIn(row.cells, parts, plan)
    if (typeof told === 'string') return invalid(line, told)
    return judged(line, parsed.email, told, plan, against)
  }
}

function invalid(line: number, words: string): JudgedRow {
  return { line, verdict: 'invalid', compared: '', person: null, before: null, words, isMistyped: false }
}

function judged(line: number, email: EmailAddress, told: Told, plan: ImportPlan, against: Against): JudgedRow {
  const { compared } = email
  const left = (verdict: RowVerdict, words: string, before: Member | null = null): JudgedRow => ({
    line,
    verdict,
    compared,
    person: null,
    before,
    words,
    isMistyped: false,
  })
  const first = against.firstLine(compared, line)
  if (first !== null) return left('twice', `Also on line ${first}; the first one counts.`)
  const before = against.withAddress(compared)
  if (before === null) {
    if (against.isErased(compared)) return left('erased', 'Was erased; only their own sign-up brings them back.')
    const slip = slipIn(email, told.values, against.columns)
    const { values, joinedAt } = told
    const tags = unique(told.tags, plan.tags)
    const person: Person = { email: email.typed, values, tags, status: told.status ?? plan.status, joinedAt }
    return { line, verdict: 'new', compared, person, before: null, words: slip ?? '', isMistyped: slip !== null }
  }
  if (before.status !== 'confirmed' && before.status !== 'waiting')
    return left('gone', goneWords[before.status], before)
  const person = merged(before, email, told, plan)
  const isSame = sameValue(person.values, before.values) && sameValue(person.tags, before.tags ?? [])
  if (isSame) return left('same', '', before)
  return { line, verdict: 'changed', compared, person, before, words: '', isMistyped: false }
}

const goneWords = {
  left: 'Left this list; a file never brings anybody back.',
  removed: 'Was taken off this list; a file never brings anybody back.',
  bounced: 'Takes no mail; a file never brings anybody back.',
}

interface Told {
  values: Record<string, string>
  tags: string[]
  status: MemberStatus | null
  joinedAt: string | null
}

/** What a row tells, but for the address; in words what is wrong with it. */
function toldIn(
  cells: readonly string[],
  parts: readonly { target: Target; at: number }[],
  { dayOrder }: ImportPlan,
): Told | string {
  const told: Told = { values: {}, tags: [], status: null, joinedAt: null }
  for (const { target, at } of parts) {
    const cell = cells[at] ?? ''
    const trimmed = cell.trim()
    if (trimmed === '') continue
    if (cell.length > MAX_VALUE_LENGTH)
      return `A cell has ${cell.length} characters; at most ${MAX_VALUE_LENGTH} are kept.`
    const refused = refusedCharacter(cell)
    if (refused !== null) return `A cell holds a character that cannot be kept (${refused}).`
    switch (target.to) {
      case 'column':
        told.values[target.key] = cell
        break
      case 'name': {
        const [first = '', ...rest] = trimmed.split(/\s+/)
        told.values[target.first] = target.last === null ? trimmed : first
        if (target.last !== null && rest.length > 0) told.values[target.last] = rest.join(' ')
        break
      }
      case 'tags':
        told.tags = told.tags.concat(tagsIn(cell))
        break
      case 'status':
        told.status = statusIn(trimmed)
        if (told.status === null) return `“${cell.slice(0, 60)}” is no status that is known.`
        break
      case 'joined':
        told.joinedAt = momentIn(trimmed, dayOrder)
        if (told.joinedAt === null) return `“${cell.slice(0, 60)}” is no date that can be read.`
    }
  }
  return told
}

function merged(
  before: Member,
  email: EmailAddress,
  { values, tags }: Told,
  { known, tags: forAll }: ImportPlan,
): Person {
  const own = before.values
  const isGap = (key: string) => valueOf(before, key).trim() === ''
  const taken =
    known === 'keep'
      ? {}
      : Object.fromEntries(Object.entries(values).filter(([key]) => known === 'replace' || isGap(key)))
  return {
    email: known === 'replace' ? email.typed : before.email.typed,
    values: { ...own, ...taken },
    // Tags only ever come in: a file that lacks one does not take it away.
    tags: unique(before.tags ?? [], known === 'keep' ? [] : tags, forAll),
    status: before.status,
    joinedAt: before.joinedAt,
  }
}

/** What looks like a slip: an address that is nearly a well-known one, a value that its column is not for. */
function slipIn(email: EmailAddress, values: Record<string, string>, columns: readonly Column[]): string | null {
  const meant = meantAddress(email.typed)
  if (meant !== null) return `Did they mean ${meant}?`
  for (const column of columns) {
    const odd = oddValue(column, values[column.key] ?? '')
    if (odd !== null) return `${column.label}: ${odd}`
  }
  return null
}

function unique(...all: (readonly string[])[]): string[] {
  const filled = all.filter((tags) => tags.length > 0)
  return filled.length === 0 ? [] : [...new Set(filled.flat())]
}
