import Papa from 'papaparse'
import { safeCell } from './formula'

/** RFC 4180: quotes where they are needed, CRLF at the end of each row. */
export function rowsText(rows: string[][]): string {
  if (rows.length === 0) return ''
  return `${Papa.unparse(
    rows.map((row) => row.map(safeCell)),
    { newline: '\r\n' },
  )}\r\n`
}
