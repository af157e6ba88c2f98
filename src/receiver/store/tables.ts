import type { Generated } from 'kysely'

/** The tables as the newest migration leaves them. `body` columns are JSON of the core's own shapes. */
export interface Tables {
  /** One row: which journal this is. */
  identity: { key: 'journal-id'; value: string }
  /** `n` counts up without gaps: rows are only ever appended. */
  journal: { n: Generated<number>; body: string }
  /** The fold of the journal, kept beside it so that a sign-up need not read history. */
  members: { id: string; list: string; compared: string; body: string }
  commands: { id: string; outcome: string }
  /** First answers within the retry window, in milliseconds since 1970. */
  retries: { key: string; at: number; verdict: string }
  published: { kind: string; id: string; body: string }
}
