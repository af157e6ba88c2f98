import { type Kysely, type Migration } from 'kysely'
import { bodyOf, bound, endOf, parsed, type SubjectTables } from '../store'

interface Tables {
  /** Made-up people of rehearsals that are going on, each rehearsal a space of its own. */
  spaces: { space: string; key: string; body: string }
}

export interface SpaceQueries {
  /** Parts of a space that stands apart from the journal, by key; see `ledger/space.ts`. */
  partOfSpace(space: string, key: string): Promise<unknown>
  keepPartOfSpace(space: string, key: string, value: unknown): Promise<void>
  /** Those whose keys begin so, in the order of their keys. */
  partsOfSpace(space: string, beginning: string): Promise<unknown[]>
  dropSpace(space: string): Promise<void>
}

const migrations: Record<string, Migration> = {
  '001-rehearsals': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('spaces')
        .addColumn('space', 'text', (column) => column.notNull())
        .addColumn('key', 'text', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addPrimaryKeyConstraint('spaces_key', ['space', 'key'])
        .execute()
    },
  },
}

export const spaceTables: SubjectTables<SpaceQueries> = {
  migrations,
  queries({ over, prepare }) {
    const tables = over<Tables>()
    const statements = {
      partOfSpace: prepare(
        tables.selectFrom('spaces').select('body').where('space', '=', bound).where('key', '=', bound),
      ),
      keepPartOfSpace: prepare(
        tables
          .insertInto('spaces')
          .values({ space: bound, key: bound, body: bound })
          .onConflict((conflict) =>
            conflict.columns(['space', 'key']).doUpdateSet((of) => ({ body: of.ref('excluded.body') })),
          ),
      ),
      partsOfSpace: prepare(
        tables
          .selectFrom('spaces')
          .select('body')
          .where('space', '=', bound)
          .where('key', '>=', bound)
          .where('key', '<', bound)
          .orderBy('key'),
      ),
      dropSpace: prepare(tables.deleteFrom('spaces').where('space', '=', bound)),
    }
    return {
      async partOfSpace(space, key) {
        return bodyOf<unknown>(await statements.partOfSpace.get(space, key))
      },
      async keepPartOfSpace(space, key, value) {
        await statements.keepPartOfSpace.run(space, key, JSON.stringify(value))
      },
      async partsOfSpace(space, beginning) {
        const rows = await statements.partsOfSpace.all(space, beginning, endOf(beginning))
        return rows.map((row) => parsed<unknown>(row.body))
      },
      async dropSpace(space) {
        await statements.dropSpace.run(space)
      },
    }
  },
}
