import type { BatchProgress } from '#core/api'
import type { BatchId, ListId, MemberId } from '#core/ids'
import {
  type Batch,
  type BatchPurpose,
  type Chunk,
  type Entry,
  MAX_CHUNK,
  type MemberChange,
  MOST_CHANGED,
  type PersonRow,
} from '#core/journal'
import {
  affectedMembers,
  applyToMember,
  type BatchRecord,
  type List,
  type Member,
  type Roster,
  type Wanted,
} from '#core/list'
import { type Client, clientFor, type Pairing, Unreachable } from '../client'
import { newId } from '../clock'
import { entriesAt, entriesFrom } from '../data'
import { type Task, throwIfStopped } from '../worker-calls'

/** Of the way, staging is so much. */
const STAGING_SHARE = 0.4
const LOOK_EVERY_MS = 120
/** How often a call is tried again while no answer comes: for some half a minute. */
const TRIES = 8

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

const NOT_STAGED = 'The receiver is not reached, so nobody was changed. Try again once it is.'
const NOT_SEEN =
  'The receiver is not reached just now. It goes on with the change by itself, and the list shows it then.'

/** Every call can be sent again: what was staged already is passed over. */
export async function persistently<T>(call: () => Promise<T>, otherwise = NOT_STAGED): Promise<T> {
  for (let tries = 1; ; tries += 1)
    try {
      return await call()
    } catch (error) {
      if (!(error instanceof Unreachable)) throw error
      if (tries >= TRIES) throw new Error(otherwise, { cause: error })
      await pause(250 * 2 ** Math.min(tries, 5))
    }
}

/** Chunks to be staged. */
interface Staged {
  chunks: AsyncIterable<Chunk> | Iterable<Chunk>
  /** How far the chunk in hand is on the way through all of them, 0 to 1. */
  share(): number
}

/**
 * Stages a batch at the receiver, has it applied, and waits for its end. Stopped while it is staged, nothing was changed;
 * stopped later, what was changed is told.
 */
export async function sendBatch(
  { pairing, list, purpose }: { pairing: Pairing; list: ListId; purpose: BatchPurpose },
  { chunks, share }: Staged,
  task: Task,
): Promise<BatchProgress> {
  const client = clientFor(pairing)
  const batch: Batch = { id: newId<BatchId>(), list, purpose }
  await persistently(() => client.beginBatch(batch))
  let number = 0
  for await (const chunk of chunks) {
    if (task.signal.aborted) {
      await persistently(() => client.stopBatch(batch.id))
      throwIfStopped(task)
    }
    const at = number
    await persistently(() => client.addBatchChunk(batch.id, at, chunk))
    number += 1
    task.tell(share() * STAGING_SHARE)
  }
  await persistently(() => client.applyBatch(batch.id))
  return ended(client, batch.id, task)
}

async function ended(client: Client, id: BatchId, task: Task): Promise<BatchProgress> {
  for (;;) {
    if (task.signal.aborted) await persistently(() => client.stopBatch(id), NOT_SEEN)
    const progress = await persistently(() => client.batch(id), NOT_SEEN)
    if (progress.state === 'done' || progress.state === 'stopped') return progress
    task.tell(STAGING_SHARE + (1 - STAGING_SHARE) * (progress.total === 0 ? 0 : progress.at / progress.total))
    await pause(LOOK_EVERY_MS)
  }
}

/** Tells chunks of so many apart, and how far it is. */
function inChunks<Item>(items: readonly Item[], most: number, chunkOf: (some: Item[]) => Chunk) {
  let at = 0
  return {
    share: () => (items.length === 0 ? 1 : at / items.length),
    *[Symbol.iterator]() {
      while (at < items.length) {
        const some = items.slice(at, at + most)
        at += some.length
        yield chunkOf(some)
      }
    },
  }
}

/** People as they were found once: who joins or changes later is none of them. */
export interface Settled {
  list: ListId
  /** Under which the worker keeps who they are. */
  settled: number
}

/** As many are kept as dialogs can stand open in a few tabs of work. */
const MOST_SETTLED = 50
const settlements = new Map<number, { id: MemberId; revision: number }[]>()
let lastSettled = 0

/** Keeps who is found now, by id and as they are. */
export function settle(roster: Roster, wanted: Wanted): { people: Settled; count: number } {
  const found = roster.select(wanted, Date.now())
  lastSettled += 1
  settlements.set(lastSettled, found)
  for (const old of settlements.keys()) if (old <= lastSettled - MOST_SETTLED) settlements.delete(old)
  return { people: { list: wanted.list, settled: lastSettled }, count: found.length }
}

function settledPeople({ settled }: Settled): { id: MemberId; revision: number }[] {
  const people = settlements.get(settled)
  if (people === undefined) throw new Error('Who was chosen is not known any more. Choose them again.')
  return people
}

/** Those of them who are still there, as they are now. */
export function membersOf(roster: Roster, chosen: Settled): Member[] {
  return settledPeople(chosen).flatMap(({ id }) => roster.get(chosen.list, id) ?? [])
}

/** The same change for all of them. */
export async function changeMany(
  pairing: Pairing,
  chosen: Settled,
  change: MemberChange,
  task: Task,
): Promise<BatchProgress> {
  // Tags contradict nothing that changed meanwhile.
  const isTag = change.kind === 'tag' || change.kind === 'untag'
  const people = settledPeople(chosen)
  const chunks = inChunks(people, MOST_CHANGED, (some) => ({
    change,
    members: some.map(({ id, revision }) => ({ id, revision: isTag ? null : revision })),
  }))
  return sendBatch(
    { pairing, list: chosen.list, purpose: { kind: 'change', change } },
    { chunks, share: chunks.share },
    task,
  )
}

export async function eraseMany(pairing: Pairing, chosen: Settled, task: Task): Promise<BatchProgress> {
  const people = settledPeople(chosen)
  const chunks = inChunks(people, MAX_CHUNK, (some) => ({ erase: some.map(({ id }) => id) }))
  return sendBatch({ pairing, list: chosen.list, purpose: { kind: 'erase' } }, { chunks, share: chunks.share }, task)
}

/** Brings people over to another list, as they are there: with the values that it has columns for. */
export async function copyMany({
  roster,
  pairing,
  chosen,
  target,
  task,
}: {
  roster: Roster
  pairing: Pairing
  chosen: Settled
  target: List
  task: Task
}): Promise<BatchProgress> {
  const keys = new Set(target.columns.map(({ key }) => key))
  const rows = membersOf(roster, chosen)
    .filter(({ status }) => status === 'confirmed' || status === 'waiting')
    .map(({ email, values, tags = [], status, joinedAt }): PersonRow => ({
      member: newId<MemberId>(),
      revision: null,
      email: email.typed,
      values: Object.fromEntries(Object.entries(values).filter(([key]) => keys.has(key))),
      tags,
      status,
      joinedAt,
    }))
  const chunks = inChunks(rows, MAX_CHUNK, (people) => ({ people }))
  return sendBatch(
    { pairing, list: target.id, purpose: { kind: 'copy', from: chosen.list } },
    { chunks, share: chunks.share },
    task,
  )
}

/** Takes a batch back: everybody becomes what they were before it, but for those who changed since. */
export async function undoBatch(
  roster: Roster,
  pairing: Pairing,
  record: BatchRecord,
  task: Task,
): Promise<BatchProgress> {
  const last = record.ended?.n ?? roster.cursor
  let at = record.begun
  const share = () => (at - record.begun) / Math.max(1, last - record.begun)
  async function* chunks(): AsyncGenerator<Chunk> {
    for await (const some of entriesFrom(record.begun + 1, last)) {
      const mine = some.filter((entry) => 'batch' in entry && entry.batch === record.id)
      for (let from = 0; from < mine.length; from += MAX_CHUNK)
        yield* undoing(roster, record.list, mine.slice(from, from + MAX_CHUNK))
      at = some.at(-1)!.n
    }
  }
  return sendBatch(
    { pairing, list: record.list, purpose: { kind: 'undo', of: record.id } },
    { chunks: chunks(), share },
    task,
  )
}

async function* undoing(roster: Roster, list: ListId, entries: readonly Entry[]): AsyncGenerator<Chunk> {
  const withdrawn: { id: MemberId; revision: number }[] = []
  const rows: PersonRow[] = []
  for (const entry of entries) {
    const change = entry.kind === 'members-changed' ? entry.personal?.change : undefined
    if (change?.kind === 'tag' || change?.kind === 'untag') {
      const members = affectedMembers(entry).map((id) => ({ id, revision: null }))
      yield { change: { kind: change.kind === 'tag' ? 'untag' : 'tag', tag: change.tag }, members }
    } else
      for (const { id, before } of await beforeEntry(roster, list, entry))
        if (before === null) withdrawn.push({ id, revision: entry.n })
        else rows.push(rowOf(before, entry.n))
  }
  for (let at = 0; at < rows.length; at += MAX_CHUNK) yield { people: rows.slice(at, at + MAX_CHUNK) }
  for (let at = 0; at < withdrawn.length; at += MOST_CHANGED)
    yield { change: { kind: 'withdraw' }, members: withdrawn.slice(at, at + MOST_CHANGED) }
}

/** What those whom an entry changes were before it. */
async function beforeEntry(
  roster: Roster,
  list: ListId,
  entry: Entry,
): Promise<{ id: MemberId; before: Member | null }[]> {
  const ids = affectedMembers(entry)
  const numbers = ids.flatMap((id) => roster.entriesAbout(list, id).filter((n) => n < entry.n))
  const before = new Map<MemberId, Member | null>()
  const wanted = new Set(ids)
  for (const one of await entriesAt(numbers))
    for (const id of affectedMembers(one))
      if (wanted.has(id)) before.set(id, applyToMember(before.get(id) ?? null, one))
  return ids.map((id) => ({ id, before: before.get(id) ?? null }))
}

function rowOf({ id, email, values, tags = [], status, joinedAt }: Member, revision: number): PersonRow {
  return { member: id, revision, email: email.typed, values, tags, status, joinedAt }
}
