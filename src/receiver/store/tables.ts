import type { Generated } from 'kysely'

/** The tables as the newest migration leaves them. `body` columns are JSON of the core's own shapes. Times in milliseconds since 1970. */
export interface Tables {
  /** Single values that all processes share, by name; `until` is null for what is not forgotten. */
  single_values: { name: string; body: string; until: number | null }
  /** `n` counts up without gaps: rows are only ever appended. `mark` tells one history from another. */
  journal: {
    n: Generated<number>
    kind: string
    /** The entry but for its personal part. */
    body: string
    /** Null where an entry tells nothing of a person, or no longer. */
    personal: string | null
    mark: string
  }
  /** The fold of the journal, kept beside it so that a sign-up need not read history. */
  members: {
    id: string
    list: string
    compared: string
    status: string
    /** ISO 8601. */
    joined_at: string
    body: string
    /** Counts up on each list, from 1, in the order in which they came. */
    rank: number
  }
  /** Outcomes of commands, with the time. */
  commands: { id: string; outcome: string; at: number }
  /** First answers, with what names who sent exactly what: keys have no order, so they are looked up in memory. */
  first_answers: { n: number; key: string; at: number; verdict: string; held: number }
  /** What the owner makes, each with the revision of its newest change. */
  objects: { kind: string; key: string; revision: number; body: string; deleted: number }
  /** One row a change. */
  changes: { revision: number; mark: string }
  pictures: { id: string; body: string }
  /** Made-up people of rehearsals that are going on, each rehearsal a space of its own. */
  spaces: { space: string; key: string; body: string }
  /** All that is done later: see `Job`. */
  queue: {
    id: string
    worker: string
    space: string
    priority: number
    order_key: string
    limit_key: string
    queued: number
    due: number
    holder: string
    held_until: number
    state: string
    attempts: number
    said: string
    body: string
  }
  /** Many people changed as one: see `StoredBatch`. Its chunks are forgotten once it came to its end. */
  batches: { id: string; state: string; body: string }
  batch_chunks: { batch: string; number: number; body: string }
  /** Keyed hashes of the addresses of those who were erased. */
  erased: { hash: string }
  /** How often forms were seen and begun: sums, of nobody. Days and hours by the clocks of the spot's site. */
  seen: {
    spot: string
    day: string
    version: number
    source: string
    device: string
    views: number
    starts: number
    set_aside: number
  }
  seen_hours: { spot: string; day: string; hour: number; views: number }
  /** Names of messages that were counted lately, so that one sent again is not counted twice. */
  beacons: { id: string; at: number }
  /** What came of handing somebody over last: see `Handed`. */
  handed: { hand_over: string; member: string; state: string; at: number; body: string }
  /** How often somebody's gift was fetched. */
  downloads: { member: string; times: number; last: number }
}
