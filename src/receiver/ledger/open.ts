import type { ChangeOutcome } from '#core/api'
import { createHash, randomBytes } from 'node:crypto'
import type { JournalId, ListId } from '#core/ids'
import type { Member } from '#core/list'
import type { Preferences } from '#core/sync'
import { changesOf } from '#core/workspace'
import { hasPassed } from '../clock'
import { complain } from '../complaints'
import { calm } from '../limits'
import { newId } from '../random'
import { openQueue } from '../queue'
import { type Sealing, sealingWith } from '../sealing'
import type { Engine, StoredObject, Transaction } from '../store'
import {
  addChunk,
  applyBatch,
  applyStep,
  beginBatch,
  ChunkInHand,
  dropForgottenBatches,
  progressOf,
  stopBatch,
} from './batches'
import { checkStretch } from './check'
import { eraseBatch } from './erase'
import { JournalWriter } from './journal'
import {
  beginHandOver,
  countsOf,
  finishJob,
  forgetHandOvers,
  handAgain,
  type Handing,
  spreadJob,
  withHandOvers,
} from './handing'
import { eraseKeptLongEnough } from './keeping'
import { LEAST_ROOM_BYTES, type Ledger } from './ledger'
import { keptOf, takeChange } from './objects'
import { PublishedIndex } from './published'
import { RefillProblem, Refilling } from './refill'
import { countSignUp, openResults } from './results'
import { openSpace } from './space'
import { openValues } from './values'
import type { MailBody } from './mail-job'
import { commandsToPutBack, wronglyBounced } from './wrongly-bounced'

const HEALTH_HOLDS_MS = 2_000
const DAY_MS = 86_400_000
/** Where a list’s mail was taken away while somebody waited. */
const USUAL_WAITING_DAYS = 7

/** Undoes a transaction in which one of several changes was not taken. */
class NotTogether extends Error {
  constructor(readonly outcomes: ChangeOutcome[]) {
    super('One of the changes was not taken.')
  }
}

/**
 * The ledger over any engine.
 *
 * @param now the clock, in milliseconds since 1970
 * @param sureNow what waiting ends by; see `Clock`
 * @param sealing how what is secret is kept; without it, until the process ends
 */
export async function openLedger(
  engine: Engine,
  now: () => number,
  sureNow = now,
  sealing: Sealing = sealingWith(newId<string>),
): Promise<Ledger> {
  await engine.run(async (transaction) => {
    if ((await transaction.identity()) === null) await transaction.keepIdentity(newId<JournalId>())
  })
  const listeners = new Set<() => void>()
  const mailListeners = new Set<() => void>()
  const published = await indexOf(engine)
  const mailOf = (list: ListId) => published.mail(list)
  const journal = new JournalWriter(mailOf)
  const refilling = new Refilling(now)
  const chunkInHand = new ChunkInHand()
  let isNews = false
  let health: { at: number; problem: unknown } = { at: 0, problem: null }

  const tellNews = () => {
    for (const listener of listeners) listener()
  }
  engine.onCommit(() => {
    if (!isNews) return
    isNews = false
    tellNews()
  })
  engine.onCommitElsewhere(() => void catchUp(engine, published).then(tellNews, complain))
  /** As it is: what comes from a file or another receiver was handed over before. */
  const runAsIs = <T>(work: (transaction: Transaction) => Promise<T>) =>
    engine.run((transaction) => {
      isNews = true
      return work(transaction)
    })
  const handing: Handing = {
    handOversOf: (list) => published.handOversOf(list),
    isTold: ({ connection }) => published.connection(connection)?.way.kind === 'webhook',
    sealing,
    now,
  }
  const run = <T>(work: (transaction: Transaction) => Promise<T>) =>
    runAsIs((transaction) =>
      published.handOvers().length === 0 ? work(transaction) : withHandOvers(transaction, handing, work),
    )
  /** What visitors meet is what is committed: objects are taken into memory after that. */
  const runWithObjects = async <T>(
    work: (transaction: Transaction, taken: (object: StoredObject) => void) => Promise<T>,
  ): Promise<T> => {
    let objects: StoredObject[] = []
    const result = await runAsIs((transaction) => {
      objects = []
      return work(transaction, (object) => objects.push(object))
    })
    for (const object of objects) published.take(object)
    return result
  }

  let wronglyAt = { n: -1, members: [] as Member[] }
  /** Looked for again when something happened meanwhile. */
  async function wrongly(): Promise<Member[]> {
    const { n } = await engine.now.newestEntry()
    if (wronglyAt.n !== n)
      wronglyAt = { n, members: await wronglyBounced(await engine.now.bounces(), (id) => engine.now.member(id)) }
    return wronglyAt.members
  }

  /** To what they were before the mark; who had yet to confirm is asked again. */
  async function putBack(marked: readonly Member[]): Promise<number> {
    const commands = await commandsToPutBack(
      marked,
      async (after, limit) => (await engine.now.entriesAfter(after, limit)).map(({ entry }) => entry),
      newId,
    )
    let count = 0
    for (const command of commands) {
      const isBack = await run(async (transaction) => {
        const { ok } = await journal.carryOut(transaction, command, now())
        if (ok && command.kind === 'restore-member' && command.status === 'waiting')
          await journal.sendAgain(transaction, command.member, now())
        return ok
      })
      if (isBack) count += 1
    }
    return count
  }

  /** Made when it is needed first. */
  const linkKey = async () =>
    published.preferences()?.linkKey ??
    runWithObjects(async (transaction, taken) => {
      const stored = await transaction.object('preferences', 'workshop')
      const before = stored === null || stored.isDeleted ? { videoHosts: [] } : (stored.body as Preferences)
      if (before.linkKey !== undefined) return before.linkKey
      const made = randomBytes(32).toString('base64url')
      const body: Preferences = { ...before, linkKey: made }
      const base = stored?.revision ?? 0
      await takeChange(transaction, { kind: 'preferences', key: 'workshop', base, body }, taken)
      return made
    })

  const isSame = (mark: string | null, at: number, here: string | null) =>
    mark === null || (at === 0 ? mark === '' : mark === here)

  return {
    journalId: async () => (await engine.now.identity())!,
    signUp: (signUp, retryKey, cause = calm, view = null) =>
      run((transaction) => {
        const at = now()
        const countView = view === null ? undefined : () => countSignUp(transaction, view, at)
        return journal.signUp(transaction, signUp, retryKey, { now: at, cause, countView })
      }),
    space: (name) =>
      openSpace(engine, name, now, mailOf, () => {
        for (const listener of mailListeners) listener()
      }),
    member: (id) => engine.now.member(id),
    confirm: (id, since) => run((transaction) => journal.confirm(transaction, id, since, now(), sureNow())),
    leave: (id, by) => run((transaction) => journal.leave(transaction, id, by, now())),
    comeBack: (id) => run((transaction) => journal.comeBack(transaction, id, now())),
    sendAgain: (id, isExtra) => run((transaction) => journal.sendAgain(transaction, id, now(), isExtra)),
    expire: (id) => run((transaction) => journal.expire(transaction, id, now())),
    bounce: (id, reason) => run((transaction) => journal.bounce(transaction, id, reason, now())),
    countWronglyBounced: async () => (await wrongly()).length,
    putBackWronglyBounced: async () => putBack(await wrongly()),
    async putBackBounced(ids) {
      const members = await Promise.all(ids.map((id) => engine.now.member(id)))
      return putBack(members.filter((member) => member?.status === 'bounced') as Member[])
    },
    async expireWaiting() {
      let expired = 0
      for (const list of await engine.now.listsWithWaiting()) {
        const days = mailOf(list)?.waitingDays ?? USUAL_WAITING_DAYS
        for (const id of await engine.now.waitingSince(list, sureNow() - days * DAY_MS)) {
          if (await run((transaction) => journal.expire(transaction, id, now()))) expired += 1
        }
      }
      return expired
    },
    eraseKeptLongEnough: () => eraseKeptLongEnough(engine.now, run, sureNow()),
    downloadsOf: async (id) => (await engine.now.downloadsOf(id)).times,
    lastDownload: async (id) => (await engine.now.downloadsOf(id)).last,
    takeDownload: (id, most) =>
      engine.run(async (transaction) => {
        if (most !== null && (await transaction.downloadsOf(id)).times >= most) return false
        await transaction.countDownload(id, now())
        return true
      }),
    // A made-up member would be the next.
    isAmongFirst: async ({ id, list }, many) =>
      ((await engine.now.rankOf(id)) ?? (await engine.now.highestRank(list)) + 1) <= many,
    joinedOn: (list, day) => engine.now.membersJoinedOn(list, day),
    queue: openQueue(engine, run, now, async (transaction, { space, body }, said) => {
      const { member, kind } = body as MailBody
      if (space === '' && member !== '' && kind !== 'notice') await journal.bounce(transaction, member, said, now())
    }),
    values: openValues(engine, now),
    results: openResults(engine),
    linkKey,
    batches: {
      begin: (batch) => run((transaction) => beginBatch(transaction, batch, now())),
      addChunk: (id, number, chunk) => engine.run((transaction) => addChunk(transaction, id, number, chunk)),
      apply: (id) => run((transaction) => applyBatch(transaction, id, now())),
      stop: (id) => run((transaction) => stopBatch(transaction, id, now())),
      async progress(id) {
        const stored = await engine.now.batch(id)
        return stored === null ? null : progressOf(stored)
      },
      async step(id, most) {
        const key = await linkKey()
        const stored = await engine.now.batch(id)
        if (stored === null) return null
        const sendsMail = mailOf(stored.batch.list) !== null
        if (stored.batch.purpose.kind !== 'erase')
          return run((transaction) => applyStep(transaction, chunkInHand, id, most, now(), { key, sendsMail }))
        await eraseBatch(engine, run, id, now, key)
        return null
      },
      dropForgotten: () => run((transaction) => dropForgottenBatches(transaction, sureNow())),
    },
    carryOut: (commands) =>
      Promise.all(commands.map((command) => run((transaction) => journal.carryOut(transaction, command, now())))),
    check: (after) => checkStretch(engine.now, after),
    latest: async () => (await engine.now.newestEntry()).n,
    async entriesAfter(after, mark, limit) {
      const [newest, here] = await Promise.all([engine.now.newestEntry(), engine.now.markAt(after)])
      if (after > newest.n || !isSame(mark, after, here)) return null
      const page = await engine.now.entriesAfter(after, limit)
      const last = page.at(-1)
      return {
        items: page.map(({ entry }) => entry),
        cursor: last?.entry.n ?? after,
        mark: last?.mark ?? here ?? '',
        latest: newest.n,
      }
    },

    takeChanges: (changes) =>
      Promise.all(
        changes.map((change) => runWithObjects((transaction, taken) => takeChange(transaction, change, taken))),
      ),
    takeChangesTogether: (changes) =>
      runWithObjects(async (transaction, taken) => {
        const outcomes: ChangeOutcome[] = []
        for (const change of changes) outcomes.push(await takeChange(transaction, change, taken))
        if (outcomes.some(({ ok }) => !ok)) throw new NotTogether(outcomes)
        return outcomes
      }).catch((error: unknown) => {
        if (error instanceof NotTogether) return error.outcomes
        throw error
      }),
    async objectsAfter(after, mark, limit) {
      const [newest, here] = await Promise.all([engine.now.newestChange(), engine.now.changeMark(after)])
      if (after > newest.n || !isSame(mark, after, here)) return null
      const page = await engine.now.objectsAfter(after, limit)
      // The last page ends at the newest change, whichever object that was.
      const cursor = page.length < limit ? newest.n : page.at(-1)!.revision
      const at = (await engine.now.changeMark(cursor)) ?? ''
      return { items: page.map(keptOf), cursor, mark: at, latest: newest.n }
    },
    latestChange: async () => (await engine.now.newestChange()).n,
    picture: (id) => engine.now.picture(id),
    keepPicture: async (picture) => {
      const digest = createHash('sha256').update(Buffer.from(picture.bytes, 'base64')).digest('hex')
      if (!digest.startsWith(picture.id))
        return { ok: false, code: 'wrong-id', message: 'A picture is named after its bytes, and this one is not.' }
      await run(async (transaction) => {
        if ((await transaction.picture(picture.id)) === null) await transaction.keepPicture(picture)
      })
      return { ok: true }
    },
    published: () => published,

    handOvers: {
      begin: (handOver) => run((transaction) => beginHandOver(transaction, handOver, now())),
      again: (handOver, members, { isMend = false } = {}) =>
        run((transaction) => handAgain(transaction, handOver, members, isMend, now())),
      spread: (job, handOver) => engine.run((transaction) => spreadJob(transaction, job, handOver, now())),
      finish: (job, handed) => engine.run((transaction) => finishJob(transaction, job, handed)),
      note: (handed) => engine.run((transaction) => transaction.keepHanded(handed)),
      handed: (handOver, member) => engine.now.handed(handOver, member),
      handedOf: (member) => engine.now.handedOf(member),
      inState: (handOver, state, limit, skipped) => engine.now.handedInState(handOver, state, limit, skipped),
      forgetGone: () => engine.run(forgetHandOvers),
      counts: (handOver) => countsOf(engine.now, handOver),
      membersAfter: (list, rank, limit) => engine.now.membersAfterRank(list, rank, limit),
      withAddress: (list, compared) => engine.now.memberWithAddress(list, compared),
    },

    refill: (id, entries) =>
      runAsIs(async (transaction) => refilling.refill(transaction, (await transaction.identity())!, id, entries)).catch(
        (error: unknown) => {
          if (error instanceof RefillProblem) return error.result
          throw error
        },
      ),
    recover: (common, entries) => runAsIs((transaction) => refilling.recover(transaction, common, entries, now())),
    seed: (workspace) =>
      runWithObjects(async (transaction, taken) => {
        const [entry, change] = [await transaction.newestEntry(), await transaction.newestChange()]
        if (entry.n > 0 || change.n > 0) return false
        for (const picture of workspace.pictures) await transaction.keepPicture(picture)
        for (const change of changesOf(workspace)) {
          const outcome = await takeChange(transaction, change, taken)
          if (!outcome.ok)
            throw new Error(
              `${change.kind} ${change.key}: ${'problem' in outcome ? outcome.problem.message : 'is there twice'}`,
            )
        }
        const { id, entries } = workspace.journal
        if (id !== null) {
          const result = await refilling.refill(transaction, (await transaction.identity())!, id, entries)
          if (!result.ok) throw new RefillProblem(result)
        }
        return true
      }),

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
    async checkHealth() {
      if (hasPassed(health.at, HEALTH_HOLDS_MS, now())) {
        const room = engine.room()
        health = {
          at: now(),
          problem: room !== null && room < LEAST_ROOM_BYTES ? new Error('The disk is full.') : null,
        }
        if (health.problem === null)
          await engine
            .run((transaction) => transaction.touch(now()))
            .catch((error: unknown) => (health = { at: now(), problem: error }))
      }
      if (health.problem !== null) throw health.problem
    },
    markAt: (n) => engine.now.markAt(n),
    copyTo: (file) => engine.copyTo(file),
    close: () => engine.close(),
  }
}

/** What visitors can meet, as the store has it. */
async function indexOf(engine: Engine): Promise<PublishedIndex> {
  const index = new PublishedIndex()
  await catchUp(engine, index)
  return index
}

/** Takes in what the store has of objects after the newest that is in memory. */
async function catchUp(engine: Engine, index: PublishedIndex): Promise<void> {
  for (;;) {
    const page = await engine.now.objectsAfter(index.revision, 500)
    for (const object of page) index.take(object)
    if (page.length === 0) return
  }
}
