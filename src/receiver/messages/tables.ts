import type { ArrivalId, FormId } from '#core/ids'
import { type Kysely, type Migration, sql } from 'kysely'
import { bound, type Row, type SubjectTables } from '../store'

interface Tables {
  /** Of each message that is kept, where its entry is. `alike` tells one text from others. */
  messages: { id: string; n: number; form: string; at: number; held: number; alike: string }
}

/** A message that is kept, without what it says. */
export interface KeptMessage {
  id: ArrivalId
  /** The number of its entry. */
  n: number
  form: FormId
  /** Milliseconds since 1970. */
  at: number
  isHeld: boolean
}

/** What a new message needs. */
export interface MessageIntake {
  /** @param alike what its text is known again by */
  keepMessage(message: KeptMessage, alike: string): Promise<void>
  /** How many of one text came since a time, in milliseconds since 1970. */
  countAlike(alike: string, since: number): Promise<number>
}

export interface MessageQueries extends MessageIntake {
  message(id: string): Promise<KeptMessage | null>
  /** Those of a form from before a time, in milliseconds since 1970, oldest first. */
  messagesBefore(form: string, at: number, limit: number): Promise<KeptMessage[]>
  /** Forms that have messages. */
  formsWithMessages(): Promise<FormId[]>
  releaseMessage(id: string): Promise<void>
  dropMessage(id: string): Promise<void>
}

const migrations: Record<string, Migration> = {
  '003-messages': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('messages')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('n', 'bigint', (column) => column.notNull())
        .addColumn('form', 'text', (column) => column.notNull())
        .addColumn('at', 'bigint', (column) => column.notNull())
        .addColumn('held', 'integer', (column) => column.notNull())
        .addColumn('alike', 'text', (column) => column.notNull())
        .execute()
      await db.schema.createIndex('messages_by_form').on('messages').columns(['form', 'at']).execute()
      await db.schema.createIndex('messages_alike').on('messages').columns(['alike', 'at']).execute()
    },
  },
}

const messageOf = (row: Row): KeptMessage => ({
  id: row.id as ArrivalId,
  n: Number(row.n),
  form: row.form as FormId,
  at: Number(row.at),
  isHeld: Number(row.held) === 1,
})

export const messageTables: SubjectTables<MessageQueries> = {
  migrations,
  queries({ over, prepare }) {
    const tables = over<Tables>()
    const kept = tables.selectFrom('messages').select(['id', 'n', 'form', 'at', 'held'])
    const statements = {
      keepMessage: prepare(
        tables
          .insertInto('messages')
          .values({ id: bound, n: bound, form: bound, at: bound, held: bound, alike: bound })
          .onConflict((conflict) => conflict.column('id').doNothing()),
      ),
      countAlike: prepare(
        tables
          .selectFrom('messages')
          .select((of) => of.fn.countAll().as('count'))
          .where('alike', '=', bound)
          .where('at', '>=', bound),
      ),
      message: prepare(kept.where('id', '=', bound)),
      messagesBefore: prepare(kept.where('form', '=', bound).where('at', '<', bound).orderBy('at').limit(bound)),
      formsWithMessages: prepare(tables.selectFrom('messages').select('form').distinct()),
      releaseMessage: prepare(
        tables
          .updateTable('messages')
          .set({ held: sql.lit(0) })
          .where('id', '=', bound),
      ),
      dropMessage: prepare(tables.deleteFrom('messages').where('id', '=', bound)),
    }
    return {
      async keepMessage({ id, n, form, at, isHeld }, alike) {
        await statements.keepMessage.run(id, n, form, at, isHeld ? 1 : 0, alike)
      },
      async countAlike(alike, since) {
        return Number((await statements.countAlike.get(alike, since))?.count ?? 0)
      },
      async message(id) {
        const row = await statements.message.get(id)
        return row === undefined ? null : messageOf(row)
      },
      async messagesBefore(form, at, limit) {
        return (await statements.messagesBefore.all(form, at, limit)).map(messageOf)
      },
      async formsWithMessages() {
        return (await statements.formsWithMessages.all()).map((row) => row.form as FormId)
      },
      async releaseMessage(id) {
        await statements.releaseMessage.run(id)
      },
      async dropMessage(id) {
        await statements.dropMessage.run(id)
      },
    }
  },
}
