import type { MemberId } from '#core/ids'
import { type Kysely, type Migration, sql } from 'kysely'
import { bound, type SubjectTables } from '../store'

interface Tables {
  /** How often somebody's gift was fetched. */
  downloads: { member: string; times: number; last: number }
}

export interface GiftQueries {
  /** How often somebody's gift was fetched, and when last, in milliseconds since 1970; 0 for never. */
  downloadsOf(member: MemberId): Promise<{ times: number; last: number }>
  countDownload(member: MemberId, at: number): Promise<void>
  dropDownloads(member: MemberId): Promise<void>
}

const migrations: Record<string, Migration> = {
  '001-gifts': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('downloads')
        .addColumn('member', 'text', (column) => column.primaryKey())
        .addColumn('times', 'integer', (column) => column.notNull())
        .addColumn('last', 'bigint', (column) => column.notNull())
        .execute()
    },
  },
}

export const giftTables: SubjectTables<GiftQueries> = {
  migrations,
  queries({ over, prepare }) {
    const tables = over<Tables>()
    const statements = {
      downloadsOf: prepare(tables.selectFrom('downloads').select(['times', 'last']).where('member', '=', bound)),
      countDownload: prepare(
        tables
          .insertInto('downloads')
          .values({ member: bound, times: sql.lit(1), last: bound })
          .onConflict((conflict) =>
            conflict
              .column('member')
              .doUpdateSet((of) => ({ times: sql`downloads.times + 1`, last: of.ref('excluded.last') })),
          ),
      ),
      dropDownloads: prepare(tables.deleteFrom('downloads').where('member', '=', bound)),
    }
    return {
      async downloadsOf(member) {
        const row = await statements.downloadsOf.get(member)
        return { times: Number(row?.times ?? 0), last: Number(row?.last ?? 0) }
      },
      async countDownload(member, at) {
        await statements.countDownload.run(member, at)
      },
      async dropDownloads(member) {
        await statements.dropDownloads.run(member)
      },
    }
  },
}
