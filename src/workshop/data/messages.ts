import { blanked, type Entry, type SentMessage } from '#core/journal'
import { BLOCK, database } from './database'

/** For so long a slip can be put right; see `receiver/public/replace-slip.ts`. */
const CORRECTED_WITHIN_MS = 30 * 60_000

/** Follows what entries say of messages to the owner. Only within a transaction over the journal's tables. */
export async function noteMessages(entries: readonly Entry[]): Promise<void> {
  for (const entry of entries)
    switch (entry.kind) {
      case 'message':
        if (entry.personal !== null) {
          const { n, id, form, held, personal } = entry
          const from = personal.email?.compared ?? ''
          await database.messages.put({ n, id, form, from, held: held === undefined ? 0 : 1, message: entry })
        }
        break
      // Whoever wrote and put their address right is the same person.
      case 'member-corrected': {
        if (entry.personal === null) break
        const { email, was } = entry.personal
        const since = new Date(Date.parse(entry.at) - CORRECTED_WITHIN_MS).toISOString()
        await database.messages
          .where('from')
          .equals(was.compared)
          .filter(({ message }) => message.list === entry.list && message.at >= since && message.at <= entry.at)
          .modify((row) => {
            row.from = email.compared
            if (row.message.personal !== null) row.message.personal = { ...row.message.personal, email }
          })
        break
      }
      case 'message-released':
        await database.messages.where('id').equals(entry.message).modify({ held: 0 })
        break
      case 'messages-erased': {
        const rows = await database.messages.where('id').anyOf(entry.messages).toArray()
        await blankEntries(rows.map(({ n }) => n))
        break
      }
      default:
      // Nothing else is said of messages.
    }
}

/** What an address wrote to the owner, oldest first; held messages too. */
export async function messagesFrom(compared: string): Promise<SentMessage[]> {
  const rows = await database.messages.where('from').equals(compared).sortBy('n')
  return rows.map(({ message }) => message)
}

/** Forgets what entries of the journal tell of a person. */
export async function blankEntries(numbers: readonly number[]): Promise<void> {
  const gone = new Set(numbers)
  for (const block of new Set(numbers.map((n) => Math.ceil(n / BLOCK))))
    await database.journal
      .where('block')
      .equals(block)
      .modify((stored) => {
        stored.entries = stored.entries.map((entry) => (gone.has(entry.n) ? blanked(entry) : entry))
      })
  await database.messages.bulkDelete([...numbers])
}
