import type { Row } from './database'

/** Asks the database itself, in plain SQL with `?` for parameters: for what concerns all tables alike, such as moving them. */
export interface RawDatabase {
  readonly kind: 'sqlite' | 'postgres'
  read(sql: string, values?: readonly unknown[]): Promise<Row[]>
  /** In one transaction, in turn with all other writes. */
  write<T>(work: (ask: RawAsk) => Promise<T>): Promise<T>
  /** How many other receivers work with it now. */
  others(): Promise<number>
  /** All tables of subjects, with their columns, and by which of them a row is found. */
  shapes(): Promise<TableShape[]>
}
export type RawAsk = (sql: string, values?: readonly unknown[]) => Promise<Row[]>

export interface TableShape {
  name: string
  columns: string[]
  key: string[]
}

/** `$1`, `$2` in the place of each `?`. No text of ours has a question mark in quotes. */
export function numbered(sql: string): string {
  let count = 0
  return sql.replaceAll('?', () => `$${(count += 1)}`)
}
