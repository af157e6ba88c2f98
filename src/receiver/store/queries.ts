import type { Kysely } from 'kysely'
import type { Statement, SubjectTables } from './database'

/**
 * All that is asked of all subjects' tables, in one object.
 *
 * @param prepareText prepares a query's text, in which placeholders stand as the dialect writes them: `?` or `$1`
 */
export function queriesOver<Queries extends object>(
  tables: readonly SubjectTables<unknown>[],
  kysely: Kysely<unknown>,
  prepareText: (text: string) => Statement,
): Queries {
  const database = {
    over: <Tables>() => kysely as unknown as Kysely<Tables>,
    prepare: (query: { compile(): { sql: string } }) => prepareText(query.compile().sql),
  }
  const all: Record<string, unknown> = {}
  for (const { queries } of tables)
    for (const [name, query] of Object.entries(queries(database) as object)) {
      if (name in all) throw new Error(`Two subjects have a query called ${name}.`)
      all[name] = query
    }
  return all as Queries
}
