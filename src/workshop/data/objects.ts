import type { JournalId } from '#core/ids'
import type { Picture } from '#core/picture'
import { isImmutable, type Kept, type Kind, reconcile } from '#core/sync'
import { database, writeSetting } from './database'
import { requireJournal } from './journal'
import { bodyHere, BY_SYNC, HERE, objectTables, syncedId, writeHere } from './rows'

/**
 * Takes in what the receiver has after the cursor, and moves the cursor, in one step. What nobody touched here becomes
 * what it is there; what was changed on both sides in different parts becomes both; what contradicts waits for its owner.
 *
 * @param journal the history that the receiver keeps
 * @param pictures bytes of those that are not here yet, by id
 * @throws OtherJournal
 */
export async function takeObjects(
  journal: JournalId,
  objects: readonly Kept[],
  cursor: { cursor: number; mark: string },
  pictures: ReadonlyMap<string, Picture>,
): Promise<void> {
  await database.transaction('rw', objectTables(), async () => {
    await requireJournal(journal)
    // Side by side: one after the other, each would wait for its own answers of the database. None is there twice.
    await Promise.all(objects.map((object) => takeObject(object, pictures)))
    await writeSetting('objects', cursor)
  })
}

/** The same for one object. Only within a transaction over all tables of objects. */
export async function takeObject(
  { kind, key, revision, body: there, by, changedAt }: Kept,
  pictures: ReadonlyMap<string, Picture> = new Map(),
): Promise<void> {
  const id = syncedId(kind, key)
  const who = { ...(by !== undefined && { by }), ...(changedAt !== undefined && { changedAt }) }
  const synced = await database.synced.get(id)
  if (isImmutable(kind)) {
    if ((await bodyHere(kind, key)) === null) await writeHere({ kind, key, body: there, by: BY_SYNC, pictures })
    await database.synced.put({ id, kind, key, revision, body: null, ...who })
    return
  }
  const here = await bodyHere(kind, key)
  const result = reconcile<Kind>(kind, synced?.body ?? null, here, there)
  if (result.take === 'neither') {
    await database.synced.put({
      ...(synced ?? { id, kind, key, revision: 0, body: null }),
      conflict: { revision, body: there },
      isConflict: 1,
    })
    return
  }
  if (result.take === 'there') await writeHere({ kind, key, body: there, by: BY_SYNC, pictures })
  if (result.take === 'merged') await writeHere({ kind, key, body: result.body, by: BY_SYNC, pictures })
  await database.synced.put({ id, kind, key, revision, body: there, ...who })
}

/** Of two contradicting changes, the one made here goes on. */
export async function chooseHere(id: string): Promise<void> {
  await database.transaction('rw', objectTables(), async () => {
    const synced = await database.synced.get(id)
    if (synced?.conflict === undefined) return
    await database.synced.put({ id, kind: synced.kind, key: synced.key, ...synced.conflict })
  })
}

/** Of two contradicting changes, the other browser's takes the place of the one made here. Resolves with what brings that back. */
export async function chooseThere(id: string): Promise<() => Promise<void>> {
  return database.transaction('rw', objectTables(), async () => {
    const synced = await database.synced.get(id)
    if (synced?.conflict === undefined) return async () => {}
    const { kind, key, conflict } = synced
    const before = await bodyHere(kind, key)
    await writeHere({ kind, key, body: conflict.body, by: BY_SYNC })
    await database.synced.put({ id, kind, key, ...conflict })
    return () => database.transaction('rw', objectTables(), () => writeHere({ kind, key, body: before, by: HERE }))
  })
}
