import { meantAddress, parseEmail, type EmailAddress } from '#core/email'
import { sameValue } from '#core/json'
import { type Column, type Member, type MemberStatus, oddValue, tagsIn, valueOf } from '#core/list'
import { MAX_VALUE_LENGTH, refusedCharacter } from '#core/text'
import { momentIn } from './moment'
import { type ImportPlan, statusIn } from './plan'
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

/** What becomes of one row of a file. */
export function judgeRow(row: FileRow, plan: ImportPlan, against: Against): JudgedRow {
  const judged = { line: row.line, compared: '', person: null, before: null, words: '', isMistyped: false }
  const invalid = (words: string): JudgedRow => ({ ...judged, verdict: 'invalid', words })
  if (row.problem !== undefined) return invalid(row.problem)
  const emailAt = plan.targets.findIndex(({ to }) => to === 'email')
  const parsed = parseEmail(row.cells[emailAt] ?? '')
  if (!parsed.ok) return invalid(parsed.problem.message)
  const { email } = parsed
  const told = toldIn(row, plan)
  if (!told.ok) return invalid(told.words)
  const known = { ...judged, compared: email.compared }
  const first = against.firstLine(email.compared, row.line)
  if (first !== null) return { ...known, verdict: 'twice', words: `Also on line ${first}; the first one counts.` }
  const before = against.withAddress(email.compared)
  if (before === null) {
    if (against.isErased(email.compared))
      return { ...known, verdict: 'erased', words: 'Was erased; only their own sign-up brings them back.' }
    const slip = slipIn(email, told.values, against.columns)
    const person: Person = {
      email: email.typed,
      values: told.values,
      tags: unique([...told.tags, ...plan.tags]),
      status: told.status ?? plan.status,
      joinedAt: told.joinedAt,
    }
    return { ...known, verdict: 'new', person, words: slip ?? '', isMistyped: slip !== null }
  }
  if (before.status !== 'confirmed' && before.status !== 'waiting')
    return { ...known, verdict: 'gone', before, words: goneWords[before.status] }
  const person = merged(before, email, told, plan)
  const isSame = sameValue(person.values, before.values) && sameValue(person.tags, before.tags ?? [])
  return { ...known, verdict: isSame ? 'same' : 'changed', person: isSame ? null : person, before }
}

const goneWords = {
  left: 'Left this list; a file never brings anybody back.',
  removed: 'Was taken off this list; a file never brings anybody back.',
  bounced: 'Takes no mail; a file never brings anybody back.',
}

interface Told {
  ok: true
  values: Record<string, string>
  tags: string[]
  status: MemberStatus | null
  joinedAt: string | null
}

/** What a row tells, but for the address. */
function toldIn(row: FileRow, plan: ImportPlan): Told | { ok: false; words: string } {
  const told: Told = { ok: true, values: {}, tags: [], status: null, joinedAt: null }
  for (const [at, target] of plan.targets.entries()) {
    const cell = row.cells[at] ?? ''
    if (cell.trim() === '' || target.to === 'nothing' || target.to === 'email') continue
    if (cell.length > MAX_VALUE_LENGTH)
      return { ok: false, words: `A cell has ${cell.length} characters; at most ${MAX_VALUE_LENGTH} are kept.` }
    const refused = refusedCharacter(cell)
    if (refused !== null) return { ok: false, words: `A cell holds a character that cannot be kept (${refused}).` }
    switch (target.to) {
      case 'column':
        told.values[target.key] = cell
        break
      case 'name': {
        const [first = '', ...rest] = cell.trim().split(/\s+/)
        told.values[target.first] = target.last === null ? cell.trim() : first
        if (target.last !== null && rest.length > 0) told.values[target.last] = rest.join(' ')
        break
      }
      case 'tags':
        told.tags.push(...tagsIn(cell))
        break
      case 'status':
        told.status = statusIn(cell)
        if (told.status === null) return { ok: false, words: `“${cell.slice(0, 60)}” is no status that is known.` }
        break
      case 'joined':
        told.joinedAt = momentIn(cell, plan.dayOrder)
        if (told.joinedAt === null) return { ok: false, words: `“${cell.slice(0, 60)}” is no date that can be read.` }
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
    tags: unique([...(before.tags ?? []), ...(known === 'keep' ? [] : tags), ...forAll]),
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

const unique = (tags: readonly string[]) => [...new Set(tags)]
