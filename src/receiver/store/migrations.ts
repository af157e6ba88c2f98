import { type Kysely, type Migration, Migrator, sql } from 'kysely'
import type { SubjectTables } from './database'

/**
 * One step. With `isCompatible`, a program that does not know of it works with the store all the same: it only adds what older
 * programs leave alone, such as a table, or a column that may be empty. Then two versions can run side by side on one database
 * server, one receiver being updated after the other.
 */
export type Step = Migration & { isCompatible?: true }

/** Names of the compatible steps that were taken, in `single_values`: what an older program goes by. */
const COMPATIBLE = 'compatible steps'

/** Takes all the steps that are missing. */
export async function bringUp(kysely: Kysely<unknown>, tables: readonly SubjectTables<unknown>[]): Promise<void> {
  const own = stepsOf(tables)
  const newer = await newerThan(kysely, own)
  const compatible = newer.length === 0 ? [] : await compatibleIn(kysely)
  if (newer.some((name) => !compatible.includes(name)))
    throw new Error(
      'it was made by another build of Ask Box, from before the first release or newer. To keep what is in it, start that build once more, export the workspace (Settings) and open its file here. Then move the folder away and start anew',
    )
  const steps = { ...own, ...Object.fromEntries(newer.map((name) => [name, taken])) }
  const { error } = await new Migrator({
    db: kysely,
    provider: { getMigrations: async () => steps },
    // Their names begin with numbers; the usual comparison loads a language's rules, a twentieth of a start.
    nameComparator: (one, other) => (one < other ? -1 : 1),
    // What one subject adds may be named before what another added in a version that came first.
    allowUnorderedMigrations: true,
  }).migrateToLatest()
  if (error !== undefined) throw error
  await noteCompatible(kysely, own)
}

/** Stands for a step of a newer program, which was taken. */
const taken: Migration = {
  up: () => Promise.reject(new Error('A step of a newer version cannot be taken by this one.')),
}

/** Steps that were taken and that this program does not know. */
async function newerThan(kysely: Kysely<unknown>, own: Record<string, Step>): Promise<string[]> {
  const tables = await kysely.introspection.getTables({ withInternalKyselyTables: true })
  if (!tables.some(({ name }) => name === 'kysely_migration')) return []
  const { rows } = await sql<{ name: string }>`SELECT name FROM kysely_migration ORDER BY name`.execute(kysely)
  return rows.map(({ name }) => name).filter((name) => !(name in own))
}

async function compatibleIn(kysely: Kysely<unknown>): Promise<string[]> {
  const { rows } = await sql<{ body: string }>`SELECT body FROM single_values WHERE name = ${COMPATIBLE}`.execute(
    kysely,
  )
  return rows.flatMap(({ body }) => JSON.parse(body) as string[])
}

async function noteCompatible(kysely: Kysely<unknown>, own: Record<string, Step>): Promise<void> {
  const names = Object.keys(own).filter((name) => own[name]!.isCompatible === true)
  if (names.length === 0) return
  const before = await compatibleIn(kysely)
  const all = [...new Set([...before, ...names])].toSorted()
  if (all.length === before.length) return
  const body = JSON.stringify(all)
  await sql`DELETE FROM single_values WHERE name = ${COMPATIBLE}`.execute(kysely)
  await sql`INSERT INTO single_values (name, body) VALUES (${COMPATIBLE}, ${body})`.execute(kysely)
}

function stepsOf(tables: readonly SubjectTables<unknown>[]): Record<string, Step> {
  const all = tables.flatMap(({ migrations }) => Object.entries(migrations))
  const names = all.map(([name]) => name)
  const twice = names.find((name, at) => names.indexOf(name) !== at)
  if (twice !== undefined) throw new Error(`Two migrations are called ${twice}.`)
  return Object.fromEntries(all)
}
