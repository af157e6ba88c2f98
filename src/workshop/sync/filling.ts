import type { JournalId } from '#core/ids'
import { type Entry, idOf } from '#core/journal'
import { isImmutable } from '#core/sync'
import {
  database,
  emptyDatabase,
  entriesFrom,
  entryAt,
  journalTables,
  objectTables,
  readSetting,
  requireJournal,
  writeSetting,
} from '../data'
import { compareAnew, sendChanges } from './changes'
import { type Client, clientFor, type Pairing } from '../client'

const BATCH = 500

/** Told how far it is, 0 to 1. */
export type Progress = (share: number) => void

/**
 * Entries from here, in batches that a request can hold.
 *
 * @throws OtherJournal once a file has begun to take their place
 */
async function* entriesHere(journal: JournalId, after: number): AsyncGenerator<Entry[]> {
  for await (const entries of entriesFrom(after + 1)) {
    await requireJournal(journal)
    for (let at = 0; at < entries.length; at += BATCH) yield entries.slice(at, at + BATCH)
  }
}

/**
 * Fills a new receiver with everything that the owner made and all that happened, from here. Can be stopped, and goes on
 * where it was.
 *
 * @param passphrase of the keys of links that came with an opened file; empty to leave them out
 */
export async function refillReceiver(
  pairing: Pairing,
  onProgress: Progress,
  signal: AbortSignal,
  passphrase = '',
): Promise<void> {
  const client = clientFor(pairing)
  await bringLinkKeys(client, passphrase)
  await forgetSynced()
  const journal = await readSetting('journal')
  // From here on it is this workshop's receiver, so that a filling that was stopped can go on.
  const id = journal?.id ?? (await client.describe()).journal
  if (journal !== undefined) await client.refill(id, [])
  else await writeSetting('journal', { id, cursor: 0, mark: '' })
  // What the owner makes has to be there first: entries name lists.
  await sendChanges(client, id, (share) => onProgress(share / 2), signal)
  if (journal === undefined || signal.aborted) return
  for await (const batch of entriesHere(id, (await client.describe()).latest)) {
    if (signal.aborted) return
    const { latest } = await client.refill(journal.id, batch)
    onProgress(0.5 + latest / journal.cursor / 2)
  }
  // The cursors are the new receiver's from here on.
  await compareAnew()
}

/** Before people are: whoever was erased is known by a key of these. */
async function bringLinkKeys(client: Client, passphrase: string): Promise<void> {
  const kept = await readSetting('linkKeys')
  if (kept === undefined || ('sealed' in kept && passphrase === '')) return
  await client.openLinkKeys('sealed' in kept ? { ...kept, passphrase } : kept)
  await database.settings.delete('linkKeys')
}

/**
 * Gives a receiver that was put back to an older copy of itself what it has lost since, from here: entries after the
 * last one that both have, and every object that is newer here. What it took in since it was put back stays.
 */
export async function bringUpToDate(pairing: Pairing, onProgress: Progress, signal: AbortSignal): Promise<void> {
  const client = clientFor(pairing)
  // First the objects: entries name lists. What differs goes from here to there.
  await adoptRevisions(client)
  const { journal } = await client.describe()
  await sendChanges(client, journal, (share) => onProgress(share / 2), signal)
  const common = await lastCommonEntry(client)
  const total = Math.max(1, ((await readSetting('journal'))?.cursor ?? 0) - common)
  let done = 0
  for await (const batch of entriesHere(journal, common)) {
    if (signal.aborted) return
    await client.recover(common, batch)
    done += batch.length
    onProgress(0.5 + done / total / 2)
  }
  await pullAnew()
}

/** Takes over what the receiver holds, whatever is here. */
export async function takeReceiversHistory(): Promise<void> {
  await emptyDatabase()
}

/** Number of the last entry that is the same here and there. Histories part once, so halving finds it. */
async function lastCommonEntry(client: Client): Promise<number> {
  const { latest } = await client.describe()
  let [same, other] = [0, Math.min(latest, (await readSetting('journal'))?.cursor ?? 0) + 1]
  while (other - same > 1) {
    const middle = Math.floor((same + other) / 2)
    const [there] = (await client.entriesAfter(middle - 1, null, 1)).entries
    const here = await entryAt(middle)
    if (there !== undefined && here !== null && idOf(there) === idOf(here)) same = middle
    else other = middle
  }
  return same
}

/** Takes every object's revision from the receiver and leaves what is here as it is: it differs, so it is sent. */
async function adoptRevisions(client: Client): Promise<void> {
  const there = new Set<string>()
  for (let cursor = 0, mark = ''; ;) {
    const page = await client.objectsAfter(cursor, mark)
    await database.transaction('rw', objectTables(), async () => {
      for (const { kind, key, revision, body } of page.objects) {
        const id = `${kind} ${key}`
        there.add(id)
        // What was never here is somebody else's, made since: it is pulled.
        if ((await database.synced.get(id)) !== undefined)
          await database.synced.put({
            id,
            kind,
            key,
            revision,
            body: isImmutable(kind) ? null : body,
          })
      }
    })
    ;[cursor, mark] = [page.cursor, page.mark]
    if (page.cursor >= page.latest) break
  }
  const lost = (await database.synced.toCollection().primaryKeys()).filter((id) => !there.has(id))
  await database.synced.bulkDelete(lost)
  await compareAnew()
}

async function forgetSynced(): Promise<void> {
  await database.synced.clear()
  await compareAnew()
}

/** The receiver has given new numbers, so all entries come from there again. */
async function pullAnew(): Promise<void> {
  await database.transaction('rw', journalTables(), async () => {
    const journal = await readSetting('journal')
    await Promise.all([database.journal.clear(), database.lastArrivals.clear()])
    if (journal !== undefined) await writeSetting('journal', { ...journal, cursor: 0, mark: '' })
  })
}
