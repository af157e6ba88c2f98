import { parseEmail } from '#core/email'
import { partsOf } from '#core/text'
import { cellsOf } from './lines'
import type { FileFormat } from './reader'

const LOOKED_AT = 20

/** Detects a file's format by its beginning. */
export function formatOf(sample: string): FileFormat {
  const begins = sample
    .slice(0, 20_000)
    .replace(/^\ufeff/, '')
    .trimStart()
  if (/^BEGIN:VCARD/i.test(begins)) return 'vcard'
  if (begins.startsWith('{')) return 'json-lines'
  // The last line may be cut off.
  const all = begins.split(/\r\n|\n|\r/)
  const lines = (begins.length < 20_000 ? all : all.slice(0, -1)).filter((line) => line.trim() !== '')
  return isPlain(lines.slice(0, LOOKED_AT)) ? 'lines' : 'csv'
}

/**
 * Whether lines are addresses, now and then something else: the first is one, or it would name a column; so are most; and
 * where several things stand in a line, all of them are.
 */
function isPlain(lines: readonly string[]): boolean {
  const parts = lines.map((line) => partsOf(line, ',;\t|').map((part) => parseEmail(cellsOf(part)[0] ?? '').ok))
  const holding = parts.filter((all) => all.includes(true))
  return (
    parts[0]?.includes(true) === true &&
    holding.length * 2 >= lines.length &&
    parts.every((all) => all.length <= 1 || all.every(Boolean))
  )
}
