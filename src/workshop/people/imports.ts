import Papa from 'papaparse'
import type { BatchProgress } from '#core/api'
import { parseEmail, tidyAddress } from '#core/email'
import { safeCell } from '#core/export'
import type { MemberId } from '#core/ids'
import {
  type Against,
  encodingOf,
  type FileEncoding,
  type FileProblem,
  type FileRow,
  type FileShape,
  formatOf,
  headIn,
  type ImportPlan,
  type JudgedRow,
  matchColumns,
  needsStrictness,
  type PeopleReader,
  readerOf,
  rowJudge,
  type RowVerdict,
  rowVerdicts,
  SAMPLE_BYTES,
  SeenAddresses,
  separatorOf,
  strictnessJudge,
  Survey,
  type Tally,
  type Target,
  Utf8Check,
} from '#core/import'
import { type Chunk, MAX_CHUNK, MOST_ASKED, type PersonRow } from '#core/journal'
import { type List, type MemberStatus, noCounts, type Roster } from '#core/list'
import { clientFor, type Pairing } from '../client'
import { newId } from '../clock'
import { persistently, sendBatch } from './batches'
import { type Task, throwIfStopped } from '../worker-calls'

/** Rows by which columns are matched, and that are shown of each verdict of a dry run. */
const SAMPLE_ROWS = 500
const SHOWN_ROWS = 50
/** Bytes that are read at once. */
const PIECE_BYTES = 512 * 1024
/** Refused rows are handed to the browser in pieces: it may keep them outside of memory. */
const REFUSED_PIECE = 256 * 1024

/** How a file is read: what was found in it, or its owner said. */
export interface FileReading extends FileShape {
  encoding: FileEncoding
}

/** What is seen of a file, read whole. */
export interface FileLook {
  reading: FileReading
  columns: string[]
  /** What stands in each of them. */
  tallies: Tally[]
  rows: number
  matched: Target[]
}

export type ShownVerdict = RowVerdict | 'mistyped'
export type ShownRow = Pick<JudgedRow, 'line' | 'words' | 'before' | 'person'> & { email: string }

/** What a file comes to, against the list as it is. */
export interface DryRun {
  rows: number
  counts: Record<ShownVerdict, number>
  /** Of those who are new, as what they come in. */
  statuses: Record<MemberStatus, number>
  /** Some of each. */
  shown: Record<ShownVerdict, ShownRow[]>
  /** All rows that are not taken, as a table with why. */
  refused: Blob | null
  /** Where it could not be read to its end. */
  problem: FileProblem | null
}

/** What became of a file. */
export interface Brought extends BatchProgress {
  /** Of those who were new to the list, as what they came in. */
  statuses: Record<MemberStatus, number>
  /** Who was on the list before. */
  changed: number
}

/**
 * Looks at a file, whole: what it is, what stands in its columns and what they are for. A guess at the beginning that does
 * not hold to the end is made anew. A problem is told in words.
 */
export async function lookAtFile(
  file: Blob,
  list: List,
  said: Partial<FileReading>,
  task: Task,
): Promise<FileLook | { problem: FileProblem }> {
  const bytes = new Uint8Array(await file.slice(0, SAMPLE_BYTES).arrayBuffer())
  if (bytes.length === 0) return { problem: { code: 'empty', message: 'This file is empty.' } }
  const encoding = said.encoding ?? (await encodingOfFile(file, bytes))
  if (encoding === null)
    return {
      problem: {
        code: 'no-text',
        message: 'This is no text: neither a table, JSON Lines nor contacts. A spreadsheet can be saved as CSV first.',
      },
    }
  const text = new TextDecoder(encoding).decode(bytes, { stream: true })
  const format = said.format ?? formatOf(text)
  const separator = said.separator ?? separatorOf(text)
  const reading: FileReading = { encoding, format, separator, head: said.head ?? headIn(text, separator) }
  const survey = new Survey()
  const sample: FileRow[] = []
  let columns: readonly string[] = []
  for await (const { rows, reader, share } of rowsOf(file, reading, task)) {
    if (reader.problem !== null && survey.rows === 0) return { problem: reader.problem }
    columns = reader.columns
    for (const row of rows) survey.take(row)
    if (sample.length < SAMPLE_ROWS) sample.push(...rows.slice(0, SAMPLE_ROWS - sample.length))
    task.tell(share)
  }
  if (sample.length === 0 && columns.length === 0)
    return { problem: { code: 'empty', message: 'Nothing that tells of anybody is in this file.' } }
  const tallies = survey.tallies(columns.length)
  const matched = matchColumns({ fileColumns: columns, sample, tallies, columns: list.columns, format })
  return { reading, columns: [...columns], tallies, rows: survey.rows, matched }
}

/** What a file begins as, if the rest of it bears that out: the first letter beyond ASCII may come late. */
async function encodingOfFile(file: Blob, beginning: Uint8Array): Promise<FileEncoding | null> {
  const guessed = encodingOf(beginning)
  if (guessed !== 'utf-8') return guessed
  const check = new Utf8Check()
  for (let at = 0; at < file.size; at += PIECE_BYTES) {
    const bytes = new Uint8Array(await file.slice(at, at + PIECE_BYTES).arrayBuffer())
    if (!check.holds(bytes, at + PIECE_BYTES >= file.size)) return 'windows-1252'
  }
  return 'utf-8'
}

/** All rows of a file, some at a time. */
async function* rowsOf(
  file: Blob,
  { encoding, ...shape }: FileReading,
  task: Task,
): AsyncGenerator<{ rows: FileRow[]; reader: PeopleReader; share: number }> {
  const decoder = new TextDecoder(encoding)
  const reader = readerOf(shape)
  for (let at = 0; at < file.size && reader.problem === null; at += PIECE_BYTES) {
    throwIfStopped(task)
    const bytes = await file.slice(at, at + PIECE_BYTES).arrayBuffer()
    const rows = reader.push(decoder.decode(bytes, { stream: true }))
    yield { rows, reader, share: Math.min(1, (at + PIECE_BYTES) / file.size) }
  }
  yield { rows: [...reader.push(decoder.decode()), ...reader.end()], reader, share: 1 }
}

/** A file with how it is read, and what its owner decided. */
export interface ReadFile {
  file: Blob
  reading: FileReading
  plan: ImportPlan
}

/** Whose addresses were erased: the receiver alone can tell. Asked for some rows at once, and only where anybody was. */
class ErasedBefore {
  private readonly erased = new Set<string>()

  constructor(
    private readonly hasAny: boolean,
    private readonly pairing: Pairing,
    private readonly emailAt: number,
  ) {}

  async ask(rows: readonly FileRow[]): Promise<void> {
    if (!this.hasAny) return
    const addresses = rows.flatMap(({ cells }) => {
      const parsed = parseEmail(tidyAddress(cells[this.emailAt] ?? ''))
      return parsed.ok ? [parsed.email.compared] : []
    })
    for (let at = 0; at < addresses.length; at += MOST_ASKED) {
      const some = addresses.slice(at, at + MOST_ASKED)
      const { erased } = await persistently(() => clientFor(this.pairing).askErased(some), NOT_ASKED)
      for (const place of erased) this.erased.add(some[place]!)
    }
  }

  has(compared: string): boolean {
    return this.erased.has(compared)
  }
}
const NOT_ASKED = 'The receiver does not answer, and it alone knows who was erased before. Nothing was changed.'

interface Judging {
  judge: (row: FileRow) => JudgedRow
  erased: ErasedBefore
}

async function againstList(
  roster: Roster,
  pairing: Pairing,
  { list, ...read }: ReadFile & { list: List },
  task: Task,
): Promise<Judging> {
  const { plan } = read
  const seen = new SeenAddresses()
  const isSeenBefore = needsStrictness(plan)
  if (isSeenBefore) await seeAll(seen, read, task)
  const emailAt = plan.targets.findIndex(({ to }) => to === 'email')
  const erased = new ErasedBefore(roster.erasedHashes.size > 0, pairing, emailAt)
  const against: Against = {
    columns: list.columns,
    withAddress: (compared) => roster.withAddress(list.id, compared),
    isErased: (compared) => erased.has(compared),
    countedLine: (compared, line) => (isSeenBefore ? (seen.lineOf(compared) ?? line) : seen.see(compared, line)),
  }
  return { judge: rowJudge(plan, against), erased }
}

/** Goes through a file for who stands in it more than once. */
async function seeAll(seen: SeenAddresses, { file, reading, plan }: ReadFile, task: Task): Promise<void> {
  const strictness = strictnessJudge(plan)
  for await (const { rows } of rowsOf(file, reading, task))
    for (const row of rows) {
      const judged = strictness(row)
      if (judged !== null) seen.see(judged.compared, row.line, judged.rank)
    }
}

/** Goes through a whole file without changing anybody. */
export async function dryRun(
  roster: Roster,
  pairing: Pairing,
  read: ReadFile & { list: List },
  task: Task,
): Promise<DryRun> {
  const { file, reading, plan } = read
  const verdicts: ShownVerdict[] = [...rowVerdicts, 'mistyped']
  const result: DryRun = {
    rows: 0,
    counts: Object.fromEntries(verdicts.map((verdict) => [verdict, 0])) as DryRun['counts'],
    statuses: noCounts(),
    shown: Object.fromEntries(verdicts.map((verdict) => [verdict, [] as ShownRow[]])) as DryRun['shown'],
    refused: null,
    problem: null,
  }
  const { judge, erased } = await againstList(roster, pairing, read, task)
  const emailAt = plan.targets.findIndex(({ to }) => to === 'email')
  const refused = new RefusedRows()
  for await (const { rows, reader, share } of rowsOf(file, reading, task)) {
    await erased.ask(rows)
    for (const row of rows) {
      const judged = judge(row)
      result.rows += 1
      const verdict: ShownVerdict = judged.isMistyped ? 'mistyped' : judged.verdict
      result.counts[verdict] += 1
      if (result.shown[verdict].length < SHOWN_ROWS) result.shown[verdict].push(shown(judged, row.cells[emailAt] ?? ''))
      if (judged.verdict === 'new' && judged.person !== null) result.statuses[judged.person.status] += 1
      if (isRefused(judged)) refused.add(row, judged, reader.columns)
    }
    result.problem = reader.problem
    task.tell(share)
  }
  result.refused = refused.file()
  return result
}

/** Verdicts of rows that change somebody. */
const isTaken = ({ verdict }: JudgedRow) => verdict === 'new' || verdict === 'changed' || verdict === 'off'
const isRefused = (judged: JudgedRow) => !isTaken(judged) && judged.verdict !== 'same'

function shown({ line, words, before, person }: JudgedRow, email: string): ShownRow {
  return { line, words, before, person, email: email.trim().slice(0, 200) }
}

/** A table of the rows that are not taken, with the line and why. */
class RefusedRows {
  private readonly pieces: Blob[] = []
  private text = ''

  add({ line, cells }: FileRow, { words }: JudgedRow, columns: readonly string[]): void {
    if (this.text === '' && this.pieces.length === 0) this.write(['Line', 'Why', ...columns])
    this.write([String(line), words, ...cells])
  }

  file(): Blob | null {
    if (this.text !== '') this.pieces.push(new Blob([this.text]))
    this.text = ''
    return this.pieces.length === 0 ? null : new Blob(this.pieces, { type: 'text/csv;charset=utf-8' })
  }

  private write(cells: readonly string[]): void {
    const mark = this.text === '' && this.pieces.length === 0 ? '\ufeff' : ''
    this.text += `${mark}${Papa.unparse([cells.map(safeCell)], { newline: '\r\n' })}\r\n`
    if (this.text.length < REFUSED_PIECE) return
    this.pieces.push(new Blob([this.text]))
    this.text = ''
  }
}

/** Brings the people of a file in. Each row is judged again: somebody may have changed since the dry run. */
export async function importFile(
  roster: Roster,
  pairing: Pairing,
  { list, about, ...read }: ReadFile & { list: List; about: { from: string; consent: string; asksByMail?: boolean } },
  task: Task,
): Promise<Brought> {
  const { file, reading } = read
  const { judge, erased } = await againstList(roster, pairing, { list, ...read }, task)
  const statuses = noCounts()
  let changed = 0
  let done = 0
  async function* chunks(): AsyncGenerator<Chunk> {
    let people: PersonRow[] = []
    for await (const { rows, share } of rowsOf(file, reading, task)) {
      await erased.ask(rows)
      for (const row of rows) {
        const judged = judge(row)
        const { person, before } = judged
        if (!isTaken(judged) || person === null) continue
        if (before === null) statuses[person.status] += 1
        else changed += 1
        people.push({
          member: before?.id ?? newId<MemberId>(),
          revision: before?.revision ?? null,
          email: person.email,
          values: person.values,
          tags: person.tags,
          status: person.status,
          joinedAt: person.joinedAt,
        })
        if (people.length < MAX_CHUNK) continue
        yield { people }
        people = []
      }
      done = share
    }
    if (people.length > 0) yield { people }
  }
  const progress = await sendBatch(
    { pairing, list: list.id, purpose: { kind: 'import', ...about } },
    { chunks: chunks(), share: () => done },
    task,
  )
  return { ...progress, statuses, changed }
}
