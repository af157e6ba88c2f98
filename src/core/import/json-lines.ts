import { parsedJson } from '#core/json'
import { tagsText } from '#core/list'
import type { FileProblem } from './problem'
import { type FileRow, LONGEST_ROW, MOST_COLUMNS, type PeopleReader } from './reader'

/**
 * JSON Lines: an object for each line. An object within one is taken apart, one level deep: `name.first`. What is in `values`
 * stands among the rest, as Ask Box writes it.
 */
export class JsonLinesReader implements PeopleReader {
  readonly columns: string[] = []
  problem: FileProblem | null = null
  private readonly places = new Map<string, number>()
  private rest = ''
  private line = 0

  push(text: string): FileRow[] {
    if (this.problem !== null) return []
    const lines = (this.rest + text).split('\n')
    this.rest = lines.pop() ?? ''
    if (this.rest.length > LONGEST_ROW)
      this.problem = { code: 'no-end-of-row', message: `From line ${this.line + 1} on, no line ends.` }
    return lines.flatMap((line) => this.rowOf(line))
  }

  end(): FileRow[] {
    const { rest } = this
    this.rest = ''
    return this.problem === null ? this.rowOf(rest) : []
  }

  private rowOf(text: string): FileRow[] {
    this.line += 1
    const { line } = this
    if (text.trim() === '' || this.problem !== null) return []
    const value = parsedJson(text.replace(/^\ufeff/, ''))
    if (value === undefined) return [{ line, cells: [], problem: 'It is not JSON, or nested too deeply.' }]
    if (value === null || typeof value !== 'object' || Array.isArray(value))
      return [{ line, cells: [], problem: 'It is not an object.' }]
    const cells: string[] = []
    for (const [key, part] of Object.entries(value)) {
      const parts = isRecord(part)
        ? Object.entries(part).map(([name, one]) => [key === 'values' ? name : `${key}.${name}`, one] as const)
        : [[key, part] as const]
      for (const [name, one] of parts) {
        const place = this.placeOf(name)
        if (place === null) return []
        cells[place] = textOf(one)
      }
    }
    return [{ line, cells: Array.from(cells, (cell) => cell ?? '') }]
  }

  private placeOf(name: string): number | null {
    const place = this.places.get(name)
    if (place !== undefined) return place
    if (this.columns.length >= MOST_COLUMNS) {
      this.problem = {
        code: 'too-many-columns',
        message: `This file has more than ${MOST_COLUMNS} names in its objects, as of line ${this.line}.`,
      }
      return null
    }
    this.places.set(name, this.columns.length)
    return this.columns.push(name) - 1
  }
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  value !== null && typeof value === 'object' && !Array.isArray(value)

function textOf(value: unknown): string {
  if (Array.isArray(value)) return tagsText(value.map(textOf))
  return value === null || value === undefined ? '' : typeof value === 'object' ? JSON.stringify(value) : String(value)
}
