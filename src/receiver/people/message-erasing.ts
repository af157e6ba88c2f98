import type { ArrivalId, ListId } from '#core/ids'
import type { NewEntry, SentMessage } from '#core/journal'
import type { KeptMessage } from '../messages/tables'
import { newId } from '../random'
import type { Transaction } from '../subjects'
import { appendEntry } from './append'
import { commitmentOf } from './journal-marks'

/** Erasures made since the copy, of those that are here: entries have other numbers here. */
export async function eraseMessagesAgain(
  transaction: Transaction,
  ids: readonly ArrivalId[],
  why: 'days-over' | 'by-owner',
  now: number,
): Promise<void> {
  const here: KeptMessage[] = []
  for (const id of ids) {
    const message = await transaction.message(id)
    if (message !== null) here.push(message)
  }
  await eraseMessages(transaction, here, { why, now })
}

/** What entries about messages have in common. */
export const ofMessages = (list: ListId, now: number, by?: string) => ({
  ...(by !== undefined && { by }),
  at: new Date(now).toISOString(),
  id: newId<ArrivalId>(),
  list,
  member: null,
})

export async function messageAt(transaction: Transaction, { n }: Pick<KeptMessage, 'n'>): Promise<SentMessage | null> {
  const [row] = await transaction.entriesAfter(n - 1, 1)
  return row?.entry.kind === 'message' ? row.entry : null
}

/** Blanks their entries, and says so in the journal: workshops follow. Those of one list share an entry. */
export async function eraseMessages(
  transaction: Transaction,
  some: readonly KeptMessage[],
  { why, now, by }: { why: 'days-over' | 'by-owner'; now: number; by?: string | undefined },
): Promise<number> {
  const byList = new Map<ListId, ArrivalId[]>()
  for (const kept of some) {
    if ((await transaction.message(kept.id)) === null) continue
    const entry = await messageAt(transaction, kept)
    await transaction.dropMessage(kept.id)
    if (entry === null) continue
    const { n, ...rest } = entry
    if (rest.personal !== null)
      await transaction.blankEntry(n, {
        ...rest,
        personal: null,
        commitment: commitmentOf(rest) ?? undefined,
      } as NewEntry)
    byList.set(entry.list, [...(byList.get(entry.list) ?? []), entry.id])
  }
  for (const [list, messages] of byList)
    await appendEntry(transaction, { ...ofMessages(list, now, by), kind: 'messages-erased', messages, why })
  return [...byList.values()].flat().length
}
