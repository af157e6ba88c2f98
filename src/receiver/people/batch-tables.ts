import type { BatchProgress, ErasureReport } from '#core/api'
import type { Batch, BatchCounts, PassedOver } from '#core/journal'
import { type Kysely, type Migration, sql } from 'kysely'
import { bodyOf, bound, parsed, type SubjectTables } from '../store'

interface Tables {
  /** Many people changed as one: see `StoredBatch`. Its chunks are forgotten once it came to its end. */
  batches: { id: string; state: string; body: string }
  batch_chunks: { batch: string; number: number; body: string }
}

/** A batch on its way. People are counted over all its chunks. */
export interface StoredBatch {
  batch: Batch
  /** When it was begun, in milliseconds since 1970. */
  begunAt: number
  /** Id of the key that it came with; missing for the receiver's own. */
  by?: string
  /** How many people it may erase; missing for any number. */
  mostErased?: number
  state: BatchProgress['state']
  total: number
  at: number
  /** How many chunks there are, and which one, from where in it, is next. */
  chunks: number
  chunk: number
  offset: number
  counts: BatchCounts
  passedOver: PassedOver[]
  report: ErasureReport | null
}

export interface BatchQueries {
  batch(id: string): Promise<StoredBatch | null>
  keepBatch(batch: StoredBatch): Promise<void>
  /** Those that are being staged. */
  stagedBatches(): Promise<StoredBatch[]>
  batchChunk(batch: string, number: number): Promise<unknown>
  keepBatchChunk(batch: string, number: number, body: unknown): Promise<void>
  dropBatchChunks(batch: string): Promise<void>
}

const migrations: Record<string, Migration> = {
  '001-batches': {
    async up(db: Kysely<unknown>) {
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
    },
  },
}

export const batchTables: SubjectTables<BatchQueries> = {
  migrations,
  queries({ over, prepare }) {
    const tables = over<Tables>()
    const statements = {
      batch: prepare(tables.selectFrom('batches').select('body').where('id', '=', bound)),
      keepBatch: prepare(
        tables
          .insertInto('batches')
          .values({ id: bound, state: bound, body: bound })
          .onConflict((conflict) =>
            conflict
              .column('id')
              .doUpdateSet((of) => ({ state: of.ref('excluded.state'), body: of.ref('excluded.body') })),
          ),
      ),
      stagedBatches: prepare(tables.selectFrom('batches').select('body').where('state', '=', sql.lit('staging'))),
      batchChunk: prepare(
        tables.selectFrom('batch_chunks').select('body').where('batch', '=', bound).where('number', '=', bound),
      ),
      keepBatchChunk: prepare(
        tables
          .insertInto('batch_chunks')
          .values({ batch: bound, number: bound, body: bound })
          .onConflict((conflict) =>
            conflict.columns(['batch', 'number']).doUpdateSet((of) => ({ body: of.ref('excluded.body') })),
          ),
      ),
      dropBatchChunks: prepare(tables.deleteFrom('batch_chunks').where('batch', '=', bound)),
    }
    return {
      async batch(id) {
        return bodyOf<StoredBatch>(await statements.batch.get(id))
      },
      async keepBatch(stored) {
        await statements.keepBatch.run(stored.batch.id, stored.state, JSON.stringify(stored))
      },
      async stagedBatches() {
        return (await statements.stagedBatches.all()).map((row) => parsed<StoredBatch>(row.body))
      },
      async batchChunk(batch, number) {
        return bodyOf<unknown>(await statements.batchChunk.get(batch, number))
      },
      async keepBatchChunk(batch, number, body) {
        await statements.keepBatchChunk.run(batch, number, JSON.stringify(body))
      },
      async dropBatchChunks(batch) {
        await statements.dropBatchChunks.run(batch)
      },
    }
  },
}
