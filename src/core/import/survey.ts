import { tagsIn } from '#core/list'
import { partsOf } from '#core/text'
import { isNoDate, leadingNumbers, spellingOf } from './moment'
import type { FileRow } from './reader'
import { A_DATE, wordOf } from '#core/list'

/** As many different words of a column are told; one that has more is about something else. */
export const MOST_WORDS = 200
/** As much of a cell is told. */
const SHOWN_LENGTH = 60

/** Something that stands in a column, and in how many of its cells. */
export interface Counted {
  count: number
  /** As it stands in the file, where it stands first. */
  example: string
}
export interface Spelling extends Counted {
  /** Whether a first, or a second, number is no month. */
  firstOver12: boolean
  secondOver12: boolean
}

/** Counts of all values in one column of a file. */
export interface Tally {
  filled: number
  empty: number
  /** By `wordKey`; the empty word for cells with nothing in them. Null where there are too many. */
  words: Record<string, Counted> | null
  /** By `spellingOf`, and each cell that is no date by itself. Null where there are too many. */
  spellings: Record<string, Spelling> | null
  /** Values split at commas, semicolons and upright lines, one tally for each separator. Null for too many values. */
  tags: Record<TagSeparator, Record<string, Counted> | null>
  /** In how many cells each of them stands. */
  separators: Record<TagSeparator, number>
  /** Distinct values as written, most frequent first. */
  samples: string[]
}

/** Separators of the tags in a cell. */
export const tagSeparators = [',', ';', '|'] as const
export type TagSeparator = (typeof tagSeparators)[number]

/** Tallies the values of each column row by row, in bounded memory. */
export class Survey {
  private readonly columns: ColumnTally[] = []
  rows = 0

  take({ cells, problem }: FileRow): void {
    if (problem !== undefined) return
    while (this.columns.length < cells.length) this.columns.push(new ColumnTally(this.rows))
    this.rows += 1
    for (const [at, column] of this.columns.entries()) column.take(cells[at] ?? '')
  }

  tallies(columns: number): Tally[] {
    return Array.from({ length: columns }, (_, at) => (this.columns[at] ?? new ColumnTally(this.rows)).tally())
  }
}

class ColumnTally {
  private filled = 0
  /** As cells stand, trimmed: most columns that matter hold few different ones. */
  private readonly cells = new Bounded()
  private readonly spelt = new Bounded()
  private readonly tags = { ',': new Bounded(), ';': new Bounded(), '|': new Bounded() }
  private readonly over12 = new Map<string, [boolean, boolean]>()
  private readonly separators = { ',': 0, ';': 0, '|': 0 }

  constructor(private empty: number) {}

  take(cell: string): void {
    const text = cell.trim()
    if (text === '') {
      this.empty += 1
      return
    }
    this.filled += 1
    this.cells.add(text, text)
    if (!this.spelt.isFull && !isNoDate(text)) {
      const spelling = spellingOf(text)
      this.spelt.add(spellingKey(text, spelling), text)
      const numbers = spelling === null ? null : leadingNumbers(text)
      if (spelling !== null && numbers !== null) {
        const [first, second] = this.over12.get(spelling) ?? [false, false]
        this.over12.set(spelling, [first || numbers[0] > 12, second || numbers[1] > 12])
      }
    }
    // Separators within quotes are text.
    const bare = text.includes('"') ? text.replace(/"[^"]*"/g, '"') : text
    for (const separator of tagSeparators) {
      const isThere = bare.includes(separator)
      if (isThere) this.separators[separator] += 1
      const tags = this.tags[separator]
      if (!tags.isFull) for (const tag of tagsBetween(text, separator)) tags.add(tag, tag)
    }
  }

  tally(): Tally {
    const { filled, empty, separators } = this
    return {
      filled,
      empty,
      words: this.words(),
      spellings: this.spelt.isFull
        ? null
        : Object.fromEntries(
            this.spelt.sorted().map(([spelling, counted]) => {
              const [firstOver12, secondOver12] = this.over12.get(spelling) ?? [false, false]
              return [spelling, { ...counted, firstOver12, secondOver12 }]
            }),
          ),
      tags: {
        ',': this.tags[','].record(),
        ';': this.tags[';'].record(),
        '|': this.tags['|'].record(),
      },
      separators,
      samples: this.cells
        .sorted()
        .slice(0, SAMPLES)
        .map(([, { example }]) => example),
    }
  }

  private words(): Tally['words'] {
    // A column of dates has many cells, and one word.
    const isOfDates = this.cells.isFull && !this.spelt.isFull && this.over12.size > 0
    if (this.cells.isFull && !isOfDates) return null
    const words = new Bounded()
    for (const [, { example, count }] of isOfDates ? this.spelt.sorted() : this.cells.sorted())
      words.add(wordKey(example), example, count)
    if (this.empty > 0) words.add('', '', this.empty)
    return words.record()
  }
}

const SAMPLES = 6

/** Key under which a cell of a date column is decided: its spelling, such as `n/n/n`, or the cell itself where it is no date. */
export function spellingKey(cell: string, spelling = spellingOf(cell)): string {
  return spelling ?? cell.trim().slice(0, SHOWN_LENGTH)
}

/** Key under which a cell of a word column is decided: one for all dates, empty for `-`, `0000-00-00` and the like. */
export function wordKey(cell: string): string {
  const text = cell.trim().slice(0, SHOWN_LENGTH)
  if (isNoDate(text)) return ''
  return spellingOf(text)?.startsWith('n, ') === false ? A_DATE : wordOf(text)
}

/** Counts of different texts, as long as they are not too many. */
class Bounded {
  private readonly counts = new Map<string, Counted>()
  isFull = false

  add(key: string, example: string, count = 1): void {
    const counted = this.counts.get(key)
    if (counted !== undefined) counted.count += count
    else if (this.counts.size >= MOST_WORDS) this.isFull = true
    else this.counts.set(key, { count, example: example.slice(0, SHOWN_LENGTH) })
  }

  /** Null where there are too many. */
  record(): Record<string, Counted> | null {
    return this.isFull ? null : Object.fromEntries(this.sorted())
  }

  /** The most frequent first; of those as frequent, as they came. */
  sorted(): [string, Counted][] {
    return [...this.counts].toSorted(([, one], [, other]) => other.count - one.count)
  }
}

/** Each tag of a cell once. */
export function tagsBetween(cell: string, separator: TagSeparator): string[] {
  if (separator === ',') return tagsIn(cell)
  return [...new Set(partsOf(cell, separator).map((tag) => tag.replace(/^"(.*)"$/, '$1').trim()))].filter(Boolean)
}
