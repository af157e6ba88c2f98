import { type Generated, type Kysely, type Migration, sql } from 'kysely'
import { numberKey } from '../store'

export interface Tables {
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
  /** Keyed hashes of the addresses of those who were erased. */
  erased: { hash: string }
}

export const migrations: Record<string, Migration> = {
  '001-people': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('journal')
        .addColumn('n', numberKey(db), (column) => column.primaryKey())
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
        .addColumn('rank', 'bigint', (column) => column.notNull())
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
        .addColumn('n', numberKey(db), (column) => column.primaryKey())
        .addColumn('key', 'text', (column) => column.notNull())
        .addColumn('at', 'bigint', (column) => column.notNull())
        .addColumn('verdict', 'text', (column) => column.notNull())
        .addColumn('held', 'integer', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('erased')
        .addColumn('hash', 'text', (column) => column.primaryKey())
        .execute()
    },
  },
}
