import { type BatchProgress, MOST_ERASED_BY_EDITOR } from '#core/api'
import { parseEmail } from '#core/email'
import type { ArrivalId, MemberId } from '#core/ids'
import {
  type Batch,
  type Chunk,
  MAX_CHUNK,
  type MemberChange,
  MOST_NAMED,
  type PassedOverReason,
  type PersonRow,
} from '#core/journal'
import {
  type BatchFacts,
  changed,
  fitsPurpose,
  type Member,
  refusalOfChange,
  refusalOfNew,
  refusalOfRow,
} from '#core/list'
import type { Bearer } from '../http/bearer'
import { newId } from '../random'
import type { LinkKeys } from '../secrets'
import { type Newest } from '../store'
import { type Job, LATER, openJob } from '../work/tables'
import type { StoredBatch } from './batch-tables'
import type { Transaction } from '../subjects'
import { appendEntry } from './append'
import { queueFor } from '../mail/queued'

/** The worker of the queue that applies batches. */
export const BATCHES = 'batches'

export type BatchProblem = {
  code: 'unknown-list' | 'unknown-batch' | 'begun-already' | 'chunk-missing' | 'not-allowed'
  message: string
}
export type BatchResult = { ok: true; progress: BatchProgress } | { ok: false; problem: BatchProblem }

const refuse = (code: BatchProblem['code'], message: string): BatchResult => ({ ok: false, problem: { code, message } })

export function progressOf({ batch, state, total, at, counts, passedOver, report }: StoredBatch): BatchProgress {
  return { id: batch.id, state, total, at, counts, passedOver, report }
}

/** Opens a batch for its chunks. The same batch begun again goes on where it was. */
export async function beginBatch(
  transaction: Transaction,
  batch: Batch,
  now: number,
  bearer?: Pick<Bearer, 'id' | 'right'>,
): Promise<BatchResult> {
  const stored = await transaction.batch(batch.id)
  if (stored !== null) return { ok: true, progress: progressOf(stored) }
  const list = await transaction.object('list', batch.list)
  if (list === null || list.isDeleted) return refuse('unknown-list', 'This list does not exist any more.')
  const begun: StoredBatch = {
    ...newBatch(batch, now),
    ...(bearer && { by: bearer.id }),
    ...(bearer?.right === 'editor' && { mostErased: MOST_ERASED_BY_EDITOR }),
  }
  await transaction.keepBatch(begun)
  return { ok: true, progress: progressOf(begun) }
}

function newBatch(batch: Batch, now: number): StoredBatch {
  return {
    batch,
    begunAt: now,
    state: 'staging',
    total: 0,
    at: 0,
    chunks: 0,
    chunk: 0,
    offset: 0,
    counts: { done: 0, same: 0, passedOver: 0 },
    passedOver: [],
    report: null,
  }
}

/** Stages a chunk. One that is here already is passed over, so that it can be sent again. */
export async function addChunk(
  transaction: Transaction,
  id: string,
  number: number,
  chunk: Chunk,
): Promise<BatchResult> {
  const stored = await transaction.batch(id)
  if (stored === null) return refuse('unknown-batch', 'There is no such batch.')
  if (stored.state !== 'staging') return refuse('begun-already', 'This batch is being applied already.')
  if (number < stored.chunks) return { ok: true, progress: progressOf(stored) }
  if (number > stored.chunks) return refuse('chunk-missing', `Chunk ${stored.chunks} comes first.`)
  if (!fitsPurpose(stored.batch.purpose, chunk))
    return refuse('not-allowed', 'This chunk changes people in another way than its batch says.')
  const total = stored.total + sizeOf(chunk)
  if ('erase' in chunk && total > (stored.mostErased ?? Infinity))
    return refuse('not-allowed', 'Erasing many people at once is the owner’s alone: this key erases one at a time.')
  await transaction.keepBatchChunk(id, number, chunk)
  const next = { ...stored, chunks: number + 1, total }
  await transaction.keepBatch(next)
  return { ok: true, progress: progressOf(next) }
}

function sizeOf(chunk: Chunk): number {
  return 'people' in chunk ? chunk.people.length : 'erase' in chunk ? chunk.erase.length : chunk.members.length
}

/** Hands the staged batch to the receiver, which applies it even if the workshop closes. */
export async function applyBatch(transaction: Transaction, id: string, now: number): Promise<BatchResult> {
  const stored = await transaction.batch(id)
  if (stored === null) return refuse('unknown-batch', 'There is no such batch.')
  if (stored.state !== 'staging') return { ok: true, progress: progressOf(stored) }
  const applying: StoredBatch = { ...stored, state: 'applying' }
  await transaction.keepBatch(applying)
  const { list, purpose } = stored.batch
  const by = stored.by === undefined ? {} : { by: stored.by }
  await appendEntry(transaction, { ...ofBatch(stored.batch, now), ...by, kind: 'batch-begun', list, purpose })
  await transaction.queue(jobOf(id, now))
  return { ok: true, progress: progressOf(applying) }
}

/** A batch of the receiver's own: people to erase, applied from now on. */
export async function stageErasure(
  transaction: Transaction,
  batch: Batch,
  members: readonly MemberId[],
  now: number,
): Promise<void> {
  await beginBatch(transaction, batch, now)
  for (let at = 0; at < members.length; at += MAX_CHUNK)
    await addChunk(transaction, batch.id, at / MAX_CHUNK, { erase: members.slice(at, at + MAX_CHUNK) })
  await applyBatch(transaction, batch.id, now)
}

/** How long a batch may be on its way here. */
const STAGED_MS = 86_400_000

/** Forgets batches of workshops that never came back: nothing of them was applied. */
export async function dropForgottenBatches(transaction: Transaction, now: number): Promise<void> {
  for (const { batch, begunAt } of await transaction.stagedBatches())
    if (now - begunAt > STAGED_MS) await stopBatch(transaction, batch.id, now)
}

/** Stops a batch. Applied changes stay, and can be undone. */
export async function stopBatch(transaction: Transaction, id: string, now: number): Promise<BatchResult> {
  const stored = await transaction.batch(id)
  if (stored === null) return refuse('unknown-batch', 'There is no such batch.')
  if (stored.state === 'done' || stored.state === 'stopped') return { ok: true, progress: progressOf(stored) }
  if (stored.state === 'staging') {
    const dropped: StoredBatch = { ...stored, state: 'stopped' }
    await transaction.keepBatch(dropped)
    await transaction.dropBatchChunks(id)
    return { ok: true, progress: progressOf(dropped) }
  }
  return { ok: true, progress: progressOf(await endBatch(transaction, stored, now, true)) }
}

/** The chunk that is being applied: a step takes less than reading it anew does. */
export class ChunkInHand {
  private held: { name: string; chunk: Chunk | null } | null = null

  async read(transaction: Transaction, { batch, chunk: number }: StoredBatch): Promise<Chunk | null> {
    const name = `${batch.id} ${number}`
    if (this.held?.name !== name)
      this.held = { name, chunk: (await transaction.batchChunk(batch.id, number)) as Chunk | null }
    return this.held.chunk
  }
}

/**
 * Applies the next few people of a batch; done when it resolves with null.
 *
 * @param most how many people at once: as many as a sign-up can wait for
 */
export async function applyStep(
  transaction: Transaction,
  inHand: ChunkInHand,
  { id, most, now, keys, sendsMail }: StepFacts & { id: string; most: number; now: number },
): Promise<BatchProgress | null> {
  const stored = await transaction.batch(id)
  if (stored === null || stored.state !== 'applying') return null
  const chunk = await inHand.read(transaction, stored)
  if (chunk === null) {
    await endBatch(transaction, stored, now, false)
    return null
  }
  const from = stored.offset
  const step: Step = { transaction, stored, now, keys, sendsMail, newest: await transaction.newestEntry() }
  const size = sizeOf(chunk)
  const until = Math.min(size, from + most)
  if ('people' in chunk) await writeAll(step, chunk.people.slice(from, until))
  else if ('members' in chunk) await change(step, chunk.change, chunk.members.slice(from, until))
  stored.at += until - from
  Object.assign(stored, until === size ? { chunk: stored.chunk + 1, offset: 0 } : { offset: until })
  await transaction.keepBatch(stored)
  return progressOf(stored)
}

/** Parameters of a step. */
export interface StepFacts {
  /** Key of the hashes of erased addresses. */
  keys: LinkKeys
  /** Whether the list sends mail. */
  sendsMail: boolean
}

interface Step extends StepFacts {
  transaction: Transaction
  /** Updated by each step. */
  stored: StoredBatch
  now: number
  /** What the journal ends with. */
  newest: Newest
}

async function writeAll(step: Step, rows: readonly PersonRow[]): Promise<void> {
  const { transaction, stored, keys } = step
  const { list } = stored.batch
  const addresses = rows.flatMap(({ email }) => {
    const parsed = parseEmail(email)
    return parsed.ok ? [parsed.email.compared] : []
  })
  await transaction.readAhead({
    addresses: addresses.map((compared) => ({ list, compared })),
    members: rows.flatMap(({ member, revision }) => (revision === null ? [] : [member])),
    hashes: addresses.flatMap((compared) => keys.erasedHashes(compared)),
  })
  for (const row of rows) await write(step, row)
}

/** Whether somebody with this address was erased here before. */
async function wasErased({ transaction, keys }: Step, compared: string): Promise<boolean> {
  for (const hash of keys.erasedHashes(compared)) if (await transaction.isErased(hash)) return true
  return false
}

async function write(
  step: Step,
  { member, revision, email, values, tags, status, joinedAt }: PersonRow,
): Promise<void> {
  const { transaction, stored, now } = step
  const { batch, counts } = stored
  const parsed = parseEmail(email)
  if (!parsed.ok) return passOver(stored, member, 'invalid')
  const { compared } = parsed.email
  const holder = await transaction.memberWithAddress(batch.list, compared)
  const before = revision === null ? null : holder?.id === member ? holder : await transaction.member(member)
  if (revision === null) {
    if (holder !== null || (await transaction.member(member)) !== null) return passOver(stored, member, 'there-already')
    const { purpose } = batch
    const source = purpose.kind === 'copy' ? await transaction.memberWithAddress(purpose.from, compared) : null
    const refusal = refusalOfNew(purpose, { status }, source)
    if (refusal !== null) return passOver(stored, member, refusal)
    // Of a copy, they are on the other list: by a sign-up of their own.
    const isKnown = batch.purpose.kind !== 'copy' && (await wasErased(step, compared))
    if (isKnown) return passOver(stored, member, 'erased-before')
  } else if (before === null || before.list !== batch.list) return passOver(stored, member, 'gone')
  else if (before.revision !== revision) return passOver(stored, member, 'changed-since')
  else if (holder !== null && holder.id !== member) return passOver(stored, member, 'there-already')
  else {
    const refusal = refusalOfRow(batch.purpose, { status, compared }, await factsOf(step, before))
    if (refusal !== null) return passOver(stored, member, refusal)
  }
  const appended = await appendEntry(
    transaction,
    {
      ...ofBatch(batch, now),
      kind: 'member-written',
      member,
      status,
      // Days of waiting begin with it, or somebody would have waited too long at once.
      joinedAt: before?.joinedAt ?? (status === 'waiting' ? null : joinedAt) ?? new Date(now).toISOString(),
      personal: { email: parsed.email, values, tags },
    },
    step.newest,
    new Map([[member, before]]),
  )
  step.newest = appended.newest
  const { purpose } = batch
  const asks = purpose.kind === 'import' && purpose.asksByMail === true && before === null && status === 'waiting'
  if (asks && step.sendsMail && appended.member)
    await queueFor(transaction, appended.member, 'confirmation', { now, priority: LATER })
  counts.done += 1
}

/** What rules ask of somebody. */
async function factsOf(
  { transaction, stored }: Pick<Step, 'transaction' | 'stored'>,
  before: Member,
): Promise<BatchFacts> {
  const { purpose } = stored.batch
  if (purpose.kind !== 'undo') return { before, isUndone: false }
  const [newest] = await transaction.entriesAfter(before.revision - 1, 1)
  return { before, isUndone: newest !== undefined && 'batch' in newest.entry && newest.entry.batch === purpose.of }
}

/** One entry for all whom it changes. */
async function change(
  { transaction, stored, now }: Step,
  change: MemberChange,
  members: readonly { id: MemberId; revision: number | null }[],
): Promise<void> {
  const known = new Map<MemberId, Member | null>()
  await transaction.readAhead({ members: members.map(({ id }) => id) })
  for (const { id, revision } of members) {
    const member = await transaction.member(id)
    if (member === null || member.list !== stored.batch.list) passOver(stored, id, 'gone')
    else if (revision !== null && member.revision !== revision) passOver(stored, id, 'changed-since')
    else if (changed(member, change, 0) === member) stored.counts.same += 1
    else {
      const refusal = refusalOfChange(stored.batch.purpose, change, await factsOf({ transaction, stored }, member))
      if (refusal === null) known.set(id, member)
      else passOver(stored, id, refusal)
    }
  }
  if (known.size === 0) return
  await appendEntry(
    transaction,
    {
      ...ofBatch(stored.batch, now),
      kind: 'members-changed',
      member: null,
      members: [...known.keys()],
      personal: { change },
    },
    undefined,
    known,
  )
  stored.counts.done += known.size
}

function passOver({ counts, passedOver }: StoredBatch, member: MemberId, reason: PassedOverReason): void {
  counts.passedOver += 1
  if (passedOver.length < MOST_NAMED) passedOver.push({ member, reason })
}

export async function endBatch(
  transaction: Transaction,
  stored: StoredBatch,
  now: number,
  isStopped: boolean,
): Promise<StoredBatch> {
  const ended: StoredBatch = { ...stored, state: isStopped ? 'stopped' : 'done' }
  await transaction.keepBatch(ended)
  await transaction.dropBatchChunks(stored.batch.id)
  const { counts, passedOver } = ended
  await appendEntry(transaction, {
    ...ofBatch(stored.batch, now),
    kind: 'batch-ended',
    member: null,
    isStopped,
    counts,
    passedOver,
  })
  return ended
}

/** Fields common to all entries of a batch. */
export function ofBatch({ id, list }: Batch, now: number) {
  return { at: new Date(now).toISOString(), id: newId<ArrivalId>(), batch: id, list, member: null }
}

function jobOf(id: string, now: number): Job {
  return openJob({ id, worker: BATCHES, orderKey: BATCHES, body: {} }, now)
}
