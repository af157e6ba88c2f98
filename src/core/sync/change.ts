import { sameValue } from '#core/json'
import { z } from 'zod'
import { type Bodies, type Body, type Kind, keyOf, kindOf, kinds, readBody, referencesOf } from './registry'

/** A change to one object as a workshop sends it. */
export const changeSchema = z.strictObject({
  kind: z.enum(kinds),
  key: z.string().min(1).max(80),
  /** The revision that it was made on; 0 for an object that is new. */
  base: z.int().min(0),
  /** What the object is now; null when it was taken away. */
  body: z.unknown(),
})
export type Change = z.infer<typeof changeSchema>

/** An object as the receiver keeps it. `body` is null once its owner has taken it away. */
export interface Kept<One extends Kind = Kind> {
  kind: One
  key: string
  /** Its place in the one order of all changes; the newest change's. */
  revision: number
  body: Bodies[One] | null
  /** Id of the key that it was changed with last, and when, in milliseconds since 1970; missing where that is not known. */
  by?: string
  changedAt?: number
}

export interface ChangeRefusal {
  code: 'invalid' | 'broken-reference' | 'version-taken'
  message: string
}

export type ChangeDecision =
  | { ok: true; isNews: boolean; body: Body | null }
  /** Somebody else changed it since the revision that this change was made on. */
  | { ok: false; conflict: Kept }
  | { ok: false; problem: ChangeRefusal }

/**
 * Whether a change can be taken in. A change that leads to what is there already is no news and is taken, so that
 * one whose answer was lost can be sent again.
 *
 * @param kept the object as it is; null when there never was one
 * @param isThere whether an object exists and was not taken away
 */
export function decideChange(
  change: Change,
  kept: Kept | null,
  isThere: (kind: Kind, key: string) => boolean,
): ChangeDecision {
  const { kind, key } = change
  const reading = change.body === null ? null : readBody(kind, change.body)
  if (reading !== null && !reading.ok) return refuse('invalid', `${kind} ${key}: ${reading.message}`)
  const wanted: Body | null = reading === null ? null : reading.body
  if (wanted !== null && keyOf(kind, wanted) !== key)
    return refuse('invalid', `${kind} ${key} is named otherwise in its own content.`)
  if (kept !== null && sameValue(kept.body, wanted)) return { ok: true, isNews: false, body: wanted }
  if (kept === null && wanted === null) return { ok: true, isNews: false, body: null }
  const { immutable } = kindOf(kind)
  if (immutable !== undefined && kept !== null)
    return immutable.whenChanged === null
      ? { ok: true, isNews: false, body: kept.body }
      : refuse('version-taken', immutable.whenChanged)
  if (kept !== null && kept.revision !== change.base) return { ok: false, conflict: kept }
  const missing =
    wanted === null
      ? undefined
      : referencesOf(kind, wanted).find((reference) => !isThere(reference.kind, reference.key))
  if (missing !== undefined)
    return refuse('broken-reference', `The ${missing.kind} that this ${kind} refers to does not exist any more.`)
  return { ok: true, isNews: true, body: wanted }
}

function refuse(code: ChangeRefusal['code'], message: string): ChangeDecision {
  return { ok: false, problem: { code, message } }
}
