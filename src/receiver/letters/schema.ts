import type { Kysely, Migration } from 'kysely'

export interface Tables {
  /** See `StoredSending`. */
  sendings: { id: string; state: string; created: number; starts: number; body: string }
  /** How many copies of a sending are in each state, kept with each change; beside them who left and who complained. */
  sending_counts: { sending: string; state: string; count: number }
  /** One row a reader of a sending. An inbox gets one, however many lists it is on; it is kept as a hash alone. */
  letter_copies: {
    sending: string
    inbox: string
    member: string
    list: string
    state: string
    /** When it may go, until it was queued; then when it came to its state. */
    at: number
    /** Which words they got; 0 until then. */
    words: number
    left: number
    complained: number
  }
  /** Words that were mended while they went out, for those who got them before. */
  letter_words: { sending: string; number: number; body: string }
  letter_links: { sending: string; number: number; address: string; presses: number }
  letter_pictures: { picture: string; sending: string }
  /** Where somebody is in a series: see `SeriesReader`. */
  series_readers: {
    series: string
    member: string
    began: number
    zone: string
    days: number
    time: string
    /** When their next letter is due; null for none. */
    due: number | null
    step: string
  }
}

export const migrations: Record<string, Migration> = {
  '002-letters': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('sendings')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('state', 'text', (column) => column.notNull())
        .addColumn('created', 'bigint', (column) => column.notNull())
        .addColumn('starts', 'bigint', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .execute()
      await db.schema.createIndex('sendings_by_state').on('sendings').columns(['state', 'starts']).execute()
      await db.schema.createIndex('sendings_by_time').on('sendings').column('created').execute()
      await db.schema
        .createTable('sending_counts')
        .addColumn('sending', 'text', (column) => column.notNull())
        .addColumn('state', 'text', (column) => column.notNull())
        .addColumn('count', 'bigint', (column) => column.notNull())
        .addPrimaryKeyConstraint('sending_counts_key', ['sending', 'state'])
        .execute()
      await db.schema
        .createTable('letter_copies')
        .addColumn('sending', 'text', (column) => column.notNull())
        .addColumn('inbox', 'text', (column) => column.notNull())
        .addColumn('member', 'text', (column) => column.notNull())
        .addColumn('list', 'text', (column) => column.notNull())
        .addColumn('state', 'text', (column) => column.notNull())
        .addColumn('at', 'bigint', (column) => column.notNull())
        .addColumn('words', 'integer', (column) => column.notNull())
        .addColumn('left', 'integer', (column) => column.notNull())
        .addColumn('complained', 'integer', (column) => column.notNull())
        .addPrimaryKeyConstraint('letter_copies_key', ['sending', 'inbox'])
        .execute()
      await db.schema
        .createIndex('letter_copies_by_member')
        .on('letter_copies')
        .columns(['member', 'sending'])
        .execute()
      await db.schema
        .createIndex('letter_copies_by_state')
        .on('letter_copies')
        .columns(['sending', 'state', 'at'])
        .execute()
      await db.schema
        .createTable('letter_words')
        .addColumn('sending', 'text', (column) => column.notNull())
        .addColumn('number', 'integer', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addPrimaryKeyConstraint('letter_words_key', ['sending', 'number'])
        .execute()
      await db.schema
        .createTable('letter_links')
        .addColumn('sending', 'text', (column) => column.notNull())
        .addColumn('number', 'integer', (column) => column.notNull())
        .addColumn('address', 'text', (column) => column.notNull())
        .addColumn('presses', 'integer', (column) => column.notNull())
        .addPrimaryKeyConstraint('letter_links_key', ['sending', 'number'])
        .execute()
      await db.schema
        .createTable('letter_pictures')
        .addColumn('picture', 'text', (column) => column.notNull())
        .addColumn('sending', 'text', (column) => column.notNull())
        .addPrimaryKeyConstraint('letter_pictures_key', ['picture', 'sending'])
        .execute()
      await db.schema
        .createTable('series_readers')
        .addColumn('series', 'text', (column) => column.notNull())
        .addColumn('member', 'text', (column) => column.notNull())
        .addColumn('began', 'bigint', (column) => column.notNull())
        .addColumn('zone', 'text', (column) => column.notNull())
        .addColumn('days', 'integer', (column) => column.notNull())
        .addColumn('time', 'text', (column) => column.notNull())
        .addColumn('due', 'bigint')
        .addColumn('step', 'text', (column) => column.notNull())
        .addPrimaryKeyConstraint('series_readers_key', ['series', 'member'])
        .execute()
      await db.schema.createIndex('series_readers_due').on('series_readers').column('due').execute()
    },
  },
}
