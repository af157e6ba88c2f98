import type { JournalId } from '#core/ids'
import type { Entry } from '#core/journal'
import { affectedMember, applyToMember, type Member } from '#core/list'
import { database, readSetting, writeSetting } from './database'

/**
 * Writes a stretch of the journal, the members it changes and the new cursor in one transaction: all of it
 * or nothing. Entries already here are passed over, so a pull can be repeated.
 *
 * @returns the cursor afterwards
 * @throws when an entry is missing in between, or when the entries are of another journal
 */
export async function takeEntries(id: JournalId, entries: readonly Entry[]): Promise<number> {
  return database.transaction('rw', database.entries, database.members, database.settings, async () => {
    const journal = (await readSetting('journal')) ?? { id, cursor: 0 }
    if (journal.id !== id) throw new Error('These entries belong to another journal.')
    const fresh = entries.filter((entry) => entry.n > journal.cursor)
    const gap = fresh.findIndex((entry, at) => entry.n !== journal.cursor + 1 + at)
    if (gap >= 0) throw new Error(`Journal entry ${journal.cursor + 1 + gap} is missing.`)

    const ids = [...new Set(fresh.map(affectedMember).filter((member) => member !== null))]
    const known = await database.members.bulkGet(ids)
    const members = new Map<string, Member | null>(ids.map((member, at) => [member, known[at] ?? null]))
    for (const entry of fresh) {
      const member = affectedMember(entry)
      if (member !== null) members.set(member, applyToMember(members.get(member) ?? null, entry))
    }
    await database.entries.bulkPut(fresh)
    await database.members.bulkPut([...members.values()].filter((member) => member !== null))
    const cursor = fresh.at(-1)?.n ?? journal.cursor
    await writeSetting('journal', { id, cursor })
    return cursor
  })
}
