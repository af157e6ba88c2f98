/** The name for "this is not the history that you know". */
export const OTHER_HISTORY = 'other-history'

/** A stretch of an order after a cursor, and the cursor and mark from which to go on. */
export interface HistoryPage<T> {
  items: T[]
  cursor: number
  mark: string
  latest: number
}

/**
 * Whether a cursor is of this history.
 *
 * @param mark what its reader knows there; null for nothing
 * @param here the mark that this history has there
 */
export const isSameHistory = (mark: string | null, at: number, here: string | null) =>
  mark === null || (at === 0 ? mark === '' : mark === here)
