/**
 * Characters that make a spreadsheet read a cell as a formula when it begins with them: OWASP, "CSV Injection" (equals,
 * plus, minus, at, tab, carriage return, line feed, and the full-width forms of the first four; the list is from memory).
 */
const LEADING = /^[=+\-@\t\r\n＝＋－＠]/
/** Numbers and telephone numbers begin so too, and compute nothing that anybody wrote. */
const NUMBER = /^[+-]\d[\d\s().,/-]*$/

/** Whether a cell could be read as a formula, or could be taken for one that was made safe. */
function isUnsafe(cell: string): boolean {
  return (LEADING.test(cell) && !NUMBER.test(cell)) || (cell.startsWith("'") && isUnsafe(cell.slice(1)))
}

/** A cell that no spreadsheet reads as a formula: with an apostrophe before what it would. */
export function safeCell(cell: string): string {
  return isUnsafe(cell) ? `'${cell}` : cell
}

/** The cell as it was before `safeCell`. */
export function plainCell(cell: string): string {
  return cell.startsWith("'") && isUnsafe(cell.slice(1)) ? cell.slice(1) : cell
}
