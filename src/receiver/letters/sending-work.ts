import { type LetterContent, momentFor } from '#core/letter'
import { matches, type Member } from '#core/list'
import type { Transaction } from '../subjects'
import { inboxHash } from './inbox'
import type { SendingStore } from './sending-store'
import { letterJob } from './letter-job'
import type { SeriesWork } from './series'
import type { StoredSending } from './tables'
import { zoneOf } from './zone-of'

/** As many copies of all letters wait among the mails that go next: more than go at once, and few enough to be taken back in a moment. */
const MOST_QUEUED = 600
/** People who are looked at in one transaction. */
const PEOPLE_AT_ONCE = 1_000

/** Whether somebody gets a letter, as they are now. */
export function isReader(member: Member, { readers }: Pick<LetterContent, 'readers'>, now: number): boolean {
  return member.status === 'confirmed' && (readers.kind === 'everybody' || matches(readers.filter, member, now))
}

/** Brings letters to their readers: puts these down once a letter's hour has come, and queues their mails as there is room. */
export class SendingWork {
  constructor(
    private readonly store: SendingStore,
    private readonly series: SeriesWork,
  ) {}

  /** What there is to do now; milliseconds until there may be more, null for nothing in sight. */
  async work(): Promise<number | null> {
    const { engine, sureNow } = this.store.writing
    const nextOfSeries = await this.series.work()
    if (nextOfSeries === 0) return 0
    await this.begin()
    for (const { id } of await engine.now.sendingsInState('settling')) if (await this.settleSome(id)) return 0
    const planned = await engine.now.sendingsInState('planned')
    const going: StoredSending[] = []
    for (const stored of await engine.now.sendingsInState('going'))
      if (this.isPartOfSeries(stored)) going.push(stored)
      else await this.end(stored.id)
    const more = going.length === 0 ? null : await this.topUp(going)
    const next = planned.map(({ startsAt }) => Math.max(50, startsAt - sureNow()))
    const all = [...next, ...[more, nextOfSeries].filter((ms) => ms !== null)]
    return all.length === 0 ? null : Math.min(...all)
  }

  /** Begins those whose hour has come. */
  private async begin(): Promise<void> {
    const { engine, sureNow } = this.store.writing
    const at = sureNow()
    for (const stored of await engine.now.sendingsInState('planned'))
      if (stored.startsAt <= at)
        await this.store.change(stored.id, async (one) =>
          one.state === 'planned' ? { ...one, state: 'settling' } : null,
        )
  }

  /** Puts the next of its readers down, in the order in which they joined. Resolves with whether there are more. */
  private settleSome(id: string): Promise<boolean> {
    const { runAsIs, now, published } = this.store.writing
    return runAsIs(async (transaction) => {
      const stored = await transaction.sending(id)
      if (stored?.state !== 'settling' || stored.settling === null) return false
      const { content, when } = stored
      const { list: at, rank } = stored.settling
      const list = content.lists[at]
      if (list === undefined) {
        await transaction.keepSending({ ...stored, state: 'going', settling: null })
        return false
      }
      const page = await transaction.membersAfterRank(list, rank, PEOPLE_AT_ONCE)
      let added = 0
      for (const { member } of page) {
        if (!isReader(member, content, now())) continue
        const isNew = await transaction.addCopy({
          ...{ sending: stored.id, inbox: inboxHash(member.email.compared), member: member.id, list: member.list },
          at: Math.max(stored.startsAt, momentFor(when, zoneOf(published, member), stored.startsAt)),
        })
        if (isNew) added += 1
      }
      if (added > 0) await transaction.countCopies(id, 'waiting', added)
      const settling = page.length < PEOPLE_AT_ONCE ? { list: at + 1, rank: 0 } : { list: at, rank: page.at(-1)!.rank }
      await transaction.keepSending({ ...stored, settling })
      return true
    })
  }

  /** Moves those whose turn it is among the mails that go next. Resolves with when there is more to do. */
  private async topUp(going: readonly StoredSending[]): Promise<number | null> {
    const { engine, runAsIs, sureNow } = this.store.writing
    let soonest: number | null = null
    const waitUntil = (ms: number) => (soonest = soonest === null ? ms : Math.min(soonest, ms))
    const all = await Promise.all(
      going.map(async ({ id, source }) => ({ id, source, ...(await engine.now.countsOfSending(id)) })),
    )
    // Of several letters none waits until a long one is through.
    const share = Math.ceil(MOST_QUEUED / Math.max(1, all.filter(({ waiting }) => waiting > 0).length))
    for (const { id, source, waiting, queued } of all) {
      if (waiting === 0) {
        if (queued === 0 && source.kind !== 'series') await this.finish(id)
        continue
      }
      // In stretches: each costs a commit.
      const room = share - queued
      if (room < share / 4) {
        waitUntil(1_000)
        continue
      }
      await runAsIs((transaction) => this.queueSome(transaction, id, room))
      const next = await engine.now.nextCopyDue(id)
      if (next !== null) waitUntil(Math.max(50, next - sureNow()))
    }
    return soonest
  }

  private async queueSome(transaction: Transaction, id: string, room: number): Promise<void> {
    const { now, sureNow } = this.store.writing
    const stored = await transaction.sending(id)
    if (stored?.state !== 'going') return
    for (const copy of await transaction.copiesDue(id, sureNow(), room)) {
      const member = await transaction.member(copy.member)
      if (member === null) {
        await transaction.moveCopy(copy, 'dropped', now())
        continue
      }
      await transaction.moveCopy(copy, 'queued', now())
      await transaction.queue(letterJob(stored, copy, member, now()))
    }
  }

  /** Of a letter of a series: whether the series still has it. */
  private isPartOfSeries({ source }: StoredSending): boolean {
    if (source.kind !== 'series') return true
    const series = this.store.writing.published.series().find(({ id }) => id === source.id)
    return series?.published?.steps.some(({ id }) => id === source.step) === true
  }

  /** Ends a letter of a series that was taken away: nobody more gets it. */
  private async end(id: string): Promise<void> {
    await this.store.change(id, async (stored, transaction) => {
      await this.store.takeBack(transaction, id)
      await transaction.dropWaiting(id)
      return { ...stored, state: 'done', endedAt: this.store.writing.now() }
    })
  }

  private async finish(id: string): Promise<void> {
    await this.store.change(id, async (stored, transaction) => {
      const { waiting, queued } = await transaction.countsOfSending(id)
      if (stored.state !== 'going' || waiting > 0 || queued > 0) return null
      return { ...stored, state: 'done', endedAt: this.store.writing.now() }
    })
  }
}
