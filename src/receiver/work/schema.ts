import { type Kysely, type Migration, sql } from 'kysely'

export interface Tables {
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
  /** How many jobs a worker has in each state, kept with each change: those that concern real people. */
  queue_counts: { worker: string; state: string; count: number }
}

export const migrations: Record<string, Migration> = {
  '001-work': {
    async up(db: Kysely<unknown>) {
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
      await db.schema
        .createTable('queue_counts')
        .addColumn('worker', 'text', (column) => column.notNull())
        .addColumn('state', 'text', (column) => column.notNull())
        .addColumn('count', 'bigint', (column) => column.notNull())
        .addPrimaryKeyConstraint('queue_counts_key', ['worker', 'state'])
        .execute()
      // A partial index: open jobs are few.
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
    },
  },
}
