import type { Kysely, Migration } from 'kysely'
import { siteFrom1, versionFrom1 } from '#core/workspace'
import type { Tables } from './tables'

/** Numbered, and never changed once landed: a data folder of any age is brought up step by step. */
export const migrations: Record<string, Migration> = {
  '001-first-tables': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('identity')
        .addColumn('key', 'text', (column) => column.primaryKey())
        .addColumn('value', 'text', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('journal')
        .addColumn('n', 'integer', (column) => column.primaryKey())
        .addColumn('body', 'text', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('members')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('list', 'text', (column) => column.notNull())
        .addColumn('compared', 'text', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .execute()
      await db.schema.createIndex('members_by_address').on('members').columns(['list', 'compared']).unique().execute()
      await db.schema
        .createTable('commands')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('outcome', 'text', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('retries')
        .addColumn('key', 'text', (column) => column.primaryKey())
        .addColumn('at', 'integer', (column) => column.notNull())
        .addColumn('verdict', 'text', (column) => column.notNull())
        .execute()
      await db.schema.createIndex('retries_by_time').on('retries').column('at').execute()
      await db.schema
        .createTable('published')
        .addColumn('kind', 'text', (column) => column.notNull())
        .addColumn('id', 'text', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addPrimaryKeyConstraint('published_key', ['kind', 'id'])
        .execute()
    },
  },
  '002-rich-words-and-looks': {
    async up(db: Kysely<unknown>) {
      const tables = db as Kysely<Tables>
      for (const [kind, change] of [['site', siteFrom1], ['version', versionFrom1]] as const) {
        for (const { id, body } of await tables.selectFrom('published').selectAll().where('kind', '=', kind).execute()) {
          await tables.updateTable('published').set({ body: JSON.stringify(change(JSON.parse(body))) }).where('kind', '=', kind).where('id', '=', id).execute()
        }
      }
    },
  },
}
