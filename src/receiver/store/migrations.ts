import { type Kysely, type Migration, sql } from 'kysely'
import { inboxOf } from '#core/email'
import type { Entry } from '#core/journal'
import { siteFrom1, versionFrom1 } from '#core/workspace'
import { markAfter } from '../ledger/journal'
import { newId } from '../random'
import { LATER_TURN } from './engine'
import type { Tables } from './tables'

/**
 * Numbered, and never changed in what they lead to once landed: a data folder of any age is brought up step by step.
 * Tables of the first step may be there already: an older build could be interrupted between them.
 */
export const migrations: Record<string, Migration> = {
  '001-first-tables': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('identity')
        .ifNotExists()
        .addColumn('key', 'text', (column) => column.primaryKey())
        .addColumn('value', 'text', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('journal')
        .ifNotExists()
        .addColumn('n', 'integer', (column) => column.primaryKey())
        .addColumn('body', 'text', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('members')
        .ifNotExists()
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('list', 'text', (column) => column.notNull())
        .addColumn('compared', 'text', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .execute()
      await db.schema
        .createIndex('members_by_address')
        .ifNotExists()
        .on('members')
        .columns(['list', 'compared'])
        .unique()
        .execute()
      await db.schema
        .createTable('commands')
        .ifNotExists()
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('outcome', 'text', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('retries')
        .ifNotExists()
        .addColumn('key', 'text', (column) => column.primaryKey())
        .addColumn('at', 'integer', (column) => column.notNull())
        .addColumn('verdict', 'text', (column) => column.notNull())
        .execute()
      await db.schema.createIndex('retries_by_time').ifNotExists().on('retries').column('at').execute()
      await db.schema
        .createTable('published')
        .ifNotExists()
        .addColumn('kind', 'text', (column) => column.notNull())
        .addColumn('id', 'text', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addPrimaryKeyConstraint('published_key', ['kind', 'id'])
        .execute()
    },
  },
  '002-rich-words-and-looks': {
    async up(db: Kysely<unknown>) {
      const tables = db as Kysely<{ published: { kind: string; id: string; body: string } }>
      for (const [kind, change] of [
        ['site', siteFrom1],
        ['version', versionFrom1],
      ] as const) {
        for (const { id, body } of await tables
          .selectFrom('published')
          .selectAll()
          .where('kind', '=', kind)
          .execute()) {
          await tables
            .updateTable('published')
            .set({ body: JSON.stringify(change(JSON.parse(body))) })
            .where('kind', '=', kind)
            .where('id', '=', id)
            .execute()
        }
      }
    },
  },
  '003-objects-with-revisions': {
    async up(db: Kysely<unknown>) {
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
        .alterTable('journal')
        .addColumn('mark', 'text', (column) => column.notNull().defaultTo(''))
        .execute()
      await db.schema
        .alterTable('commands')
        .addColumn('at', 'integer', (column) => column.notNull().defaultTo(0))
        .execute()
      const tables = db as Kysely<Tables & { published: { kind: string; id: string; body: string } }>
      await objectsFromPublished(tables)
      await markJournal(tables)
      await db.schema.dropTable('published').execute()
    },
  },
  '004-spaces': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('spaces')
        .addColumn('space', 'text', (column) => column.notNull())
        .addColumn('key', 'text', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addPrimaryKeyConstraint('spaces-key', ['space', 'key'])
        .execute()
    },
  },
  '005-mail': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('mails')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('space', 'text', (column) => column.notNull())
        .addColumn('list', 'text', (column) => column.notNull())
        .addColumn('member', 'text', (column) => column.notNull())
        .addColumn('kind', 'text', (column) => column.notNull())
        .addColumn('recipient', 'text', (column) => column.notNull())
        .addColumn('compared', 'text', (column) => column.notNull())
        .addColumn('queued', 'integer', (column) => column.notNull())
        .addColumn('due', 'integer', (column) => column.notNull())
        .addColumn('state', 'text', (column) => column.notNull())
        .addColumn('attempts', 'integer', (column) => column.notNull())
        .addColumn('said', 'text', (column) => column.notNull())
        .addColumn('sent', 'integer', (column) => column.notNull())
        .execute()
      await db.schema.createIndex('mails_by_state').on('mails').columns(['state', 'due']).execute()
      await db.schema.createIndex('mails_by_address').on('mails').columns(['compared', 'queued']).execute()
      await db.schema
        .createTable('waiting')
        .addColumn('member', 'text', (column) => column.primaryKey())
        .addColumn('list', 'text', (column) => column.notNull())
        .addColumn('since', 'integer', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('downloads')
        .addColumn('member', 'text', (column) => column.primaryKey())
        .addColumn('times', 'integer', (column) => column.notNull())
        .execute()
    },
  },
  '006-waiting-members': {
    async up(db: Kysely<unknown>) {
      // Who waits is known of each member; a table of its own cost every sign-up a row, and a refill had none.
      await sql`
        CREATE INDEX members_waiting ON members (list, json_extract(body, '$.joinedAt'))
        WHERE json_extract(body, '$.status') = 'waiting'`.execute(db)
      await db.schema.dropTable('waiting').execute()
    },
  },
  '007-retries-in-order': {
    async up(db: Kysely<unknown>) {
      // Looked up in memory: two indexes over keys without order cost every sign-up two pages.
      await db.schema.dropTable('retries').execute()
      await db.schema
        .createTable('retries')
        .addColumn('n', 'integer', (column) => column.primaryKey())
        .addColumn('key', 'text', (column) => column.notNull())
        .execute()
    },
  },
  '008-bounces': {
    async up(db: Kysely<unknown>) {
      // They are few, and looked for among all that ever happened.
      await sql`
        CREATE INDEX journal_bounces ON journal (n) WHERE json_extract(body, '$.kind') = 'member-bounced'`.execute(db)
    },
  },
  '009-mail-by-inbox-and-turn': {
    async up(db: Kysely<unknown>) {
      for (const [column, type, usual] of [
        ['inbox', 'text', ''],
        ['turn', 'integer', 1],
      ] as const)
        await db.schema
          .alterTable('mails')
          .addColumn(column, type, (added) => added.notNull().defaultTo(usual))
          .execute()
      const tables = db as Kysely<Tables>
      for (const { id, compared } of await tables.selectFrom('mails').select(['id', 'compared']).execute())
        await tables
          .updateTable('mails')
          .set({ inbox: inboxOf(compared) })
          .where('id', '=', id)
          .execute()
      await sql`
        UPDATE mails SET turn = ${sql.lit(LATER_TURN)} WHERE kind IN ('reminder', 'daily-notice', 'notice')`.execute(db)
      await db.schema.dropIndex('mails_by_address').execute()
      await db.schema.createIndex('mails_by_inbox').on('mails').columns(['inbox', 'queued']).execute()
      // What waits is little, and the rest of the table is not in it.
      await sql`CREATE INDEX mails_by_turn ON mails (turn, due) WHERE state = 'waiting'`.execute(db)
    },
  },
  '010-ranks': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .alterTable('members')
        .addColumn('rank', 'integer', (column) => column.notNull().defaultTo(0))
        .execute()
      await sql`
        UPDATE members SET rank = numbered.rank
        FROM (
          SELECT id, row_number() OVER (PARTITION BY list ORDER BY json_extract(body, '$.joinedAt'), rowid) AS rank
          FROM members
        ) AS numbered
        WHERE numbered.id = members.id`.execute(db)
      await sql`CREATE UNIQUE INDEX members_by_rank ON members (list, rank)`.execute(db)
    },
  },
}

type Json = Record<string, unknown>

/** What was published, as objects. A form of that time left its draft with its owner: its newest version stands in. */
async function objectsFromPublished(
  tables: Kysely<Tables & { published: { kind: string; id: string; body: string } }>,
): Promise<void> {
  const rows = await tables.selectFrom('published').selectAll().execute()
  const of = (kind: string) => rows.filter((row) => row.kind === kind).map(({ body }) => JSON.parse(body) as Json)
  const versions = of('version')
  const newestOf = (form: unknown) =>
    versions
      .filter((version) => version.form === form)
      .sort((one, other) => Number(other.number) - Number(one.number))[0]
  const objects: { kind: string; key: unknown; body: Json; deleted?: boolean }[] = [
    ...of('site').map((body) => ({ kind: 'site', key: body.id, body })),
    ...of('list').map((body) => ({ kind: 'list', key: body.id, body })),
    ...of('picture').map(({ bytes: _, ...body }) => ({ kind: 'picture', key: body.id, body })),
    ...of('form').flatMap(({ deletedAt, ...form }) => {
      const newest = newestOf(form.id)
      const body = { ...form, theme: null, isArchived: false, draft: newest?.content }
      return newest === undefined ? [] : [{ kind: 'form', key: form.id, body, deleted: Boolean(deletedAt) }]
    }),
    ...versions.map((body) => ({ kind: 'version', key: `${String(body.form)}/${String(body.number)}`, body })),
    ...of('spot').map((body) => ({ kind: 'spot', key: body.id, body })),
  ]
  for (const [at, { kind, key, body, deleted }] of objects.entries()) {
    await tables
      .insertInto('objects')
      .values({ kind, key: String(key), revision: at + 1, body: JSON.stringify(body), deleted: deleted ? 1 : 0 })
      .execute()
    await tables
      .insertInto('changes')
      .values({ revision: at + 1, mark: newId() })
      .execute()
  }
  for (const picture of of('picture'))
    await tables
      .insertInto('pictures')
      .values({ id: String(picture.id), body: JSON.stringify(picture) })
      .execute()
}

async function markJournal(tables: Kysely<Tables>): Promise<void> {
  let mark = ''
  for (let after = 0; ;) {
    const page = await tables
      .selectFrom('journal')
      .select(['n', 'body'])
      .where('n', '>', after)
      .orderBy('n')
      .limit(1000)
      .execute()
    for (const { n, body } of page) {
      mark = markAfter(mark, { n, ...(JSON.parse(body) as object) } as Entry)
      await tables.updateTable('journal').set({ mark }).where('n', '=', n).execute()
    }
    if (page.length === 0) return
    after = page.at(-1)!.n
  }
}
