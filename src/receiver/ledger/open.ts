import { createHash, randomBytes } from 'node:crypto'
import type { JournalId, ListId } from '#core/ids'
import type { Member } from '#core/list'
import type { Preferences } from '#core/sync'
import { changesOf } from '#core/workspace'
import { calm } from '../limits'
import { newId } from '../random'
import type { Engine, Newest, Transaction } from '../store/engine'
import { JournalWriter, RefillProblem } from './journal'
import { type ChangeOutcome, LEAST_ROOM_BYTES, type Ledger } from './ledger'
import { keptOf, ObjectWriter } from './objects'
import { openOutbox } from './outbox'
import { PublishedIndex } from './published'
import { openSpace } from './space'
import { commandsToPutBack, wronglyBounced } from './wrongly-bounced'

const BEGINNING: Newest = { n: 0, mark: '' }
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
 */
export async function openLedger(engine: Engine, now: () => number, sureNow = now): Promise<Ledger> {
  await engine.run((transaction) => {
    if (transaction.identity() === null) transaction.keepIdentity(newId<JournalId>())
    // Of rehearsals that ended with the process.
    transaction.dropSpace(null)
  })
  const listeners = new Set<() => void>()
  const mailListeners = new Set<() => void>()
  let published = new PublishedIndex()
  const mailOf = (list: ListId) => published.mail(list)
  const journal = new JournalWriter(BEGINNING, mailOf)
  const objects = new ObjectWriter(BEGINNING, (object) => published.take(object))
  let isNews = false
  let health: { at: number; problem: unknown } = { at: 0, problem: null }

  /** What is kept in memory, as the engine has it. */
  function readMemory(): void {
    journal.newest = engine.now.newestEntry()
    journal.forgetFrom(journal.newest.n + 1)
    objects.newest = engine.now.newestChange()
    const index = new PublishedIndex()
    for (let after = 0; ;) {
      const page = engine.now.objectsAfter(after, 500)
      for (const object of page) index.take(object)
      if (page.length === 0) break
      after = page.at(-1)!.revision
    }
    published = index
  }
  readMemory()
  for (const { key, entry } of engine.now.retries())
    if (entry.kind === 'arrival')
      journal.retries.keep(key, {
        n: entry.n,
        at: Date.parse(entry.at),
        verdict: entry.verdict,
        isMailHeld: false,
      })
  engine.onUndo(readMemory)
  engine.onCommit(() => {
    if (!isNews) return
    isNews = false
    for (const listener of listeners) listener()
  })
  const run = <T>(work: (transaction: Transaction) => T) =>
    engine.run((transaction) => {
      isNews = true
      return work(transaction)
    })

  let wronglyAt = { n: -1, members: [] as Member[] }
  /** Looked for again when something happened meanwhile. */
  function wrongly(): Member[] {
    if (wronglyAt.n !== journal.newest.n)
      wronglyAt = {
        n: journal.newest.n,
        members: wronglyBounced(engine.now.bounces(), (id) => engine.now.member(id)),
      }
    return wronglyAt.members
  }

  const isKnown = (mark: string | null, at: number, here: string | null) =>
    mark === null || (at === 0 ? mark === '' : mark === here)

  return {
    journalId: () => engine.now.identity()!,
    signUp: (signUp, retryKey, cause = calm) =>
      run((transaction) => journal.signUp(transaction, signUp, retryKey, now(), cause)),
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
    countWronglyBounced: () => wrongly().length,
    async putBackWronglyBounced() {
      const commands = await commandsToPutBack(
        wrongly(),
        (after, limit) => engine.now.entriesAfter(after, limit).map(({ entry }) => entry),
        newId,
      )
      let count = 0
      for (const command of commands) {
        const isBack = await run((transaction) => {
          const { ok } = journal.carryOut(transaction, command, now())
          if (ok && command.kind === 'restore-member' && command.status === 'waiting')
            journal.sendAgain(transaction, command.member, now())
          return ok
        })
        if (isBack) count += 1
      }
      return count
    },
    async expireWaiting() {
      let expired = 0
      for (const list of engine.now.listsWithWaiting()) {
        const days = mailOf(list)?.waitingDays ?? USUAL_WAITING_DAYS
        for (const id of engine.now.waitingSince(list, sureNow() - days * DAY_MS)) {
          if (await run((transaction) => journal.expire(transaction, id, now()))) expired += 1
        }
      }
      return expired
    },
    downloadsOf: (id) => engine.now.downloadsOf(id),
    takeDownload: (id, most) =>
      engine.run((transaction) => {
        if (most !== null && transaction.downloadsOf(id) >= most) return false
        transaction.countDownload(id)
        return true
      }),
    // A made-up member would be the next.
    isAmongFirst: ({ id, list }, many) => (engine.now.rankOf(id) ?? engine.now.highestRank(list) + 1) <= many,
    joinedOn: (list, day) => engine.now.membersJoinedOn(list, day),
    outbox: openOutbox(engine, run, now, (transaction, member, reason) =>
      journal.bounce(transaction, member, reason, now()),
    ),
    linkKey: async () =>
      published.preferences()?.linkKey ??
      run((transaction) => {
        const stored = transaction.object('preferences', 'workshop')
        const before = stored === null || stored.isDeleted ? { videoHosts: [] } : (stored.body as Preferences)
        if (before.linkKey !== undefined) return before.linkKey
        const linkKey = randomBytes(32).toString('base64url')
        objects.take(transaction, {
          kind: 'preferences',
          key: 'workshop',
          base: stored?.revision ?? 0,
          body: { ...before, linkKey } satisfies Preferences,
        })
        return linkKey
      }),
    carryOut: (commands) =>
      Promise.all(commands.map((command) => run((transaction) => journal.carryOut(transaction, command, now())))),
    latest: () => journal.newest.n,
    entriesAfter(after, mark, limit) {
      const newest = engine.now.newestEntry()
      if (after > newest.n || !isKnown(mark, after, engine.now.markAt(after))) return null
      const page = engine.now.entriesAfter(after, limit)
      const last = page.at(-1)
      return {
        items: page.map(({ entry }) => entry),
        cursor: last?.entry.n ?? after,
        mark: last?.mark ?? engine.now.markAt(after) ?? '',
        latest: newest.n,
      }
    },

    takeChanges: (changes) =>
      Promise.all(changes.map((change) => run((transaction) => objects.take(transaction, change)))),
    takeChangesTogether: (changes) =>
      run((transaction) => {
        const outcomes = changes.map((change) => objects.take(transaction, change))
        if (outcomes.some(({ ok }) => !ok)) throw new NotTogether(outcomes)
        return outcomes
      }).catch((error: unknown) => {
        if (error instanceof NotTogether) return error.outcomes
        throw error
      }),
    objectsAfter(after, mark, limit) {
      const newest = engine.now.newestChange()
      if (after > newest.n || !isKnown(mark, after, engine.now.changeMark(after))) return null
      const page = engine.now.objectsAfter(after, limit)
      // The last page ends at the newest change, whichever object that was.
      const cursor = page.length < limit ? newest.n : page.at(-1)!.revision
      return { items: page.map(keptOf), cursor, mark: engine.now.changeMark(cursor) ?? '', latest: newest.n }
    },
    latestChange: () => objects.newest.n,
    picture: (id) => engine.now.picture(id),
    keepPicture: async (picture) => {
      const digest = createHash('sha256').update(Buffer.from(picture.bytes, 'base64')).digest('hex')
      if (!digest.startsWith(picture.id))
        return { ok: false, code: 'wrong-id', message: 'A picture is named after its bytes, and this one is not.' }
      await run((transaction) => {
        if (transaction.picture(picture.id) === null) transaction.keepPicture(picture)
      })
      return { ok: true }
    },
    published: () => published,

    refill: (id, entries) =>
      run((transaction) => journal.refill(transaction, transaction.identity()!, id, entries)).catch(
        (error: unknown) => {
          if (error instanceof RefillProblem) return error.result
          throw error
        },
      ),
    recover: (common, entries) => run((transaction) => journal.recover(transaction, common, entries, now())),
    seed: (workspace) =>
      run((transaction) => {
        if (journal.newest.n > 0 || objects.newest.n > 0) return false
        for (const picture of workspace.pictures) transaction.keepPicture(picture)
        for (const change of changesOf(workspace)) {
          const outcome = objects.take(transaction, change)
          if (!outcome.ok)
            throw new Error(
              `${change.kind} ${change.key}: ${'problem' in outcome ? outcome.problem.message : 'is there twice'}`,
            )
        }
        if (workspace.journal.id !== null) {
          const result = journal.refill(
            transaction,
            transaction.identity()!,
            workspace.journal.id,
            workspace.journal.entries,
          )
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
      if (now() - health.at >= HEALTH_HOLDS_MS) {
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
    copyTo: (file) => engine.copyTo(file),
    close: () => engine.close(),
  }
}
