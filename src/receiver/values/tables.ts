import { type Kysely, type Migration } from 'kysely'
import { bound, endOf, parsed, type Row, type SubjectTables } from '../store'

interface Tables {
  /** Single values that all processes share, by name; `until` is null for what is not forgotten. */
  single_values: { name: string; body: string; until: number | null }
}

export interface ValueQueries {
  /** A single value that all processes share, by name; null where there is none, or where its time is over. */
  value(name: string, now: number): Promise<unknown>
  /** @param until when it is forgotten, in milliseconds since 1970; null for never */
  keepValue(name: string, value: unknown, until: number | null): Promise<void>
  dropValue(name: string): Promise<void>
  /** Those whose names begin so and whose time is not over, in the order of their names. */
  valuesNamed(beginning: string, now: number): Promise<{ name: string; value: unknown }[]>
  forgetValues(now: number): Promise<void>
}

const migrations: Record<string, Migration> = {
  '001-values': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('single_values')
        .addColumn('name', 'text', (column) => column.primaryKey())
        .addColumn('body', 'text', (column) => column.notNull())
        .addColumn('until', 'bigint')
        .execute()
    },
  },
}

export const valueTables: SubjectTables<ValueQueries> = {
  migrations,
  queries({ over, prepare }) {
    const tables = over<Tables>()
    const statements = {
      value: prepare(tables.selectFrom('single_values').select(['body', 'until']).where('name', '=', bound)),
      keepValue: prepare(
        tables
          .insertInto('single_values')
          .values({ name: bound, body: bound, until: bound })
          .onConflict((conflict) =>
            conflict
              .column('name')
              .doUpdateSet((of) => ({ body: of.ref('excluded.body'), until: of.ref('excluded.until') })),
          ),
      ),
      dropValue: prepare(tables.deleteFrom('single_values').where('name', '=', bound)),
      valuesNamed: prepare(
        tables
          .selectFrom('single_values')
          .selectAll()
          .where('name', '>=', bound)
          .where('name', '<', bound)
          .orderBy('name'),
      ),
      forgetValues: prepare(tables.deleteFrom('single_values').where('until', '<', bound)),
    }
    return {
      async value(name, now) {
        const row = await statements.value.get(name)
        return row === undefined || isOver(row, now) ? null : parsed<unknown>(row.body)
      },
      async keepValue(name, value, until) {
        await statements.keepValue.run(name, JSON.stringify(value), until)
      },
      async dropValue(name) {
        await statements.dropValue.run(name)
      },
      async valuesNamed(beginning, now) {
        const rows = await statements.valuesNamed.all(beginning, endOf(beginning))
        return rows
          .filter((row) => !isOver(row, now))
          .map((row) => ({ name: String(row.name), value: parsed<unknown>(row.body) }))
      },
      async forgetValues(now) {
        await statements.forgetValues.run(now)
      },
    }
  },
}

function isOver({ until }: Row, now: number): boolean {
  return until !== null && Number(until) <= now
}
