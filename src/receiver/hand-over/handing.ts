import type { HandOver, WebhookEvent } from '#core/connection'
import type { ConnectionId, HandOverId, MemberId } from '#core/ids'
import type { MemberChange, NewEntry } from '#core/journal'
import { affectedMembers, type Member, type MemberStatus } from '#core/list'
import { newOrderedId } from '../random'
import type { Sealing } from '../secrets'
import type { Handed, HandedState } from './tables'
import { type Job, openJob } from '../work/tables'
import type { Transaction } from '../subjects'

/** The worker of the queue that hands people over by a connection: each has its own, so that none waits for another. */
export const handOverWorker = (connection: ConnectionId) => `hand-over ${connection}`

/** Body of a hand-over job. The member is looked up when the job runs. */
export type HandBody = { handOver: HandOverId } & Part
type Part =
  | {
      member: MemberId
      event: WebhookEvent
      /** Even where nothing changed since the last time. */
      isForced?: true
      /** Empty values are emptied at the service too. */
      isMend?: true
    }
  /** Address of a dropped member, sealed. */
  | { member: MemberId; event: WebhookEvent; sealed: string }
  /** Many of one entry, each still to be queued. */
  | { members: MemberId[]; event: WebhookEvent }
  /** All who are on the list after a rank. */
  | { after: number }

/** What the parts of the job of somebody are called: in order for each. */
const orderKeyOf = (handOver: HandOverId, member: MemberId | '') => `hand ${handOver} ${member}`
/** Of all that is queued of a hand-over. */
const orderKeysOf = (handOver: HandOverId) => `hand ${handOver} `
/** What an address is sealed for. */
export const sealedFor = (handOver: HandOverId) => `hand-over ${handOver}`

/** People of one transaction who are queued with it; of more, one job stands for all. */
const QUEUED_AT_ONCE = 20
/** People who are queued in one transaction out of many. */
const SPREAD_AT_ONCE = 200

/** A list's hand-overs, and the sealing of secrets. */
export interface Handing {
  handOversOf(list: string): HandOver[]
  /** Whether all that happens is told to it, one by one, and nobody is looked up there. */
  isTold(handOver: HandOver): boolean
  sealing: Sealing
  now(): number
}

/**
 * Does some work, and queues with it, in the same transaction, all that has to be handed over because of it. Nothing that
 * writes the journal can forget it: what is appended and who is dropped is noticed here.
 */
export async function withHandOvers<T>(
  transaction: Transaction,
  handing: Handing,
  work: (transaction: Transaction) => Promise<T>,
): Promise<T> {
  const appended: { n: number; entry: NewEntry }[] = []
  const noticing: Transaction = Object.assign(Object.create(transaction) as Transaction, {
    async append(n: number, entry: NewEntry, mark: string) {
      await transaction.append(n, entry, mark)
      appended.push({ n, entry })
    },
    async dropMember(id: MemberId) {
      const member = await transaction.member(id)
      if (member !== null) await handOff(transaction, handing, member, appended.at(-1)?.entry.kind === 'members-erased')
      await transaction.dropMember(id)
    },
  })
  const result = await work(noticing)
  await queueFor(transaction, handing, appended)
  return result
}

/**
 * Queues what follows of entries for whoever they are about: each by themselves, or where they are many, as one job of
 * each kind of event.
 */
async function queueFor(
  transaction: Transaction,
  handing: Handing,
  appended: readonly { n: number; entry: NewEntry }[],
): Promise<void> {
  const groups = new Map<string, { handOver: HandOver; event: WebhookEvent; n: number; members: Set<MemberId> }>()
  for (const { n, entry } of appended) {
    const event = eventOf(entry)
    if (event === null) continue
    for (const handOver of handing.handOversOf(entry.list)) {
      // Unconfirmed members of hand-overs that wait for confirmation need no job.
      if (entry.kind === 'arrival' && entry.verdict === 'confirm-first' && waitsFor(handing, handOver)) continue
      const name = `${handOver.id} ${event}`
      const group = groups.get(name) ?? { handOver, event, n, members: new Set() }
      groups.set(name, group)
      for (const member of affectedMembers(entry)) group.members.add(member)
    }
  }
  for (const { handOver, event, n, members } of groups.values()) {
    const { id } = handOver
    const now = handing.now()
    if (members.size > QUEUED_AT_ONCE)
      await transaction.queueNew(
        jobOf(handOver, { members: [...members], event }, now, `many${id}${ordered(n)}${event}`),
      )
    else
      for (const member of members)
        await transaction.queueNew(jobOf(handOver, { member, event }, now, `hand${id}${ordered(n)}${event}${member}`))
  }
}

/** Of jobs that were queued at the same time, the one of the lower id goes first. */
const ordered = (n: number) => String(n).padStart(12, '0')

const waitsFor = (handing: Handing, handOver: HandOver) => handOver.moment === 'confirmed' && !handing.isTold(handOver)

/** Queues the removal of a dropped member at the service; the job keeps the address, sealed. */
async function handOff(
  transaction: Transaction,
  { handOversOf, isTold, sealing, now }: Handing,
  member: Member,
  isErased: boolean,
): Promise<void> {
  for (const handOver of handOversOf(member.list)) {
    const { id } = handOver
    const orderKey = orderKeyOf(id, member.id)
    const handed = await transaction.handed(id, member.id)
    const isWaiting = (await transaction.countOrdered(orderKey)) > 0
    await transaction.dropOrdered(orderKey)
    if (!isTold(handOver) && handed === null && !isWaiting) continue
    const sealed = sealing.seal(member.email.typed, sealedFor(id))
    const event: WebhookEvent = isErased ? 'erased' : 'left'
    await transaction.queue(jobOf(handOver, { member: member.id, event, sealed }, now(), newOrderedId(now())))
  }
  await transaction.dropHanded(member.id)
}

/** Webhook event of a journal entry; null for none. */
function eventOf(entry: NewEntry): WebhookEvent | null {
  switch (entry.kind) {
    case 'arrival':
    case 'member-added':
    case 'member-returned':
      return 'joined'
    case 'member-written':
    case 'member-restored':
      return eventOfStatus(entry.status)
    case 'member-confirmed':
      return 'confirmed'
    case 'member-edited':
    case 'member-corrected':
      return 'changed'
    case 'members-changed':
      return eventOfChange(entry.personal?.change)
    case 'member-removed':
    case 'member-left':
      return 'left'
    case 'member-bounced':
      return 'bounced'
    default:
      return null
  }
}

function eventOfChange(change: MemberChange | undefined): WebhookEvent {
  if (change?.kind === 'remove' || change?.kind === 'withdraw') return 'left'
  if (change?.kind === 'restore') return eventOfStatus(change.status)
  return 'changed'
}

const eventOfStatus = (status: MemberStatus): WebhookEvent =>
  status === 'confirmed' || status === 'waiting' ? 'joined' : status === 'bounced' ? 'bounced' : 'left'

type Names = Pick<HandOver, 'id' | 'connection'>

function jobOf(handOver: Names, part: Part, now: number, id: string): Job {
  const member = 'member' in part ? part.member : ''
  const body = { handOver: handOver.id, ...part } satisfies HandBody
  const worker = handOverWorker(handOver.connection)
  return openJob({ id, worker, orderKey: orderKeyOf(handOver.id, member), limitKey: id, body }, now)
}

/** Queues everybody of a list, so that they are handed over as they are by then. */
export async function beginHandOver(transaction: Transaction, handOver: Names, now: number): Promise<void> {
  await transaction.queue(jobOf(handOver, { after: 0 }, now, newOrderedId(now)))
}

export async function handAgain({
  transaction,
  handOver,
  members,
  isMend,
  now,
}: {
  transaction: Transaction
  handOver: Names
  members: readonly MemberId[]
  isMend: boolean
  now: number
}): Promise<void> {
  const part = { event: 'changed', isForced: true, ...(isMend && { isMend }) } as const
  for (const member of members) await transaction.queue(jobOf(handOver, { member, ...part }, now, newOrderedId(now)))
}

/** Jobs that replace one for many members: the next few, and one for the rest. */
export async function partsOf(transaction: Transaction, job: Job, handOver: HandOver, now: number): Promise<Job[]> {
  const body = job.body as HandBody
  const open = (part: Part) => jobOf(handOver, part, now, newOrderedId(now))
  if ('members' in body) {
    const { event } = body
    const members = body.members.slice(SPREAD_AT_ONCE)
    return [
      ...body.members.slice(0, SPREAD_AT_ONCE).map((member) => open({ member, event })),
      ...(members.length > 0 ? [open({ members, event })] : []),
    ]
  }
  if (!('after' in body)) return []
  const page = await transaction.membersAfterRank(handOver.list, body.after, SPREAD_AT_ONCE)
  const last = page.at(-1)
  return [
    ...page.map(({ member }) => open({ member: member.id, event: 'joined' })),
    ...(last === undefined ? [] : [open({ after: last.rank })]),
  ]
}

/** Names of values that tell when a table was written last. */
export const TABLE_WRITTEN = 'table-written '

/** How far a hand-over is. */
export interface HandOverCounts extends Record<HandedState, number> {
  waiting: number
}

export async function countsOf(store: Transaction, { id }: Pick<HandOver, 'id'>): Promise<HandOverCounts> {
  return {
    ...(await store.countHanded(id)),
    waiting: await store.countOrdered(orderKeysOf(id)),
  }
}

/** Deletes jobs and records of removed hand-overs. */
export async function forgetHandOvers(transaction: Transaction): Promise<void> {
  for (const { key, isDeleted } of await transaction.objectsOf('handOver')) {
    if (!isDeleted) continue
    await transaction.dropOrdered(orderKeysOf(key as HandOverId))
    await transaction.dropHandOver(key as HandOverId)
  }
}

/** Stores a job's result and removes the job, in one transaction. */
export async function finishJob(transaction: Transaction, job: Job, handed: Handed | null): Promise<void> {
  await transaction.dropJob(job.id)
  // A member dropped meanwhile gets no record.
  if (handed !== null && (await transaction.member(handed.member)) !== null) await transaction.keepHanded(handed)
}
