import { csvReader, type Separator } from './csv'
import { JsonLinesReader } from './json-lines'
import { LinesReader } from './lines'
import type { FileFormat, PeopleReader } from './reader'
import { VCardReader } from './vcard'

export { hasHead, type Separator, separatorOf, separators } from './csv'
export { type FileEncoding, encodingNames, encodingOf, SAMPLE_BYTES } from './encoding'
export { type Against, type JudgedRow, type Person, rowJudge, type RowVerdict, rowVerdicts } from './judge'
export { formatOf } from './format'
export { type DayOrder, dayOrders, momentIn } from './moment'
export { type ImportPlan, type KnownRule, knownRules, matchColumns, type Target } from './plan'
export type { FileProblem } from './problem'
export { type FileFormat, fileFormats, type FileRow, formatNames, type PeopleReader } from './reader'
export { SeenAddresses } from './seen'

/** How a file is written. */
export interface FileShape {
  format: FileFormat
  /** Of a table. */
  separator: Separator
  hasHead: boolean
}

export function readerOf({ format, separator, hasHead }: FileShape): PeopleReader {
  switch (format) {
    case 'csv':
      return csvReader(separator, hasHead)
    case 'json-lines':
      return new JsonLinesReader()
    case 'vcard':
      return new VCardReader()
    case 'lines':
      return new LinesReader()
  }
}
