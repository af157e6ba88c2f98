import type { Generated } from 'kysely'

/** The tables as the newest migration leaves them. `body` columns are JSON of the core's own shapes. */
export interface Tables {
  /** Single values: which journal this is, how mail is sent. */
  identity: { key: 'journal-id' | 'touched' | 'outbox'; value: string }
  /** `n` counts up without gaps: rows are only ever appended. `mark` tells one history from another. */
  journal: { n: Generated<number>; body: string; mark: string }
  /** The fold of the journal, kept beside it so that a sign-up need not read history. */
  members: {
    id: string
    list: string
    compared: string
    body: string
    /** Counts up on each list, from 1, in the order in which they came. */
    rank: number
  }
  /** Outcomes, with the time in milliseconds since 1970. */
  commands: { id: string; outcome: string; at: number }
  /** Of the newest arrivals, by number: what names who sent exactly what. Read at the start alone. */
  retries: { n: number; key: string }
  /** What the owner makes, each with the revision of its newest change. */
  objects: { kind: string; key: string; revision: number; body: string; deleted: number }
  /** One row a change. */
  changes: { revision: number; mark: string }
  pictures: { id: string; body: string }
  /** Made-up people of rehearsals that are going on, each rehearsal a space of its own. */
  spaces: { space: string; key: string; body: string }
  /** Mail on its way, sent or given up. Times in milliseconds since 1970; `said` is what the mail server answered last. */
  mails: {
    id: string
    /** A rehearsal's code; empty for real people. */
    space: string
    list: string
    member: string
    kind: string
    recipient: string
    compared: string
    inbox: string
    turn: number
    queued: number
    due: number
    state: string
    attempts: number
    said: string
    sent: number
  }
  /** How often somebody's gift was fetched. */
  downloads: { member: string; times: number }
}
