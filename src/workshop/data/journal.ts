import type { JournalId } from '#core/ids'
import { type Entry, entryKinds } from '#core/journal'
import { affectedMember, applyToMember, type Member } from '#core/list'
import { database, readSetting, writeSetting } from './database'

/** Entries of another history than the one that is kept here. */
export class OtherJournal extends Error {}

/**
 * Writes a stretch of the journal, the members it changes and the new cursor in one transaction: all of it
 * or nothing. Entries already here are passed over, so a pull can be repeated. An entry of a kind that this
 * version does not know is kept like the others and noted: a newer version makes of it what it means.
 *
 * @param mark the history's mark at the last of the entries
 * @returns the cursor afterwards
 * @throws OtherJournal; Error when an entry is missing in between
 */
export async function takeEntries(
  id: JournalId,
  entries: readonly Entry[],
  mark: string | null = null,
): Promise<number> {
  return database.transaction('rw', database.entries, database.members, database.settings, async () => {
    const journal = (await readSetting('journal')) ?? { id, cursor: 0, mark: '' }
    if (journal.id !== id) throw new OtherJournal('These entries belong to another journal.')
    const fresh = entries.filter((entry) => entry.n > journal.cursor)
    const gap = fresh.findIndex((entry, at) => entry.n !== journal.cursor + 1 + at)
    if (gap >= 0) throw new Error(`Journal entry ${journal.cursor + 1 + gap} is missing.`)
    const unknown = fresh.find(({ kind }) => !entryKinds.includes(kind))
    if (unknown !== undefined && (await readSetting('unknownEntries')) === undefined)
      await writeSetting('unknownEntries', unknown.n)
    await database.entries.bulkPut(fresh)
    await foldIn(fresh)
    const cursor = fresh.at(-1)?.n ?? journal.cursor
    await writeSetting('journal', { id, cursor, mark: mark ?? (fresh.length > 0 ? null : journal.mark) })
    return cursor
  })
}

/** Brings the members up to date that some entries are about. Only within a transaction over members. */
export async function foldIn(entries: readonly Entry[]): Promise<void> {
  const known = entries.filter(({ kind }) => entryKinds.includes(kind))
  const ids = [...new Set(known.map(affectedMember).filter((member) => member !== null))]
  const kept = await database.members.bulkGet(ids)
  const members = new Map<string, Member | null>(ids.map((member, at) => [member, kept[at] ?? null]))
  for (const entry of known) {
    const member = affectedMember(entry)
    if (member !== null) members.set(member, applyToMember(members.get(member) ?? null, entry))
  }
  await database.members.bulkPut([...members.values()].filter((member) => member !== null))
}

const FOLD_BATCH = 5_000

/** Once this version knows all kinds that an older one did not, everybody's state is made anew from the whole journal. */
export async function foldUnknownEntries(): Promise<void> {
  const first = await readSetting('unknownEntries')
  if (first === undefined) return
  const isUnknown = await database.entries
    .where('n')
    .aboveOrEqual(first)
    .filter(({ kind }) => !entryKinds.includes(kind))
    .first()
  if (isUnknown !== undefined) return
  await database.transaction('rw', database.entries, database.members, database.settings, async () => {
    await database.members.clear()
    for (let after = 0; ;) {
      const batch = await database.entries.where('n').above(after).limit(FOLD_BATCH).toArray()
      await foldIn(batch)
      if (batch.length < FOLD_BATCH) break
      after = batch.at(-1)!.n
    }
    await database.settings.delete('unknownEntries')
  })
}
