import { parseEmail } from '#core/email'
import type { JournalId } from '#core/ids'
import { type Arrival, blanked, type Entry, entryKinds, MOST_ASKED } from '#core/journal'
import { blankEntries, noteMessages } from './messages'
import { BLOCK, database, lastArrivalsAmong, readSetting, type LocalSettings, writeSetting } from './database'

/** Entries of another history than the one that is kept here. */
export class OtherJournal extends Error {}

/**
 * What is here goes to a receiver, and what comes from one gets in, only where both are of one history; while a file
 * takes the place of what is here, it is of none. Asked within the transaction that reads or writes, so that no file can
 * be opened in between.
 *
 * @throws OtherJournal
 */
export async function requireJournal(id: JournalId): Promise<LocalSettings['journal']> {
  const here = await readSetting('journal')
  if (here?.id !== id) throw new OtherJournal('What is here is of another history than what the receiver keeps.')
  return here
}

type MembersErased = Extract<Entry, { kind: 'members-erased' }>

const blockOf = (n: number) => Math.ceil(n / BLOCK)

/** All tables that the journal is in, for transactions. */
export const journalTables = () => [
  database.journal,
  database.lastArrivals,
  database.messages,
  database.commands,
  database.settings,
  database.preferences,
]

/**
 * Writes a stretch of the journal and the new cursor in one transaction: all of it or nothing. Entries already here
 * are passed over, so a pull can be repeated. An entry of a kind that this version does not know is kept like the
 * others and noted: a newer version makes of it what it means.
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
  return database.transaction('rw', journalTables(), async () => {
    const journal = await requireJournal(id)
    const fresh = entries.filter((entry) => entry.n > journal.cursor)
    const gap = fresh.findIndex((entry, at) => entry.n !== journal.cursor + 1 + at)
    if (gap >= 0) throw new Error(`Journal entry ${journal.cursor + 1 + gap} is missing.`)
    const unknown = fresh.find(({ kind }) => !entryKinds.includes(kind))
    if (unknown !== undefined && (await readSetting('unknownEntries')) === undefined)
      await writeSetting('unknownEntries', unknown.n)
    await appendEntries(fresh)
    for (const entry of fresh) if (entry.kind === 'members-erased') await forgetErased(entry)
    const cursor = fresh.at(-1)?.n ?? journal.cursor
    await writeSetting('journal', { id, cursor, mark: mark ?? (fresh.length > 0 ? null : journal.mark) })
    return cursor
  })
}

/** Writes entries that follow on those here. Only within a transaction over the journal's tables. */
export async function appendEntries(entries: readonly Entry[]): Promise<void> {
  const first = entries[0]
  if (first === undefined) return
  const blocks = new Map<number, Entry[]>()
  const open = await database.journal.get(blockOf(first.n))
  if (open !== undefined) blocks.set(open.block, open.entries.slice(0, (first.n - 1) % BLOCK))
  for (const entry of entries) {
    const block = blocks.get(blockOf(entry.n))
    if (block === undefined) blocks.set(blockOf(entry.n), [entry])
    else block.push(entry)
  }
  await database.journal.bulkPut([...blocks].map(([block, entries]) => ({ block, entries })))
  await database.lastArrivals.bulkPut(lastArrivalsAmong(entries))
  await noteMessages(entries)
}

/** Forgets here as well who was erased: what entries tell of them, and what was to be done with them. */
async function forgetErased({ members, entries: numbers, hashes }: MembersErased): Promise<void> {
  const gone = new Set(numbers)
  await blankEntries(numbers)
  await database.lastArrivals.toCollection().modify((row) => {
    if (gone.has(row.arrival.n)) row.arrival = blanked(row.arrival) as Arrival
  })
  await database.commands.filter(({ command }) => members.includes(command.member)).delete()
  // A change may name the address of somebody who never came to be a member by it: the receiver knows whose it was.
  if (hashes.length > 0) await writeSetting('hasAddressesToForget', true)
}

/**
 * Forgets waiting changes that name somebody who was erased.
 *
 * @param erasedAmong asks the receiver; resolves with places among the compared addresses
 */
export async function forgetErasedAddresses(
  erasedAmong: (addresses: string[]) => Promise<readonly number[]>,
): Promise<void> {
  if ((await readSetting('hasAddressesToForget')) === undefined) return
  const naming = (await database.commands.toArray()).flatMap(({ id, command }) =>
    'email' in command ? [{ id, compared: comparedOf(command.email) }] : [],
  )
  for (let at = 0; at < naming.length; at += MOST_ASKED) {
    const some = naming.slice(at, at + MOST_ASKED)
    const places = await erasedAmong(some.map(({ compared }) => compared))
    await database.commands.bulkDelete(places.map((place) => some[place]!.id))
  }
  await database.settings.delete('hasAddressesToForget')
}

function comparedOf(typed: string): string {
  const parsed = parseEmail(typed)
  return parsed.ok ? parsed.email.compared : typed
}

/** Once this version knows all kinds that an older one did not, nothing is missing any more. */
export async function forgetUnknownEntries(): Promise<void> {
  const first = await readSetting('unknownEntries')
  if (first === undefined) return
  for await (const batch of entriesFrom(first)) if (batch.some(({ kind }) => !entryKinds.includes(kind))) return
  await database.settings.delete('unknownEntries')
}

/** Number of the newest entry here; 0 without any. */
export async function newestEntry(): Promise<number> {
  return (await database.journal.orderBy('block').last())?.entries.at(-1)?.n ?? 0
}

export async function entryAt(n: number): Promise<Entry | null> {
  return (await database.journal.get(blockOf(n)))?.entries[(n - 1) % BLOCK] ?? null
}

const BLOCKS_AT_ONCE = 25

/** The next entries after a number, some thousands; none at the end. */
export async function entriesAfter(n: number): Promise<Entry[]> {
  const first = blockOf(n + 1)
  const blocks = await database.journal
    .where('block')
    .between(first, first + BLOCKS_AT_ONCE)
    .toArray()
  return blocks.flatMap(({ entries }) => entries).filter((entry) => entry.n > n)
}

/** Entries from one number to another, both included, in batches. */
export async function* entriesFrom(first: number, last = Infinity): AsyncGenerator<Entry[]> {
  for (let after = first - 1; after < last;) {
    const batch = await entriesAfter(after)
    if (batch.length === 0) return
    after = batch.at(-1)!.n
    yield after > last ? batch.filter(({ n }) => n <= last) : batch
  }
}

/** The newest entries after a number that are wanted, newest first. */
export async function newestEntries(count: number, isWanted: (entry: Entry) => boolean, after = 0): Promise<Entry[]> {
  const matching: Entry[] = []
  const oldest = blockOf(after + 1)
  for (let block = blockOf(await newestEntry()); block >= oldest && matching.length < count; block -= 1) {
    const entries = (await database.journal.get(block))?.entries ?? []
    matching.push(...entries.filter((entry) => entry.n > after && isWanted(entry)).reverse())
  }
  return matching.slice(0, count)
}

/** Entries by their numbers, in order. */
export async function entriesAt(numbers: readonly number[]): Promise<Entry[]> {
  const blocks = await database.journal.bulkGet([...new Set(numbers.map(blockOf))])
  const wanted = new Set(numbers)
  return blocks.flatMap((block) => block?.entries ?? []).filter(({ n }) => wanted.has(n))
}
