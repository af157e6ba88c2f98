import type { IndexableType, Table } from 'dexie'
import type { Command, Entry } from '#core/journal'
import { keyOf, type Preferences } from '#core/sync'
import { preferencesIn, type WorkspaceFact, type WorkspacePart, type WorkspaceSource } from '#core/workspace'
import { database, readSetting, type LocalSettings, writeSetting } from './database'
import { appendEntries, entriesFrom, journalTables, newestEntry } from './journal'
import { bodyHere, objectTableNames } from './rows'

const PREFERENCES_KEY = keyOf('preferences', { videoHosts: [] })
/** Pictures are large. */
const ITEMS_AT_ONCE = 50

/**
 * Everything that this workshop holds, as of now: what is added to the journal meanwhile is left out.
 *
 * @param linkKeys sealed; null to leave them out
 */
export async function workspaceSource(
  now: string,
  linkKeys: string | null = null,
): Promise<WorkspaceSource & { count: number }> {
  const journal = await readSetting('journal')
  const newest = await newestEntry()
  const forms = new Set<string>(await database.forms.toCollection().primaryKeys())
  const counts = await Promise.all(
    [...objectTableNames.map((name) => database[name]), database.giftPieces].map((table) => table.count()),
  )
  return {
    exportedAt: now,
    preferences: (await bodyHere('preferences', PREFERENCES_KEY)) as Preferences | null,
    journalId: journal?.id ?? null,
    linkKeys,
    count: newest + counts.reduce((sum, count) => sum + count, 0),
    async *items(part) {
      if (part === 'journal.entries') {
        yield* entriesFrom(1, newest)
        return
      }
      if (part === 'commands') {
        const queued = await database.commands.orderBy('order').toArray()
        yield queued
          .filter(({ refusal, takenBack }) => refusal === null && takenBack === undefined)
          .map(({ command }) => command)
        return
      }
      // Versions outlive their form here, because receipts name them; a file refers to nothing that it does not hold.
      const isWhole = (item: unknown) =>
        (part !== 'versions' && part !== 'trials') || forms.has((item as { form: string }).form)
      const atOnce = part === 'giftPieces' ? 1 : ITEMS_AT_ONCE
      const table: Table<unknown, IndexableType> = database.table(part)
      const keys = await table.toCollection().primaryKeys()
      for (let at = 0; at < keys.length; at += atOnce) {
        const batch = await table.bulkGet(keys.slice(at, at + atOnce))
        yield batch.filter((item) => item !== undefined && isWhole(item))
      }
    },
  }
}

/** What a workspace file has taken the place of; it is known again by the receiver's next answer. */
const FORGOTTEN = ['journal', 'objects', 'unknownEntries', 'sync', 'linkKeys'] as const

/**
 * Begins to put a workspace in the place of everything here. The pairing stays. Until it is ended, the workshop knows
 * that what is here is not whole.
 */
export async function beginReplacing(file: string): Promise<void> {
  await database.transaction('rw', database.tables, async () => {
    await writeSetting('opening', { file })
    for (const table of database.tables) if (table.name !== 'settings') await table.clear()
    await database.settings.bulkDelete([...FORGOTTEN])
  })
}

/** Takes in some items of one part, in their order. */
export async function takeItems(
  part: WorkspacePart,
  items: readonly unknown[],
  now: string,
  order: number,
): Promise<void> {
  if (part === 'journal.entries') {
    await database.transaction('rw', journalTables(), () => appendEntries(items as Entry[]))
  } else if (part === 'commands') {
    await database.commands.bulkPut(
      (items as Command[]).map((command, at) => ({
        id: command.id,
        command,
        order: order + at + 1,
        journal: null,
        queuedAt: now,
        refusal: null,
      })),
    )
  } else {
    await (database[part] as Table<unknown>).bulkPut(items)
  }
}

/** Ends it: from now on what is here is the workspace of the file. */
export async function endReplacing(facts: Partial<Record<WorkspaceFact, unknown>>, entries: number): Promise<void> {
  const id = (facts['journal.id'] ?? null) as LocalSettings['journal']['id'] | null
  await database.transaction('rw', database.settings, database.commands, database.preferences, async () => {
    if (id !== null) {
      await writeSetting('journal', { id, cursor: entries, mark: null })
      await database.commands.toCollection().modify({ journal: id })
    }
    const preferences = preferencesIn(facts)
    if (preferences !== null) await database.preferences.put(preferences, PREFERENCES_KEY)
    const { linkKeys: sealed, linkKey: plain } = facts
    if (typeof sealed === 'string') await writeSetting('linkKeys', { sealed })
    else if (typeof plain === 'string') await writeSetting('linkKeys', { plain })
    await database.settings.delete('opening')
  })
}
