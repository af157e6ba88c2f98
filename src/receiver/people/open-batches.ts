import type { BatchProgress } from '#core/api'
import type { Batch, Chunk } from '#core/journal'
import type { Bearer } from '../http/bearer'
import type { LinkKeys } from '../secrets'
import type { Writing } from '../writing'
import {
  addChunk,
  applyBatch,
  applyStep,
  type BatchResult,
  beginBatch,
  ChunkInHand,
  dropForgottenBatches,
  progressOf,
  stopBatch,
} from './batches'
import { eraseBatch } from './erase'

/** Many people of a list changed as one: staged in chunks, applied whole, going on after a crash. See `batches.ts`. */
export interface Batches {
  /** @param bearer whose key it came with; missing for the receiver's own */
  begin(batch: Batch, bearer?: Pick<Bearer, 'id' | 'right'>): Promise<BatchResult>
  addChunk(id: string, number: number, chunk: Chunk): Promise<BatchResult>
  apply(id: string): Promise<BatchResult>
  /** Applied changes stay. */
  stop(id: string): Promise<BatchResult>
  progress(id: string): Promise<BatchProgress | null>
  /** Places of the compared addresses that are of people who were erased. */
  erasedAmong(addresses: readonly string[]): Promise<number[]>
  /** Applies the next few people of a batch; null at its end. */
  step(id: string, most: number): Promise<BatchProgress | null>
  /** Forgets those whose workshop never sent all of them. */
  dropForgotten(): Promise<void>
}

/** @param linkKeys what hashes of erased addresses are keyed with */
export function openBatches(
  { engine, run, now, sureNow, published }: Writing,
  linkKeys: () => Promise<LinkKeys>,
): Batches {
  const chunkInHand = new ChunkInHand()
  return {
    begin: (batch, bearer) => run((transaction) => beginBatch(transaction, batch, now(), bearer)),
    addChunk: (id, number, chunk) => engine.run((transaction) => addChunk(transaction, id, number, chunk)),
    apply: (id) => run((transaction) => applyBatch(transaction, id, now())),
    stop: (id) => run((transaction) => stopBatch(transaction, id, now())),
    async progress(id) {
      const stored = await engine.now.batch(id)
      return stored === null ? null : progressOf(stored)
    },
    async erasedAmong(addresses) {
      const keys = await linkKeys()
      const places: number[] = []
      for (const [place, compared] of addresses.entries())
        for (const hash of keys.erasedHashes(compared)) if (await engine.now.isErased(hash)) places.push(place)
      return [...new Set(places)]
    },
    async step(id, most) {
      const keys = await linkKeys()
      const stored = await engine.now.batch(id)
      if (stored === null) return null
      const sendsMail = published.mail(stored.batch.list) !== null
      if (stored.batch.purpose.kind !== 'erase')
        return run((transaction) => applyStep(transaction, chunkInHand, { id, most, now: now(), keys, sendsMail }))
      await eraseBatch({ engine, run, id, now, keys })
      return null
    },
    dropForgotten: () => run((transaction) => dropForgottenBatches(transaction, sureNow())),
  }
}
