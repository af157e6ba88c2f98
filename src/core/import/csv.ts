import Papa from 'papaparse'
import { parseEmail } from '#core/email'
import { plainCell } from '#core/export'
import { partsOf } from '#core/text'
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

/** Which separator a table is written with: the only one that stands in its first row, or else the one that makes rows alike. */
export function separatorOf(sample: string): Separator {
  const [first = ''] = sample.replace(/^\ufeff/, '').split(/\r|\n/, 1)
  const inFirst = separators.filter((separator) => partsOf(first, separator).length > 1)
  if (inFirst.length === 1) return inFirst[0]!
  const { delimiter } = Papa.parse(sample, { preview: 50, delimitersToGuess: [...separators] }).meta
  return (separators as readonly string[]).includes(delimiter) ? (delimiter as Separator) : ','
}

/** Whether the first row names the columns: it has no address, and others below do, or it says what is in them. */
export function hasHead(sample: string, separator: Separator): boolean {
  const rows = Papa.parse<string[]>(sample, { preview: 20, delimiter: separator, skipEmptyLines: 'greedy' }).data
  const isAddress = (cell: string) => parseEmail(cell).ok
  const [first = [], ...rest] = rows
  if (first.some(isAddress)) return false
  return rest.some((row) => row.some(isAddress)) || first.some((cell) => /e-?mail|address|name/i.test(cell))
}

/** A table: RFC 4180 with any of the separators; rows may end in CR, LF or both. */
export function csvReader(separator: Separator, isHeaded: boolean): PeopleReader {
  return new CsvReader(separator, isHeaded)
}

class CsvReader implements PeopleReader {
  columns: readonly string[] = []
  problem: FileProblem | null = null
  private rest = ''
  private line = 1
  private isBegun = false
  private newline: string | null = null
  /** Where the row stands that names the columns. */
  private headLine = 0

  constructor(
    private readonly separator: Separator,
    private readonly isHeaded: boolean,
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
      if (this.columns.length === 0 && !this.begin(cells, line)) return []
      if (this.isHeaded && line === this.headLine) continue
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
    this.columns = cells.map((cell, at) => (this.isHeaded ? plainCell(cell).trim() : '') || `Column ${at + 1}`)
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
