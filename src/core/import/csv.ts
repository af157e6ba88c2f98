import Papa from 'papaparse'
import { parseEmail } from '#core/email'
import { plainCell } from '#core/export'
import { partsOf } from '#core/text'
import { headingIn } from './headings'
import type { FileProblem } from './problem'
import { type FileRow, LONGEST_ROW, MOST_COLUMNS, type PeopleReader } from './reader'

/** Separators that tables come with. */
export const separators = [',', ';', '\t', '|'] as const
export type Separator = (typeof separators)[number]

/** Papa Parse's own parser, which tells how far it came, so that a file is read in pieces; not in its types. */
interface Parser {
  parse(input: string, base: number, ignoreLastRow: boolean): { data: string[][]; meta: { cursor: number } }
}
const { Parser } = Papa as unknown as { Parser: new (config: object) => Parser }

/** Rows at the beginning of which a table's shape is told. */
const LOOKED_AT = 50

/**
 * Which separator a table is written with: the one that takes all rows with an address into as many cells; else the only
 * one that stands in its first row, or the one that makes rows alike.
 */
export function separatorOf(sample: string): Separator {
  const lines = sample
    .replace(/^\ufeff/, '')
    .split(/\r\n|\n|\r/)
    .slice(0, LOOKED_AT)
  const holding = lines.filter((line) => line.includes('@'))
  const alike = separators.filter((separator) => {
    const counts = new Set(holding.map((line) => partsBetween(line, separator)))
    return counts.size === 1 && !counts.has(1)
  })
  if (alike.length === 1) return alike[0]!
  const inFirst = separators.filter((separator) => partsOf(lines[0] ?? '', separator).length > 1)
  if (inFirst.length === 1) return inFirst[0]!
  const { delimiter } = Papa.parse(sample, { preview: LOOKED_AT, delimitersToGuess: [...separators] }).meta
  return (separators as readonly string[]).includes(delimiter) ? (delimiter as Separator) : ','
}

/** Number of cells in a line, empty ones included; separators within quotes do not count. */
const partsBetween = (line: string, separator: Separator) => line.replace(/"[^"]*"/g, '').split(separator).length

/** Where a table begins. */
export interface TableHead {
  /** Rows with something in them that stand above: a title, the day on which it was saved. */
  skip: number
  /** Whether its first row names the columns. */
  hasHead: boolean
}

/**
 * Where a table begins and whether its first row names the columns: it has no address, and others below do, or it says what
 * is in them. A row above it that fills fewer cells is a title.
 */
export function headIn(sample: string, separator: Separator): TableHead {
  const rows = Papa.parse<string[]>(sample, { preview: LOOKED_AT, delimiter: separator, skipEmptyLines: 'greedy' }).data
  const isAddress = (cell: string) => parseEmail(cell).ok
  const addressAt = rows.findIndex((row) => row.some(isAddress))
  if (addressAt === 0) return { skip: 0, hasHead: false }
  if (addressAt < 0) return { skip: 0, hasHead: (rows[0] ?? []).some((cell) => headingIn(cell) !== null) }
  const filled = (row: readonly string[]) => row.filter((cell) => cell.trim() !== '').length
  const wanted = Math.max(2, rows[addressAt]!.length / 2)
  const headAt = rows.slice(0, addressAt).findIndex((row) => filled(row) >= wanted)
  return { skip: Math.max(0, headAt), hasHead: true }
}

/** A table: RFC 4180 with any of the separators; rows may end in CR, LF or both. */
export function csvReader(separator: Separator, head: TableHead): PeopleReader {
  return new CsvReader(separator, head)
}

class CsvReader implements PeopleReader {
  columns: readonly string[] = []
  problem: FileProblem | null = null
  private rest = ''
  private line = 1
  private isBegun = false
  private newline: string | null = null
  private skipped = 0
  /** Where the row stands that names the columns. */
  private headLine = 0

  constructor(
    private readonly separator: Separator,
    private readonly head: TableHead,
  ) {}

  push(text: string): FileRow[] {
    if (this.problem !== null) return []
    this.rest += this.isBegun ? text : text.replace(/^\ufeff/, '')
    this.isBegun ||= text !== ''
    return this.read(true)
  }

  end(): FileRow[] {
    return this.problem === null ? this.read(false) : []
  }

  private read(isMore: boolean): FileRow[] {
    this.newline ??= newlineOf(this.rest, isMore)
    if (this.newline === null) return []
    const { newline, separator: delimiter } = this
    const { data, meta } = new Parser({ delimiter, newline, quoteChar: '"' }).parse(this.rest, 0, isMore)
    this.rest = isMore ? this.rest.slice(meta.cursor) : ''
    if (this.rest.length > LONGEST_ROW) {
      this.problem = {
        code: 'no-end-of-row',
        message: `From line ${this.line} on, no row ends: a quotation mark there is never closed.`,
      }
      return []
    }
    const rows: FileRow[] = []
    for (const row of data) {
      const cells = newline === '\n' ? withoutReturn(row) : row
      const line = this.line
      this.line += 1 + linesWithin(cells)
      if (cells.every((cell) => cell.trim() === '')) continue
      if (this.skipped < this.head.skip) {
        this.skipped += 1
        continue
      }
      if (this.columns.length === 0 && !this.begin(cells, line)) return []
      if (this.head.hasHead && line === this.headLine) continue
      rows.push({ line, cells: cells.map(plainCell) })
    }
    return rows
  }

  private begin(cells: readonly string[], line: number): boolean {
    if (cells.length > MOST_COLUMNS) {
      this.problem = {
        code: 'too-many-columns',
        message: `This table has ${cells.length} columns; at most ${MOST_COLUMNS} can be read.`,
      }
      return false
    }
    this.columns = cells.map((cell, at) => (this.head.hasHead ? plainCell(cell).trim() : '') || `Column ${at + 1}`)
    this.headLine = line
    return true
  }
}

/** Line breaks in quotes. */
function linesWithin(cells: readonly string[]): number {
  let count = 0
  for (const cell of cells)
    if (cell.includes('\n') || cell.includes('\r')) count += cell.match(/\r\n|\r|\n/g)?.length ?? 0
  return count
}

/** Of so many characters is told how rows end. */
const ENOUGH_FOR_NEWLINES = 64 * 1024

/**
 * How rows end; null where that is not known yet. Where some end in CR LF and others in LF, they end in LF, and the rest is
 * cut off: see `withoutReturn`.
 */
function newlineOf(text: string, isMore: boolean): string | null {
  if (isMore && text.length < ENOUGH_FOR_NEWLINES) return null
  const ends: readonly string[] = text.replace(/"[^"]*"/g, '').match(/\r\n|\n|\r(?=[^\n])/g) ?? []
  if (ends.length === 0) return isMore && text.length < LONGEST_ROW ? null : '\n'
  if (ends.every((end) => end === '\r\n')) return '\r\n'
  return ends.includes('\n') || ends.includes('\r\n') ? '\n' : '\r'
}

function withoutReturn(cells: string[]): string[] {
  return cells.with(-1, cells.at(-1)!.replace(/\r$/, ''))
}
