import type { MemberId } from '#core/ids'
import { type Kysely, sql } from 'kysely'
import { bound, type Step, type SubjectTables } from '../store'

interface Tables {
  /** How often somebody's gift was fetched. */
  downloads: { member: string; times: number; last: number }
  /** Files whose bytes are here, whole; `upload` names their pieces. */
  gift_files: { id: string; size: number; upload: string }
  /** In base64. Those of an upload that broke off are taken away. */
  gift_pieces: { upload: string; number: number; body: string; at: number }
}

export interface GiftQueries {
  /** How often somebody's gift was fetched, and when last, in milliseconds since 1970; 0 for never. */
  downloadsOf(member: MemberId): Promise<{ times: number; last: number }>
  countDownload(member: MemberId, at: number): Promise<void>
  dropDownloads(member: MemberId): Promise<void>
  giftFile(id: string): Promise<{ size: number; upload: string } | null>
  giftFiles(): Promise<string[]>
  keepGiftFile(id: string, size: number, upload: string): Promise<void>
  giftPiece(upload: string, number: number): Promise<Buffer | null>
  keepGiftPiece(upload: string, number: number, bytes: Buffer, at: number): Promise<void>
  dropGiftPieces(upload: string): Promise<void>
  /** Takes away what is left of uploads that broke off, begun before a time in milliseconds since 1970. */
  dropUnfinishedGifts(before: number): Promise<void>
}

const migrations: Record<string, Step> = {
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
  '004-gift-files': {
    isCompatible: true,
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('gift_files')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('size', 'bigint', (column) => column.notNull())
        .addColumn('upload', 'text', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('gift_pieces')
        .addColumn('upload', 'text', (column) => column.notNull())
        .addColumn('number', 'integer', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addColumn('at', 'bigint', (column) => column.notNull())
        .addPrimaryKeyConstraint('gift_pieces_key', ['upload', 'number'])
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
      giftFile: prepare(tables.selectFrom('gift_files').select(['size', 'upload']).where('id', '=', bound)),
      giftFiles: prepare(tables.selectFrom('gift_files').select('id').orderBy('id')),
      keepGiftFile: prepare(tables.insertInto('gift_files').values({ id: bound, size: bound, upload: bound })),
      giftPiece: prepare(
        tables.selectFrom('gift_pieces').select('body').where('upload', '=', bound).where('number', '=', bound),
      ),
      keepGiftPiece: prepare(
        tables.insertInto('gift_pieces').values({ upload: bound, number: bound, body: bound, at: bound }),
      ),
      dropGiftPieces: prepare(tables.deleteFrom('gift_pieces').where('upload', '=', bound)),
      dropUnfinishedGifts: prepare(
        tables
          .deleteFrom('gift_pieces')
          .where('at', '<', bound)
          .where('upload', 'not in', tables.selectFrom('gift_files').select('upload')),
      ),
    }
    return {
      async downloadsOf(member) {
        const row = await statements.downloadsOf.get(member)
        return { times: Number(row?.times ?? 0), last: Number(row?.last ?? 0) }
      },
      async countDownload(member, at) {
        await statements.countDownload.run(member, at)
      },
      async giftFile(id) {
        const row = await statements.giftFile.get(id)
        return row === undefined ? null : { size: Number(row.size), upload: String(row.upload) }
      },
      giftFiles: async () => (await statements.giftFiles.all()).map(({ id }) => String(id)),
      async keepGiftFile(id, size, upload) {
        await statements.keepGiftFile.run(id, size, upload)
      },
      async giftPiece(upload, number) {
        const row = await statements.giftPiece.get(upload, number)
        return row === undefined ? null : Buffer.from(String(row.body), 'base64')
      },
      async keepGiftPiece(upload, number, bytes, at) {
        await statements.keepGiftPiece.run(upload, number, bytes.toString('base64'), at)
      },
      async dropGiftPieces(upload) {
        await statements.dropGiftPieces.run(upload)
      },
      async dropUnfinishedGifts(before) {
        await statements.dropUnfinishedGifts.run(before)
      },
      async dropDownloads(member) {
        await statements.dropDownloads.run(member)
      },
    }
  },
}
