import type { Transaction } from '../subjects'

const TAKEN_IN = 'history taken in'
/** Stretches that are remembered; more were taken in over years. */
const MOST = 50

/** Entries that came from a copy of the journal: what they tell happened elsewhere, or before. */
export interface TakenIn {
  /** Numbers of entries, both included. */
  from: number
  to: number
  /** When they were taken in, in milliseconds since 1970. */
  at: number
}

export async function keepTakenIn(transaction: Transaction, next: TakenIn): Promise<void> {
  const before = await takenIn(transaction, next.at)
  const last = before.at(-1)
  // A filling comes in many requests.
  const all =
    last !== undefined && last.to + 1 === next.from
      ? [...before.slice(0, -1), { ...next, from: last.from }]
      : [...before, next]
  await transaction.keepValue(TAKEN_IN, all.slice(-MOST), null)
}

export async function takenIn(store: Pick<Transaction, 'value'>, now: number): Promise<TakenIn[]> {
  return ((await store.value(TAKEN_IN, now)) as TakenIn[] | null) ?? []
}
