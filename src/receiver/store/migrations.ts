import { type Kysely, type Migration, Migrator } from 'kysely'
import type { SubjectTables } from './database'

/** Takes all the steps that are missing. */
export async function bringUp(kysely: Kysely<unknown>, tables: readonly SubjectTables<unknown>[]): Promise<void> {
  const migrations = migrationsOf(tables)
  const { error } = await new Migrator({
    db: kysely,
    provider: { getMigrations: async () => migrations },
    // Their names begin with numbers; the usual comparison loads a language's rules, a twentieth of a start.
    nameComparator: (one, other) => (one < other ? -1 : 1),
  }).migrateToLatest()
  if (error instanceof Error && /previously executed migration .* is missing/.test(error.message))
    throw new Error(
      'it was made by another build of Ask Box, from before the first release or newer. To keep what is in it, start that build once more, export the workspace (Settings) and open its file here. Then move the folder away and start anew',
      { cause: error },
    )
  if (error !== undefined) throw error
}

function migrationsOf(tables: readonly SubjectTables<unknown>[]): Record<string, Migration> {
  const all = tables.flatMap(({ migrations }) => Object.entries(migrations))
  const names = all.map(([name]) => name)
  const twice = names.find((name, at) => names.indexOf(name) !== at)
  if (twice !== undefined) throw new Error(`Two migrations are called ${twice}.`)
  return Object.fromEntries(all)
}
