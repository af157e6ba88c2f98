import { type Compilable, type Kysely, SqliteAdapter } from 'kysely'
import type { GatherAsk, Gathering } from './gathering'
import type { Step } from './migrations'

export type Row = Record<string, unknown>

/** A query that was prepared once. SQLite answers at once, a server later. */
export interface Statement {
  get(...values: unknown[]): Row | undefined | Promise<Row | undefined>
  all(...values: unknown[]): Row[] | Promise<Row[]>
  run(...values: unknown[]): { changes: number } | Promise<{ changes: number }>
}

/** The database as a subject writes its queries. */
export interface Database {
  /** Kysely over the subject's own tables, to write queries with: each once, for building one costs more than running it. */
  over<Tables>(): Kysely<Tables>
  prepare(query: Compilable): Statement
}

/** The tables of one subject: how they came to be, and all that is asked of them. */
export interface SubjectTables<Queries> {
  /**
   * Numbered in one order over all subjects, such as `001-people`, and never changed once released: a data folder of any
   * age is brought up step by step. A step calls nothing but Kysely, so that it leads to the same whatever the rest of the
   * code has become since.
   */
  migrations: Record<string, Step>
  /** How writes that share a commit are kept together where the database is a server; see gathering.ts. */
  gather?(queries: Queries, ask: GatherAsk): Gathering<Queries>
  /** The same for each engine; each statement is prepared once. */
  queries(database: Database): Queries
}

/** Placeholder of a parameter: of whatever type its column has, hence of none. */
export const bound = '' as never

/** A whole number up to 2^53 as a key: SQLite's own row number, which has to be called so there; eight bytes elsewhere. */
export const numberKey = (kysely: Kysely<unknown>) =>
  kysely.getExecutor().adapter instanceof SqliteAdapter ? 'integer' : 'bigint'

export const parsed = <T>(text: unknown) => JSON.parse(String(text)) as T
/** Parsed `body` of a row; null for no row. */
export const bodyOf = <T>(row: Row | undefined): T | null => (row === undefined ? null : parsed<T>(row.body))
/** After every name that begins so. */
export const endOf = (beginning: string) => `${beginning}\uffff`

/** The last of an order, with the mark that its history has there. */
export interface Newest {
  n: number
  mark: string
}
export const newestOf = (row: Row | undefined): Newest => ({ n: Number(row?.n ?? 0), mark: String(row?.mark ?? '') })
