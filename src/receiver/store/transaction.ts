import type { CommandOutcome } from '#core/api'
import type { JournalId, ListId, MemberId, SpotId } from '#core/ids'
import type { Entry, NewEntry, Verdict } from '#core/journal'
import type { Member } from '#core/list'
import type { Picture } from '#core/picture'
import type { SeenHour, SeenRow } from '#core/results'
import type { Body, Kind } from '#core/sync'
import {
  type Handed,
  type HandedState,
  type Job,
  type JobState,
  LATER,
  type StoredBatch,
  type StoredObject,
  type Transaction,
} from './engine'
import type { Row, Statements } from './statements'

const parsed = <T>(text: unknown) => JSON.parse(String(text)) as T
const bodyOf = <T>(row: Row | undefined): T | null => (row === undefined ? null : parsed<T>(row.body))
const newestOf = (row: Row | undefined) => ({ n: Number(row?.n ?? 0), mark: String(row?.mark ?? '') })
export const entryOf = (row: Row) => {
  const skeleton = parsed<NewEntry>(row.body)
  const isErased = 'commitment' in skeleton
  const personal = row.personal !== null ? { personal: parsed<unknown>(row.personal) } : isErased && { personal: null }
  return { entry: { n: Number(row.n), ...skeleton, ...personal } as Entry, mark: String(row.mark) }
}
/** Sums come as texts from some engines. */
const seenOf = ({ views, starts, set_aside: setAside, ...row }: Row) =>
  ({ ...row, views: Number(views), starts: Number(starts), setAside: Number(setAside) }) as unknown as SeenRow
const objectOf = (row: Row): StoredObject => ({
  kind: row.kind as Kind,
  key: String(row.key),
  revision: Number(row.revision),
  body: parsed<Body>(row.body),
  isDeleted: Number(row.deleted) === 1,
})
const jobOf = (row: Row): Job => ({
  id: String(row.id),
  worker: String(row.worker),
  space: String(row.space),
  priority: Number(row.priority),
  orderKey: String(row.order_key),
  limitKey: String(row.limit_key),
  queued: Number(row.queued),
  due: Number(row.due),
  holder: String(row.holder),
  heldUntil: Number(row.held_until),
  state: row.state as JobState,
  attempts: Number(row.attempts),
  said: String(row.said),
  body: parsed<unknown>(row.body),
})

const JOURNAL_ID = 'journal'
const TOUCHED = 'touched'
/** After every name that begins so. */
const endOf = (beginning: string) => `${beginning}\uffff`

/** What a piece of work reads and writes, over the statements of any engine. */
export function transactionOver(statements: Statements): Transaction {
  return {
    async identity() {
      return bodyOf<JournalId>(await statements.value.get(JOURNAL_ID))
    },
    async keepIdentity(id) {
      await statements.keepValue.run(JOURNAL_ID, JSON.stringify(id), null)
    },
    async value(name, now) {
      const row = await statements.value.get(name)
      return row === undefined || isOver(row, now) ? null : parsed<unknown>(row.body)
    },
    async keepValue(name, value, until) {
      await statements.keepValue.run(name, JSON.stringify(value), until)
    },
    async dropValue(name) {
      await statements.dropValue.run(name)
    },
    async valuesNamed(beginning, now) {
      const rows = await statements.valuesNamed.all(beginning, endOf(beginning))
      return rows
        .filter((row) => !isOver(row, now))
        .map((row) => ({ name: String(row.name), value: parsed<unknown>(row.body) }))
    },
    async forgetValues(now) {
      await statements.forgetValues.run(now)
    },

    async newestEntry() {
      return newestOf(await statements.newestEntry.get())
    },
    async append(n, entry, mark) {
      const { personal = null, ...skeleton } = 'personal' in entry ? entry : { ...entry, personal: null }
      const part = personal === null ? null : JSON.stringify(personal)
      await statements.append.run(n, entry.kind, JSON.stringify(skeleton), part, mark)
    },
    async entriesAfter(n, limit) {
      return (await statements.entriesAfter.all(n, limit)).map(entryOf)
    },
    async markAt(n) {
      return ((await statements.markAt.get(n))?.mark as string | undefined) ?? null
    },
    async bounces() {
      return (await statements.bounces.all()).map((row) => entryOf(row).entry)
    },

    async newestAndMember(list, compared) {
      const row = await statements.newestAndMember.get(list, compared)
      return { newest: newestOf(row), member: typeof row?.member === 'string' ? parsed<Member>(row.member) : null }
    },
    async member(id) {
      return bodyOf<Member>(await statements.member.get(id))
    },
    async memberWithAddress(list, compared) {
      return bodyOf<Member>(await statements.memberWithAddress.get(list, compared))
    },
    async keepMember(member) {
      const { id, list, email, status, joinedAt } = member
      await statements.keepMember.run(id, list, email.compared, status, joinedAt, JSON.stringify(member), list)
    },
    async updateMember(member) {
      await statements.updateMember.run(member.status, JSON.stringify(member), member.id)
    },
    async dropMember(id) {
      await statements.dropMember.run(id)
    },
    async listsWithWaiting() {
      return (await statements.listsWithWaiting.all()).map((row) => row.list as ListId)
    },
    async waitingSince(list, before) {
      const rows = await statements.waitingSince.all(list, new Date(before).toISOString())
      return rows.map((row) => row.id as MemberId)
    },
    async membersJoinedOn(list, day) {
      return (await statements.membersJoinedIn.all(list, day, endOf(day))).map((row) => parsed<Member>(row.body))
    },
    async membersWithStatus(list, status) {
      return (await statements.membersWithStatus.all(list, status)).map((row) => parsed<Member>(row.body))
    },
    async rankOf(member) {
      const row = await statements.rankOf.get(member)
      return row === undefined ? null : Number(row.rank)
    },
    async highestRank(list) {
      return Number((await statements.highestRank.get(list))?.rank ?? 0)
    },
    async downloadsOf(member) {
      const row = await statements.downloadsOf.get(member)
      return { times: Number(row?.times ?? 0), last: Number(row?.last ?? 0) }
    },
    async countDownload(member, at) {
      await statements.countDownload.run(member, at)
    },

    async keepFirstAnswer(retryKey, { n, at, verdict, isMailHeld }) {
      await statements.keepFirstAnswer.run(n, retryKey, at, verdict, isMailHeld ? 1 : 0)
    },
    async firstAnswersAfter(n, from) {
      return (await statements.firstAnswersAfter.all(n, from)).map((row) => ({
        key: String(row.key),
        answer: {
          n: Number(row.n),
          at: Number(row.at),
          verdict: row.verdict as Verdict,
          isMailHeld: Number(row.held) === 1,
        },
      }))
    },
    async forgetAnswers(before, outcomesBefore) {
      await statements.forgetFirstAnswers.run(before)
      await statements.forgetOutcomes.run(outcomesBefore)
    },
    async batch(id) {
      return bodyOf<StoredBatch>(await statements.batch.get(id))
    },
    async stagedBatches() {
      return (await statements.stagedBatches.all()).map((row) => parsed<StoredBatch>(row.body))
    },
    async keepBatch(stored) {
      await statements.keepBatch.run(stored.batch.id, stored.state, JSON.stringify(stored))
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
    async blankEntry(n, entry) {
      const { personal: _, ...skeleton } = entry as NewEntry & { personal?: unknown }
      await statements.blankEntry.run(JSON.stringify(skeleton), n)
    },
    async isErased(hash) {
      return (await statements.isErased.get(hash)) !== undefined
    },
    async keepErased(hash) {
      await statements.keepErased.run(hash)
    },
    async dropJob(id) {
      await statements.dropJob.run(id)
    },
    async dropDownloads(member) {
      await statements.dropDownloads.run(member)
    },
    async dropOutcomesWith(text) {
      // JSON, as it is stored. What stands for any letter in a pattern stands for itself here, or for one letter too many.
      const pattern = `%${JSON.stringify(text.toLowerCase()).slice(1, -1).replaceAll('%', '_')}%`
      return (await statements.dropOutcomesWith.run(pattern)).changes
    },
    async outcome(id) {
      const row = await statements.outcome.get(id)
      return row === undefined ? null : parsed<CommandOutcome>(row.outcome)
    },
    async keepOutcome(id, at, outcome) {
      await statements.keepOutcome.run(id, JSON.stringify(outcome), at)
    },

    async partOfSpace(space, key) {
      return bodyOf<unknown>(await statements.partOfSpace.get(space, key))
    },
    async keepPartOfSpace(space, key, value) {
      await statements.keepPartOfSpace.run(space, key, JSON.stringify(value))
    },
    async partsOfSpace(space, beginning) {
      const rows = await statements.partsOfSpace.all(space, beginning, endOf(beginning))
      return rows.map((row) => parsed<unknown>(row.body))
    },
    async dropSpace(space) {
      await statements.dropSpace.run(space)
      await statements.dropJobsOfSpace.run(space)
    },

    async queue({ id, worker, space, priority, orderKey, limitKey, queued, due, body }, most) {
      const { count = Number.MAX_SAFE_INTEGER, since = 0 } = most ?? {}
      const columns = [id, worker, space, priority, orderKey, limitKey, queued, due, JSON.stringify(body)]
      return (await statements.queue.run(...columns, limitKey, since, count)).changes > 0
    },
    async job(id) {
      const row = await statements.job.get(id)
      return row === undefined ? null : jobOf(row)
    },
    async keepJob({ id, due, holder, heldUntil, state, attempts, said }) {
      await statements.keepJob.run(due, holder, heldUntil, state, attempts, said, id)
    },
    async dueJobs(worker, now, limit) {
      const soon = (await statements.dueJobs.all(worker, LATER, now, now, limit)).map(jobOf)
      if (soon.length === limit) return soon
      const later = await statements.dueLaterJobs.all(worker, LATER, now, now, limit - soon.length)
      return [...soon, ...later.map(jobOf)]
    },
    async nextJobDue(worker) {
      const [free, held] = await Promise.all([statements.nextJobDue.get(worker), statements.nextLeaseEnd.get(worker)])
      const times = [free?.due, held?.at].flatMap((time) => (time === undefined || time === null ? [] : [Number(time)]))
      return times.length === 0 ? null : Math.min(...times)
    },
    async takeJob(id, holder, now, until) {
      return (await statements.takeJob.run(holder, until, id, now, now)).changes > 0
    },
    async renewJobs(holder, until) {
      await statements.renewJobs.run(until, holder)
    },
    async jobsInState(worker, state, limit) {
      return (await statements.jobsInState.all(state, worker, limit)).map(jobOf)
    },
    async jobsOfSpace(space) {
      return (await statements.jobsOfSpace.all(space)).map(jobOf)
    },
    async jobsWithLimitKey(worker, limitKey, limit) {
      return (await statements.jobsWithLimitKey.all(limitKey, worker, limit)).map(jobOf)
    },
    async countJobs(worker) {
      const counts = { open: 0, held: 0, done: 0, refused: 0, dropped: 0 }
      for (const { state, held, count } of await statements.countJobs.all(worker)) {
        counts[state as JobState] += Number(count)
        if (state === 'open' && Number(held) === 1) counts.held += Number(count)
      }
      return counts
    },
    async jobsDoneSince(worker, time) {
      const rows = await statements.jobsDoneSince.all(worker, time)
      return rows.map((row) => ({ at: Number(row.at), count: Number(row.count) }))
    },
    async forgetJobs(before) {
      await statements.forgetJobs.run(before)
    },
    async forgetLeases() {
      await statements.forgetLeases.run()
    },
    async setBackJobs(byMs, dueAfter, heldAfter) {
      await statements.setBackJobs.run(byMs, dueAfter)
      await statements.shortenLeases.run(heldAfter, heldAfter)
    },
    async hurryJobs(worker, now) {
      await statements.hurryJobs.run(now, worker, now)
    },
    async countOrdered(beginning) {
      return Number((await statements.countOrdered.get(beginning, endOf(beginning)))?.count ?? 0)
    },
    async dropOrdered(beginning) {
      await statements.dropOrdered.run(beginning, endOf(beginning))
    },

    async membersAfterRank(list, rank, limit) {
      const rows = await statements.membersAfterRank.all(list, rank, limit)
      return rows.map((row) => ({ rank: Number(row.rank), member: parsed<Member>(row.body) }))
    },
    async countSeen({ day, spot, version, source, device, views, starts, setAside }) {
      await statements.countSeen.run(day, spot, version, source, device, views, starts, setAside)
    },
    async countSeenHour({ day, hour, spot, views }) {
      await statements.countSeenHour.run(day, hour, spot, views)
    },
    async seenBetween(from, to) {
      return (await statements.seenBetween.all(from, to)).map(seenOf) as Required<SeenRow>[]
    },
    async seenSums(from, to) {
      return (await statements.seenSums.all(from, to)).map(seenOf)
    },
    async seenHoursBetween(from, to) {
      return (await statements.seenHoursBetween.all(from, to)) as unknown as SeenHour[]
    },
    async seenSources(day, spot, limit) {
      return (await statements.seenSources.all(day, spot, limit)).map(({ source }) => String(source))
    },
    async seenSince() {
      return (await statements.seenSince.all()) as unknown as { spot: SpotId; day: string }[]
    },
    async takeBeacon(id, at) {
      return (await statements.takeBeacon.run(id, at)).changes > 0
    },
    async forgetBeacons(before) {
      await statements.forgetBeacons.run(before)
    },
    async handed(handOver, member) {
      return bodyOf<Handed>(await statements.handed.get(member, handOver))
    },
    async handedOf(member) {
      return (await statements.handedOf.all(member)).map((row) => parsed<Handed>(row.body))
    },
    async keepHanded(handed) {
      const { handOver, member, state, at } = handed
      await statements.keepHanded.run(handOver, member, state, at, JSON.stringify(handed))
    },
    async dropHanded(member) {
      await statements.dropHanded.run(member)
    },
    async dropHandOver(handOver) {
      await statements.dropHandOver.run(handOver)
    },
    async handedInState(handOver, state, limit, skipped = 0) {
      return (await statements.handedInState.all(handOver, state, limit, skipped)).map((row) =>
        parsed<Handed>(row.body),
      )
    },
    async countHanded(handOver) {
      const counts = { there: 0, 'to-confirm': 0, off: 0, refused: 0 }
      for (const { state, count } of await statements.countHanded.all(handOver))
        counts[state as HandedState] = Number(count)
      return counts
    },

    async object(kind, key) {
      const row = await statements.object.get(kind, key)
      return row === undefined ? null : objectOf(row)
    },
    async keepObject({ kind, key, revision, body, isDeleted }) {
      await statements.keepObject.run(kind, key, revision, JSON.stringify(body), isDeleted ? 1 : 0)
    },
    async objectsOf(kind) {
      return (await statements.objectsOf.all(kind)).map(objectOf)
    },
    async removeObject(kind, key) {
      await statements.removeObject.run(kind, key)
    },
    async objectsAfter(revision, limit) {
      return (await statements.objectsAfter.all(revision, limit)).map(objectOf)
    },
    async newestChange() {
      return newestOf(await statements.newestChange.get())
    },
    async keepChange(revision, mark) {
      await statements.keepChange.run(revision, mark)
    },
    async changeMark(revision) {
      return ((await statements.changeMark.get(revision))?.mark as string | undefined) ?? null
    },

    async picture(id) {
      return bodyOf<Picture>(await statements.picture.get(id))
    },
    async keepPicture(picture) {
      await statements.keepPicture.run(picture.id, JSON.stringify(picture))
    },

    async lastWritten() {
      const newest = bodyOf<NewEntry>(await statements.newestBody.get())
      const touched = bodyOf<number>(await statements.value.get(TOUCHED))
      return Math.max(newest === null ? 0 : Date.parse(newest.at), touched ?? 0) || null
    },
    async touch(at) {
      await statements.keepValue.run(TOUCHED, JSON.stringify(at), null)
    },
  }
}

function isOver({ until }: Row, now: number): boolean {
  return until !== null && Number(until) <= now
}

/**
 * The same, read between two writes: what is not committed yet is nobody's to see.
 *
 * @param idle resolves when the write that goes on is over; null while none does
 */
export function readBetween(transaction: Transaction, idle: () => Promise<void> | null): Transaction {
  const methods = Object.entries(transaction) as [string, (...values: unknown[]) => Promise<unknown>][]
  return Object.fromEntries(
    methods.map(([name, method]) => [
      name,
      async (...values: unknown[]) => {
        for (let busy = idle(); busy !== null; busy = idle()) await busy
        return method(...values)
      },
    ]),
  ) as unknown as Transaction
}
