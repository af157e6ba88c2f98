import { parseEmail } from '#core/email'
import type { WantedState } from './hand-over'
import type { TheirMember } from './read'

/** Values as a service wants them spelled. */
type Spelling = (values: Readonly<Record<string, string>>) => Readonly<Record<string, string | number | boolean | null>>

/** In what somebody differs at both ends. */
export interface ListDifference {
  part: string
  ours: string
  theirs: string
}

/** Where somebody stands when both ends are compared. */
export type Standing =
  | { standing: 'same' }
  /** On our list, and unknown there. */
  | { standing: 'only-here' }
  /** On their list, and unknown here. */
  | { standing: 'only-there' }
  | { standing: 'differs'; differences: ListDifference[] }
  /** On our list, and left there. */
  | { standing: 'left-there' }
  /** Left here, and still on their list. */
  | { standing: 'left-here' }

/**
 * Compares one person at both ends. Who is on neither list is the same; what a service does not tell is taken for equal.
 *
 * @param ours null for somebody unknown here
 * @param theirs null for somebody unknown there
 * @param matched keys of the fields that our columns fill: what stands in them there and not here differs too
 * @param spell how values are spelled there, where that is otherwise
 */
export function standingOf(
  ours: WantedState | null,
  theirs: TheirMember | null,
  matched: readonly string[] = [],
  spell: Spelling = (values) => values,
): Standing {
  const isOnHere = ours?.state === 'there'
  if (theirs === null) return { standing: isOnHere ? 'only-here' : 'same' }
  const isOnThere = theirs.status !== 'off'
  if (ours === null) return { standing: isOnThere ? 'only-there' : 'same' }
  if (ours.state === 'off') return { standing: isOnThere ? 'left-here' : 'same' }
  if (ours.state === 'not-yet') return { standing: 'same' }
  if (!isOnThere) return { standing: 'left-there' }
  const differences = differencesOf(ours, theirs, matched, spell)
  return differences.length > 0 ? { standing: 'differs', differences } : { standing: 'same' }
}

/** What they have otherwise than it is wanted. What they have besides, in fields that nothing of ours fills, is theirs. */
export function differencesOf(
  ours: Extract<WantedState, { state: 'there' }>,
  theirs: TheirMember,
  matched: readonly string[] = [],
  spell: Spelling = (values) => values,
): ListDifference[] {
  const { values } = theirs
  const wanted = { ...Object.fromEntries(matched.map((key) => [key, ''])), ...ours.values }
  const spelled = spell(wanted)
  const differences = Object.entries(values === null ? {} : wanted)
    .map(([key, value]) => ({ part: key, ours: value, theirs: values?.[key] ?? '' }))
    .filter(({ part, ours, theirs }) => ours !== theirs && String(spelled[part] ?? '') !== theirs)
  if (theirs.status === 'unknown')
    differences.push({ part: 'status', ours: 'on the list', theirs: theirs.statusWord ?? '' })
  const missing = (ours.tags ?? []).filter((tag) => theirs.tags !== null && !theirs.tags.includes(tag))
  if (missing.length > 0)
    differences.push({ part: 'tags', ours: missing.join(', '), theirs: (theirs.tags ?? []).join(', ') })
  return differences
}

/** What addresses are compared by at both ends. */
export function comparedAddress(email: string): string {
  const parsed = parseEmail(email)
  return parsed.ok ? parsed.email.compared : email.trim().toLowerCase()
}
