import { csvReader, type Separator, type TableHead } from './csv'
import { JsonLinesReader } from './json-lines'
import { LinesReader } from './lines'
import type { FileFormat, PeopleReader } from './reader'
import { VCardReader } from './vcard'

export { headIn, type Separator, separatorOf, separators, type TableHead } from './csv'
export { decided, type Undecided, undecidedIn } from './decisions'
export { type FileEncoding, encodingNames, encodingOf, SAMPLE_BYTES, Utf8Check } from './encoding'
export {
  type Against,
  type JudgedRow,
  needsStrictness,
  type ImportedPerson,
  rowJudge,
  type RowVerdict,
  rowVerdicts,
  strictnessJudge,
} from './judge'
export { formatOf } from './format'
export { type DateReading, dateReadings, momentIn, spellingOf } from './moment'
export { type ImportPlan, type KnownRule, knownRules, matchColumns } from './plan'
export type { Decided, Target } from './target'
export type { FileProblem } from './problem'
export { type FileFormat, fileFormats, type FileRow, formatNames, type PeopleReader } from './reader'
export { SeenAddresses } from './seen'
export { type Counted, Survey, type TagSeparator, type Tally } from './survey'

/** How a file is written. */
export interface FileShape {
  format: FileFormat
  /** Of a table. */
  separator: Separator
  head: TableHead
}

export function readerOf({ format, separator, head }: FileShape): PeopleReader {
  switch (format) {
    case 'csv':
      return csvReader(separator, head)
    case 'json-lines':
      return new JsonLinesReader()
    case 'vcard':
      return new VCardReader()
    case 'lines':
      return new LinesReader()
  }
}
