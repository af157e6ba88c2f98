import { type Kysely, type Migration, Migrator, sql } from 'kysely'
import type { Tables } from './tables'

/**
 * Numbered, and never changed once released: a data folder of any age is brought up step by step. A step calls nothing
 * but Kysely, so that it leads to the same whatever the rest of the code has become since.
 */
export const migrations: Record<string, Migration> = {
  '001-tables': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('single_values')
        .addColumn('name', 'text', (column) => column.primaryKey())
        .addColumn('body', 'text', (column) => column.notNull())
        .addColumn('until', 'bigint')
        .execute()
      await db.schema
        .createTable('journal')
        .addColumn('n', 'integer', (column) => column.primaryKey())
        .addColumn('kind', 'text', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addColumn('personal', 'text')
        .addColumn('mark', 'text', (column) => column.notNull())
        .execute()
      // They are few, and looked for among all that ever happened.
      await db.schema
        .createIndex('journal_bounces')
        .on('journal')
        .column('n')
        .where(sql.ref('kind'), '=', sql.lit('member-bounced'))
        .execute()
      await db.schema
        .createTable('members')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('list', 'text', (column) => column.notNull())
        .addColumn('compared', 'text', (column) => column.notNull())
        .addColumn('status', 'text', (column) => column.notNull())
        .addColumn('joined_at', 'text', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addColumn('rank', 'integer', (column) => column.notNull())
        .execute()
      await db.schema.createIndex('members_by_address').on('members').columns(['list', 'compared']).unique().execute()
      await db.schema.createIndex('members_by_rank').on('members').columns(['list', 'rank']).unique().execute()
      // Who waits is known of each member; a table of its own cost every sign-up a row, and a refill had none.
      await db.schema
        .createIndex('members_waiting')
        .on('members')
        .columns(['list', 'joined_at'])
        .where(sql.ref('status'), '=', sql.lit('waiting'))
        .execute()
      await db.schema
        .createTable('commands')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('outcome', 'text', (column) => column.notNull())
        .addColumn('at', 'bigint', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('first_answers')
        .addColumn('n', 'integer', (column) => column.primaryKey())
        .addColumn('key', 'text', (column) => column.notNull())
        .addColumn('at', 'bigint', (column) => column.notNull())
        .addColumn('verdict', 'text', (column) => column.notNull())
        .addColumn('held', 'integer', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('objects')
        .addColumn('kind', 'text', (column) => column.notNull())
        .addColumn('key', 'text', (column) => column.notNull())
        .addColumn('revision', 'integer', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addColumn('deleted', 'integer', (column) => column.notNull())
        .addPrimaryKeyConstraint('objects_key', ['kind', 'key'])
        .execute()
      await db.schema.createIndex('objects_by_revision').on('objects').column('revision').unique().execute()
      await db.schema
        .createTable('changes')
        .addColumn('revision', 'integer', (column) => column.primaryKey())
        .addColumn('mark', 'text', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('pictures')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('body', 'text', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('spaces')
        .addColumn('space', 'text', (column) => column.notNull())
        .addColumn('key', 'text', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addPrimaryKeyConstraint('spaces_key', ['space', 'key'])
        .execute()
      await db.schema
        .createTable('queue')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('worker', 'text', (column) => column.notNull())
        .addColumn('space', 'text', (column) => column.notNull())
        .addColumn('priority', 'integer', (column) => column.notNull())
        .addColumn('order_key', 'text', (column) => column.notNull())
        .addColumn('limit_key', 'text', (column) => column.notNull())
        .addColumn('queued', 'bigint', (column) => column.notNull())
        .addColumn('due', 'bigint', (column) => column.notNull())
        .addColumn('holder', 'text', (column) => column.notNull())
        .addColumn('held_until', 'bigint', (column) => column.notNull())
        .addColumn('state', 'text', (column) => column.notNull())
        .addColumn('attempts', 'integer', (column) => column.notNull())
        .addColumn('said', 'text', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .execute()
      await db.schema.createIndex('queue_by_state').on('queue').columns(['state', 'due']).execute()
      await db.schema.createIndex('queue_by_limit').on('queue').columns(['limit_key', 'queued']).execute()
      await db.schema
        .createIndex('queue_by_order')
        .on('queue')
        .columns(['order_key', 'queued'])
        .where(sql.ref('order_key'), '<>', sql.lit(''))
        .execute()
      // What waits is little, and the rest of the table is not in it.
      await db.schema
        .createIndex('queue_open')
        .on('queue')
        .columns(['worker', 'priority', 'due'])
        .where(sql.ref('state'), '=', sql.lit('open'))
        .execute()
      await db.schema
        .createIndex('queue_held')
        .on('queue')
        .columns(['worker', 'held_until'])
        .where(sql.ref('held_until'), '>', sql.lit(0))
        .execute()
      await db.schema
        .createTable('downloads')
        .addColumn('member', 'text', (column) => column.primaryKey())
        .addColumn('times', 'integer', (column) => column.notNull())
        .execute()
    },
  },
  '002-batches': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .alterTable('downloads')
        .addColumn('last', 'bigint', (column) => column.notNull().defaultTo(0))
        .execute()
      await db.schema
        .createTable('batches')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('state', 'text', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('batch_chunks')
        .addColumn('batch', 'text', (column) => column.notNull())
        .addColumn('number', 'integer', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addPrimaryKeyConstraint('batch_chunks_key', ['batch', 'number'])
        .execute()
      await db.schema
        .createTable('erased')
        .addColumn('hash', 'text', (column) => column.primaryKey())
        .execute()
    },
  },
  '003-hand-over': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('handed')
        .addColumn('hand_over', 'text', (column) => column.notNull())
        .addColumn('member', 'text', (column) => column.notNull())
        .addColumn('state', 'text', (column) => column.notNull())
        .addColumn('at', 'bigint', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addPrimaryKeyConstraint('handed_key', ['member', 'hand_over'])
        .execute()
      await db.schema.createIndex('handed_by_state').on('handed').columns(['hand_over', 'state', 'at']).execute()
    },
  },
  '004-results': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('seen')
        .addColumn('day', 'text', (column) => column.notNull())
        .addColumn('spot', 'text', (column) => column.notNull())
        .addColumn('version', 'integer', (column) => column.notNull())
        .addColumn('source', 'text', (column) => column.notNull())
        .addColumn('device', 'text', (column) => column.notNull())
        .addColumn('views', 'integer', (column) => column.notNull())
        .addColumn('starts', 'integer', (column) => column.notNull())
        .addColumn('set_aside', 'integer', (column) => column.notNull())
        .addPrimaryKeyConstraint('seen_key', ['day', 'spot', 'version', 'source', 'device'])
        .execute()
      await db.schema
        .createTable('seen_hours')
        .addColumn('day', 'text', (column) => column.notNull())
        .addColumn('hour', 'integer', (column) => column.notNull())
        .addColumn('spot', 'text', (column) => column.notNull())
        .addColumn('views', 'integer', (column) => column.notNull())
        .addPrimaryKeyConstraint('seen_hours_key', ['day', 'hour', 'spot'])
        .execute()
      await db.schema
        .createTable('beacons')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('at', 'bigint', (column) => column.notNull())
        .execute()
      await db.schema.createIndex('beacons_by_time').on('beacons').column('at').execute()
    },
  },
}

/** Takes all the steps that are missing. */
export async function bringUp(kysely: Kysely<Tables>): Promise<void> {
  const { error } = await new Migrator({
    db: kysely,
    provider: { getMigrations: async () => migrations },
    // Their names begin with numbers; the usual comparison loads a language's rules, a twentieth of a start.
    nameComparator: (one, other) => (one < other ? -1 : 1),
  }).migrateToLatest()
  if (error instanceof Error && /previously executed migration .* is missing/.test(error.message))
    throw new Error(
      'it was made by another build of Ask Box, from before the first release or newer. Move it away and start anew: the workshop then fills the new receiver',
      { cause: error },
    )
  if (error !== undefined) throw error
}
