import { abilitiesOf } from '#core/connection'
import { complain } from './log'
import { type Handing, withHandOvers } from './hand-over'
import { PublishedIndex } from './objects'
import type { StoredObject } from './objects/tables'
import type { Sealing } from './secrets'
import type { Engine, Transaction } from './subjects'

/** @param about see `Engine.run` */
export type Run = <T>(work: (transaction: Transaction) => Promise<T>, about?: unknown) => Promise<T>

/** The store as subjects write to it: what follows of a piece of work is written with it, and told after its commit. */
export interface Writing {
  engine: Engine
  /** Milliseconds since 1970; `sureNow` is what waiting ends by, see `Clock`. */
  now(): number
  sureNow(): number
  /** What visitors can meet, in memory as of the last commit. */
  published: PublishedIndex
  /** Runs work that may append entries; queues the hand-overs that follow. */
  run: Run
  /** The same for entries from a file or another receiver, which were handed over before. */
  runAsIs: Run
  /** The same for objects, which are taken into memory after the commit, so that visitors meet committed ones. */
  runWithObjects<T>(work: (transaction: Transaction, taken: (object: StoredObject) => void) => Promise<T>): Promise<T>
  /** Has somebody told of every commit: how many pieces of work shared it. */
  measureCommits(measure: (writes: number) => void): void
  /** Calls `listener` after every commit that brought news, until the returned function is called. */
  onNews(listener: () => void): () => void
  /** The same whenever mail may have been queued, to made-up people too. */
  onMail(listener: () => void): () => void
  /** Mail to made-up people may have been queued. */
  tellMail(): void
}

/** Clocks of the receiver; see `Clock`. */
export interface Times {
  now(): number
  sureNow(): number
}

/** @param sealing how what is secret is kept */
export async function openWriting(engine: Engine, { now, sureNow }: Times, sealing: Sealing): Promise<Writing> {
  const published = new PublishedIndex()
  await catchUp(engine, published)
  const listeners = new Set<() => void>()
  const mailListeners = new Set<() => void>()
  const tell = (those: Set<() => void>) => {
    for (const listener of those) listener()
  }
  let isNews = false
  let measure = (_writes: number) => {}
  engine.onCommit((writes) => {
    measure(writes)
    if (!isNews) return
    isNews = false
    tell(listeners)
  })
  engine.onCommitElsewhere(() => void catchUp(engine, published).then(() => tell(listeners), complain))

  const runAsIs: Run = (work, about) =>
    engine.run((transaction) => {
      isNews = true
      return work(transaction)
    }, about)
  const handing: Handing = {
    handOversOf: (list) => published.handOversOf(list),
    isTold: ({ connection }) => {
      const way = published.connection(connection)?.way
      return way !== undefined && abilitiesOf(way).isToldOfAll
    },
    sealing,
    now,
  }
  return {
    ...{ engine, now, sureNow, published, runAsIs },
    measureCommits: (measured) => void (measure = measured),
    run: (work, about) =>
      runAsIs(
        (transaction) =>
          published.handOvers().length === 0 ? work(transaction) : withHandOvers(transaction, handing, work),
        about,
      ),
    async runWithObjects(work) {
      let objects: StoredObject[] = []
      const result = await runAsIs((transaction) => {
        objects = []
        return work(transaction, (object) => objects.push(object))
      })
      for (const object of objects) published.take(object)
      return result
    },
    onNews: (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    onMail(listener) {
      listeners.add(listener)
      mailListeners.add(listener)
      return () => {
        listeners.delete(listener)
        mailListeners.delete(listener)
      }
    },
    tellMail: () => tell(mailListeners),
  }
}

/** Takes in what the store has of objects after the newest that is in memory. */
async function catchUp(engine: Engine, index: PublishedIndex): Promise<void> {
  for (;;) {
    const page = await engine.now.objectsAfter(index.revision, 500)
    for (const object of page) index.take(object)
    if (page.length === 0) return
  }
}
