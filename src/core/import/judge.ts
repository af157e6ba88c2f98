import { type EmailAddress, meantAddress, parseEmail, tidyAddress } from '#core/email'
import { sameValue } from '#core/json'
import { type Column, type StatusMeaning, type Member, type MemberStatus, oddValue, valueOf } from '#core/list'
import { MAX_VALUE_LENGTH, refusedCharacter } from '#core/text'
import { isNoDate, momentIn } from './moment'
import type { ImportPlan } from './plan'
import type { Target } from './target'
import type { FileRow } from './reader'
import { spellingKey, tagsBetween, wordKey } from './survey'

/** Verdict on a row. */
export const rowVerdicts = [
  'new',
  'same',
  'changed',
  /** On the list here; the file says that they are on it no more. */
  'off',
  'invalid',
  'gone',
  'erased',
  'twice',
  'not-taken',
] as const
export type RowVerdict = (typeof rowVerdicts)[number]

/** The person that a row describes. */
export interface ImportedPerson {
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
  person: ImportedPerson | null
  /** The member with the row's address, or null. */
  before: Member | null
  /** Reason for a refusal, or a likely slip; rows with slips are taken. */
  words: string
  isMistyped: boolean
}

/** The list that rows are judged against. */
export interface Against {
  columns: readonly Column[]
  /** Finds a member by address, in any status. */
  withAddress(compared: string): Member | null
  isErased(compared: string): boolean
  /** The line of an address that counts. Asked once a row, in their order. */
  countedLine(compared: string, line: number): number
}

/** Judges the rows of a file, one after the other. */
export function rowJudge(plan: ImportPlan, against: Against): (row: FileRow) => JudgedRow {
  const { emailAt, parts } = partsOf(plan)
  return (row) => {
    const { line } = row
    if (row.problem !== undefined) return invalid(line, row.problem)
    const parsed = parseEmail(tidyAddress(row.cells[emailAt] ?? ''))
    if (!parsed.ok) return invalid(line, parsed.problem.message)
    const told = toldIn(row.cells, parts)
    if (typeof told === 'string') return invalid(line, told)
    return judged({ line, email: parsed.email, told, plan, against })
  }
}

/** Whether an address that stands twice has to be known before rows are judged: only a status makes one stricter. */
export const needsStrictness = ({ targets }: ImportPlan) => targets.some(({ to }) => to === 'status')

/** How strict each row of a file is on its address, 0 the strictest; null for rows that are refused. */
export function strictnessJudge(plan: ImportPlan): (row: FileRow) => { compared: string; rank: number } | null {
  const { emailAt, parts } = partsOf(plan)
  return (row) => {
    const parsed = parseEmail(tidyAddress(row.cells[emailAt] ?? ''))
    if (row.problem !== undefined || !parsed.ok) return null
    const told = toldIn(row.cells, parts)
    if (typeof told === 'string') return null
    return { compared: parsed.email.compared, rank: strictest.indexOf(told.meaning ?? plan.status) }
  }
}

function partsOf({ targets }: ImportPlan) {
  const parts = targets.flatMap((target, at) =>
    target.to === 'nothing' || target.to === 'email' ? [] : [{ target, at }],
  )
  return { emailAt: targets.findIndex(({ to }) => to === 'email'), parts }
}

function invalid(line: number, words: string): JudgedRow {
  return { line, verdict: 'invalid', compared: '', person: null, before: null, words, isMistyped: false }
}

function judged({
  line,
  email,
  told,
  plan,
  against,
}: {
  line: number
  email: EmailAddress
  told: Told
  plan: ImportPlan
  against: Against
}): JudgedRow {
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
  const counted = against.countedLine(compared, line)
  if (counted < line) return left('twice', `Also on line ${counted}; that one counts.`)
  if (counted > line) return left('twice', `Also on line ${counted}, whose status is stricter; that one counts.`)
  const before = against.withAddress(compared)
  if (told.meaning === 'not-taken') return left('not-taken', 'The file says so.', before)
  const status = told.meaning === null ? null : statusOf[told.meaning]
  if (before === null) {
    if (against.isErased(compared)) return left('erased', 'Was erased; only their own sign-up brings them back.')
    const slip = slipIn(email, told.values, against.columns)
    const { values, joinedAt } = told
    const tags = unique(told.tags, plan.tags)
    const person: ImportedPerson = { email: email.typed, values, tags, status: status ?? plan.status, joinedAt }
    return { line, verdict: 'new', compared, person, before: null, words: slip ?? '', isMistyped: slip !== null }
  }
  if (before.status !== 'confirmed' && before.status !== 'waiting')
    return left('gone', goneWords[before.status], before)
  const person = merged(before, email, told, plan)
  // A leaving in the file is taken over; a member who left here is not brought back by a file.
  if (plan.known !== 'keep' && status !== null && status !== 'confirmed' && status !== 'waiting')
    return { line, verdict: 'off', compared, person: { ...person, status }, before, words: '', isMistyped: false }
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
  meaning: Exclude<StatusMeaning, 'nothing'> | null
  joinedAt: string | null
}

/** Where several columns tell of it, the one that keeps somebody furthest from getting mail counts. */
const strictest = ['complained', 'bounced', 'left', 'removed', 'not-taken', 'waiting', 'confirmed'] as const

/** A complaint counts as leaving; a tag keeps how. */
const statusOf: Record<Exclude<StatusMeaning, 'nothing' | 'not-taken'>, MemberStatus> = {
  confirmed: 'confirmed',
  waiting: 'waiting',
  left: 'left',
  removed: 'removed',
  bounced: 'bounced',
  complained: 'left',
}
const COMPLAINED = 'complained'

/** Reads all cells but the address; returns the problem in words where there is one. */
function toldIn(cells: readonly string[], parts: readonly { target: Target; at: number }[]): Told | string {
  const told: Told = { values: {}, tags: [], meaning: null, joinedAt: null }
  for (const { target, at } of parts) {
    const cell = cells[at] ?? ''
    const trimmed = cell.trim()
    if (trimmed === '') continue
    if (cell.length > MAX_VALUE_LENGTH)
      return `A cell has ${cell.length} characters; at most ${MAX_VALUE_LENGTH} are kept.`
    const refused = refusedCharacter(cell)
    if (refused !== null) return `A cell holds a character that cannot be kept (${refused}).`
    const problem = tell(told, target, cell, trimmed)
    if (problem !== null) return problem
  }
  if (told.meaning === 'complained') told.tags = unique(told.tags, [COMPLAINED])
  return told
}

/** Adds one cell to the person; returns the problem in words where there is one. */
function tell(told: Told, target: Target, cell: string, trimmed: string): string | null {
  switch (target.to) {
    case 'column': {
      const value = target.means === undefined ? cell : wordDecision(target.means, trimmed)
      if (value === null) return undecided(cell)
      if (value !== NOTHING) told.values[target.key] = value
      return null
    }
    case 'name': {
      const [first, last] = namesIn(trimmed)
      told.values[target.first] = first
      if (last !== '') told.values[target.last] = last
      return null
    }
    case 'tags':
      told.tags = told.tags.concat(tagsBetween(cell, target.separator).filter((tag) => !target.leftOut.includes(tag)))
      return null
    case 'status': {
      const meaning = wordDecision(target.means, trimmed)
      if (meaning === null) return undecided(cell)
      if (meaning !== 'nothing' && (told.meaning === null || isStricter(meaning, told.meaning))) told.meaning = meaning
      return null
    }
    case 'joined': {
      if (isNoDate(trimmed)) return null
      const reading = decision(target.read, spellingKey(trimmed))
      if (reading === null) return undecided(cell)
      if (reading === 'left-out') return null
      told.joinedAt = momentIn(trimmed, reading)
      return told.joinedAt === null ? `“${cell.slice(0, 60)}” is no date that can be read.` : null
    }
    default:
      return null
  }
}

/** Further meanings that a word in a column of yes and no can be given. */
const NOTHING = 'nothing'
const undecided = (cell: string) => `What “${cell.slice(0, 60)}” means is not decided.`
const isStricter = (one: Told['meaning'] & string, other: Told['meaning'] & string) =>
  strictest.indexOf(one) < strictest.indexOf(other)

function decision<Decision extends string>(decisions: Readonly<Record<string, Decision>>, key: string) {
  return Object.hasOwn(decisions, key) ? decisions[key]! : null
}

function wordDecision<Decision extends string>(decisions: Readonly<Record<string, Decision>>, cell: string) {
  const key = wordKey(cell)
  return key === '' ? NOTHING : decision(decisions, key)
}

/** `Lovelace, Ada` or `Ada Lovelace`: the first name is one word, the rest is the last. */
function namesIn(name: string): [first: string, last: string] {
  const [last = '', given, ...more] = name.split(',').map((part) => part.trim())
  if (given !== undefined && given !== '' && more.length === 0) return [given, last]
  const [first = '', ...rest] = name.split(/\s+/)
  return [first, rest.join(' ')]
}

function merged(
  before: Member,
  email: EmailAddress,
  { values, tags }: Told,
  { known, tags: forAll }: ImportPlan,
): ImportedPerson {
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

/** Likely slips: a domain close to a well-known one, a value of another type than its column. */
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
