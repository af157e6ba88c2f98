import type { BatchId, ListId, MemberId } from '#core/ids'
import type { List, MemberStatus } from '#core/list'
import { newId } from '../random'
import type { Transaction } from '../subjects'
import { stageErasure } from './batches'

const DAY_MS = 86_400_000
/** As many of a list are erased in one go; the rest are the next time. */
const MOST_AT_ONCE = 500

type Run = <T>(work: (transaction: Transaction) => Promise<T>) => Promise<T>

/**
 * Has those erased whom their lists keep no longer: who left, or was removed, so many days ago. Resolves with how many.
 *
 * @param now milliseconds since 1970, which no leap of the clock can move ahead
 */
export async function eraseKeptLongEnough(store: Transaction, run: Run, now: number): Promise<number> {
  let count = 0
  for (const { body, isDeleted } of await store.objectsOf('list')) {
    const { id, keeping } = body as List
    if (isDeleted || keeping === undefined) continue
    const { leftDays, expiredDays } = keeping
    const due = [
      ...(await goneSince({ store, list: id, status: 'left', days: leftDays, now })),
      ...(await goneSince({ store, list: id, status: 'removed', days: expiredDays, now })),
    ].slice(0, MOST_AT_ONCE)
    if (due.length === 0) continue
    const batch = { id: newId<BatchId>(), list: id, purpose: { kind: 'erase' as const } }
    await run((transaction) => stageErasure(transaction, batch, due, now))
    count += due.length
  }
  return count
}

/** Since when is told by the entry that made them so: nothing changed them after it. */
async function goneSince({
  store,
  list,
  status,
  days,
  now,
}: {
  store: Transaction
  list: ListId
  status: MemberStatus
  days: number | undefined
  now: number
}): Promise<MemberId[]> {
  if (days === undefined) return []
  const due: MemberId[] = []
  for (const { id, revision } of await store.membersWithStatus(list, status)) {
    const [last] = await store.entriesAfter(revision - 1, 1)
    if (last !== undefined && Date.parse(last.entry.at) < now - days * DAY_MS) due.push(id)
    if (due.length >= MOST_AT_ONCE) break
  }
  return due
}
