import { sameValue } from '#core/json'
import { type Bodies, isImmutable, type Kind, kindOf, readBody } from './registry'

/** What to do here about what another browser did, given what both began from. `null` is "not there". */
export type Reconciled<T> =
  /** Nothing to do: only here was something changed, or both did the same. */
  | { take: 'here' }
  /** Nobody touched it here: what is there takes its place. */
  | { take: 'there' }
  /** Both changed it, in different parts: this is both together. */
  | { take: 'merged'; body: T }
  /** Both changed the same part: only the owner can say. */
  | { take: 'neither' }

/**
 * A three-way merge of one object. Parts are the values of plain objects, however deep; a list is one part.
 * What two changes add up to has to be of the kind's schema, else they do not add up.
 *
 * @param base what both last had in common; null when that is not known or when it did not exist
 */
export function reconcile<One extends Kind>(
  kind: One,
  base: Bodies[One] | null,
  here: Bodies[One] | null,
  there: Bodies[One] | null,
): Reconciled<Bodies[One]> {
  if (sameValue(here, there) || sameValue(base, there)) return { take: 'here' }
  if (sameValue(base, here) || (here === null && isImmutable(kind))) return { take: 'there' }
  if (here === null || there === null) return { take: 'neither' }
  const { merge } = kindOf(kind)
  if (merge !== undefined) return { take: 'merged', body: merge(base, here, there) as Bodies[One] }
  if (base === null) return { take: 'neither' }
  const merged = mergeValues(base, here, there)
  if (merged === undefined) return { take: 'neither' }
  const reading = readBody(kind, merged)
  return reading.ok ? { take: 'merged', body: reading.body } : { take: 'neither' }
}

/**
 * What both changes to one value of JSON add up to.
 *
 * @param onConflict what stands where both changed the same part; undefined for nothing at all
 * @returns undefined where they do not add up
 */
export function mergeValues(
  base: unknown,
  here: unknown,
  there: unknown,
  onConflict: 'here' | undefined = undefined,
): unknown {
  if (sameValue(here, there) || sameValue(base, there)) return here
  if (sameValue(base, here)) return there
  const own = onConflict === 'here' ? here : undefined
  if (!isParts(base) || !isParts(here) || !isParts(there)) return own
  const merged = new Map<string, unknown>()
  for (const key of new Set([...Object.keys(here), ...Object.keys(there)])) {
    const [was, mine, theirs] = [partOf(base, key), partOf(here, key), partOf(there, key)]
    // A part that one side took away and the other left alone is gone.
    if (sameValue(was, theirs) ? mine === undefined : sameValue(was, mine) && theirs === undefined) continue
    const part = mergeValues(was, mine, theirs, onConflict)
    if (part === undefined) return own
    merged.set(key, part)
  }
  return Object.fromEntries(merged)
}

function isParts(value: unknown): value is Record<string, unknown> {
  return value !== null && typeof value === 'object' && !Array.isArray(value)
}

function partOf(value: Record<string, unknown>, key: string): unknown {
  return Object.hasOwn(value, key) ? value[key] : undefined
}
