/*
 * Over a network each statement costs a way there and back. Where writes share a commit, those of one subject can be kept back
 * in memory and sent as one statement a table, and what they read fetched for all of them at once.
 */

/** A subject's writes of one transaction, kept back. Its queries see what is kept back as if it were written. */
export interface Gathering<Queries> {
  /** In place of the queries of the same names; before any other query of the subject, what is kept back is written. */
  queries: Partial<Queries>
  /**
   * A transaction begins.
   *
   * @param abouts what each piece of work is about, as far as it was said
   */
  begin(abouts: readonly unknown[]): Promise<void>
  /** Writes what is kept back. */
  flush(): Promise<void>
  /** Forgets it: the transaction ended, or none of it holds. */
  clear(): void
}

/** Sends a statement within the transaction, with `?` for parameters; a list is an array of the database's. */
export type GatherAsk = (sql: string, values: readonly unknown[]) => Promise<Record<string, unknown>[]>
export type Gather<Queries> = (queries: Queries, ask: GatherAsk) => Gathering<Queries>

/** All queries, each subject's over its gathering: what it does not gather is sent at once, after what it does. */
export function gathered<Queries extends object>(
  subjects: readonly { queries: object; gathering: Gathering<object> | null }[],
): { queries: Queries; begin(abouts: readonly unknown[]): Promise<void>; flush(): Promise<void>; clear(): void } {
  const gatherings = subjects.flatMap(({ gathering }) => gathering ?? [])
  const all: Record<string, unknown> = {}
  for (const { queries, gathering } of subjects) {
    Object.assign(all, queries)
    if (gathering === null) continue
    for (const [name, query] of Object.entries(queries) as [string, (...values: unknown[]) => Promise<unknown>][])
      all[name] = async (...values: unknown[]) => {
        // A subject's queries ask its own tables alone.
        await gathering.flush()
        return query(...values)
      }
    Object.assign(all, gathering.queries)
  }
  return {
    queries: all as Queries,
    async begin(abouts) {
      for (const gathering of gatherings) await gathering.begin(abouts)
    },
    async flush() {
      for (const gathering of gatherings) await gathering.flush()
    },
    clear: () => gatherings.forEach((gathering) => gathering.clear()),
  }
}
