import { hash } from 'node:crypto'
import { type NewEntry, personalText, skeletonOf } from '#core/journal'

/** The mark of an entry that follows one with the mark `before`; see `skeletonOf`. */
export function markAfter(before: string, n: number, entry: NewEntry): string {
  return hashOf(before + skeletonOf(n, entry, commitmentOf(entry)))
}

/** Commitment to an entry's personal part, erased or not; null for entries without one. */
export function commitmentOf(entry: NewEntry): string | null {
  const personal = personalText(entry)
  if (personal !== null) return hashOf(personal)
  return 'commitment' in entry ? (entry.commitment ?? null) : null
}

/** SHA-256 in base64url; 22 letters of it are 132 bits. */
function hashOf(text: string): string {
  return hash('sha256', text, 'base64url').slice(0, 22)
}
