import { sameValue } from '#core/json'
import Dexie, { cmp, type IntervalTree, type ObservabilitySet, RangeSet } from 'dexie'
import type { JournalId } from '#core/ids'
import { type Body, isImmutable, type Kind, kindOf, kinds, referencesOf } from '#core/sync'
import { database, type Synced } from './database'
import { requireJournal } from './journal'
import { bodyHere, objectTables, primaryKeyOf, syncedId, tableOf } from './rows'

/** A change made here that the receiver does not know of. */
export interface WaitingChange {
  kind: Kind
  key: string
  base: number
  body: Body | null
}

/*
 * Objects that may differ from what the receiver knows, by id, each with the count of when it was noted: what a
 * transaction of this or another tab wrote, until it was found not to differ. All of them are looked at once a page.
 */
const suspects = new Map<string, number>()
let everythingAt = 1
let count = 1

function noteEverything(): void {
  everythingAt = ++count
}

function noteWritten(parts: ObservabilitySet): void {
  if ('all' in parts) return noteEverything()
  for (const kind of kinds) noteKeys(parts, kindOf(kind).table, (key) => syncedId(kind, [key].flat().join('/')))
  noteKeys(parts, 'synced', String)
}

function noteKeys(parts: ObservabilitySet, table: string, idOf: (primaryKey: unknown) => string): void {
  const ranges = parts[`idb://${database.name}/${table}/`]
  // Dexie tells of a write of nothing too, with an empty range.
  if (ranges === undefined || !('from' in ranges)) return
  for (const { from, to } of rangesIn(ranges)) {
    if (cmp(from, to) !== 0) return noteEverything()
    suspects.set(idOf(from), ++count)
  }
}

function* rangesIn(ranges: IntervalTree): Generator<{ from: unknown; to: unknown }> {
  for (const range of new RangeSet().add(ranges)) yield range
}

Dexie.on('storagemutated', noteWritten)

/** Everything that was changed here and that the receiver does not know of, in the order of what refers to what. */
export async function waitingChanges(): Promise<WaitingChange[]> {
  return database.transaction('r', objectTables(), async () => {
    const lookedAt = { everythingAt, suspects: new Map(suspects) }
    const ids = everythingAt > 0 ? await allIds() : lookedAt.suspects.keys()
    const waiting: WaitingChange[] = []
    for (const id of ids) {
      const change = await changeOf(id)
      if (change !== null) waiting.push(change)
    }
    // Whatever was noted meanwhile stays noted.
    if (everythingAt === lookedAt.everythingAt) everythingAt = 0
    for (const [id, at] of lookedAt.suspects) if (suspects.get(id) === at) suspects.delete(id)
    for (const { kind, key } of waiting) {
      const id = syncedId(kind, key)
      if (!suspects.has(id)) suspects.set(id, ++count)
    }
    return waiting.sort((one, other) => kinds.indexOf(one.kind) - kinds.indexOf(other.kind))
  })
}

/** Of everything that is here, and that the receiver is known to have. */
async function allIds(): Promise<Set<string>> {
  const ids = new Set<string>()
  for (const kind of kinds)
    for (const key of await tableOf(kind).toCollection().primaryKeys()) ids.add(syncedId(kind, [key].flat().join('/')))
  for (const id of await database.synced.toCollection().primaryKeys()) ids.add(id)
  return ids
}

async function changeOf(id: string): Promise<WaitingChange | null> {
  const at = id.indexOf(' ')
  const [kind, key] = [id.slice(0, at) as Kind, id.slice(at + 1)]
  const synced = await database.synced.get(id)
  // What never changes is known by its key alone, and is here for good or forgotten as older.
  if (isImmutable(kind) && synced !== undefined) return null
  const body = await bodyHere(kind, key)
  if (!isWaiting(synced, body)) return null
  if (isImmutable(kind) && body !== null && !(await hasReferences(kind, body))) return null
  return { kind, key, base: synced?.revision ?? 0, body }
}

function isWaiting(known: Synced | undefined, here: Body | null): boolean {
  if (known === undefined) return here !== null
  if (known.conflict !== undefined) return false
  if (known.refusal !== undefined && sameValue(known.refusal.body, here)) return false
  return !sameValue(known.body, here)
}

/** Versions outlive their form here, because receipts name them; a receiver that never had the form cannot take them. */
async function hasReferences(kind: Kind, body: Body): Promise<boolean> {
  for (const reference of referencesOf(kind, body)) {
    const table = tableOf(reference.kind)
    if ((await table.get(primaryKeyOf(reference.kind, reference.key))) === undefined) return false
  }
  return true
}

/**
 * The same, to be sent to the receiver that keeps a history.
 *
 * @throws OtherJournal
 */
export function changesFor(journal: JournalId): Promise<WaitingChange[]> {
  return database.transaction('r', objectTables(), async () => {
    await requireJournal(journal)
    return waitingChanges()
  })
}
