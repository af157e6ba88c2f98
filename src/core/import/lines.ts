import { partsOf } from '#core/text'
import type { FileProblem } from './problem'
import { type FileRow, LONGEST_ROW, type PeopleReader } from './reader'

/** An address for each line, with the name before it where there is one: `Name <address>`; several with commas between them. */
export class LinesReader implements PeopleReader {
  readonly columns = ['Address', 'Name']
  problem: FileProblem | null = null
  private rest = ''
  private line = 0

  push(text: string): FileRow[] {
    if (this.problem !== null) return []
    const lines = (this.rest + text).split(/\r\n|\n|\r(?!$)/)
    this.rest = lines.pop() ?? ''
    if (this.rest.length > LONGEST_ROW)
      this.problem = { code: 'no-end-of-row', message: `From line ${this.line + 1} on, no line ends.` }
    return lines.flatMap((line) => this.rowsOf(line))
  }

  end(): FileRow[] {
    const { rest } = this
    this.rest = ''
    return this.problem === null ? this.rowsOf(rest) : []
  }

  private rowsOf(text: string): FileRow[] {
    this.line += 1
    const { line } = this
    return partsOf(text.replace(/^\ufeff/, ''), ',;').map((part) => ({ line, cells: cellsOf(part) }))
  }
}

/** RFC 5322's `name-addr`, without comments; or a name and an address with nothing but white space between. */
export function cellsOf(text: string): string[] {
  const angled = /^(.*)<([^<>]*)>$/.exec(text)
  if (angled === null) {
    const words = text.split(/\s+/)
    const last = words.at(-1)!
    return words.length > 1 && last.includes('@') ? [last, words.slice(0, -1).join(' ')] : [text, '']
  }
  const name = angled[1]!.trim()
  return [angled[2]!.trim(), /^".*"$/.test(name) ? name.slice(1, -1).replace(/\\(.)/g, '$1') : name]
}
