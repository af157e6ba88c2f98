import { parseEmail } from '#core/email'
import { LinesReader } from './lines'
import type { FileFormat } from './reader'

/** What a file is, by how it begins. */
export function formatOf(sample: string): FileFormat {
  const begins = sample
    .slice(0, 20_000)
    .replace(/^\ufeff/, '')
    .trimStart()
  if (/^BEGIN:VCARD/i.test(begins)) return 'vcard'
  if (begins.startsWith('{')) return 'json-lines'
  // The last line may be cut off.
  const rows = new LinesReader().push(`${begins}\n`).slice(0, 20)
  const isWhole = sample.length < 20_000
  const isPlain = (isWhole ? rows : rows.slice(0, -1)).every(({ cells: [address = ''] }) => parseEmail(address).ok)
  return isPlain && rows.length > 0 ? 'lines' : 'csv'
}
