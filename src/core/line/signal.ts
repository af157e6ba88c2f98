import type { CheckupSubject, Finding } from '#core/checkup'
import type { Version } from '#core/form'
import type { SpotId } from '#core/ids'
import type { Arrival } from '#core/journal'
import type { Delivery } from '#core/mail'
import type { Proof } from '#core/proof'
import type { Station } from '#core/station'

/** A station's state. The workshop draws it as a railway arm; these words say the same. */
export type Signal = 'empty' | 'needs-work' | 'ready' | 'proven' | 'changed'

export const signalWords: Record<Signal, string> = {
  empty: 'empty',
  'needs-work': 'needs work',
  ready: 'ready',
  proven: 'proven',
  changed: 'changed since proof',
}

/** From what needs a hand most to what needs none. */
export const worstFirst: readonly Signal[] = ['needs-work', 'empty', 'changed', 'ready', 'proven']

export interface StationState {
  station: Station
  signal: Signal
  /** Why, in one short sentence. */
  reason: string
  findings: Finding[]
  /** The spot that it is true of; null where the form has none. */
  spot: SpotId | null
}

/** One place that a list is handed on to. */
export interface Onward {
  name: string
  isPaused: boolean
  /** Why nobody gets there; null while they do. */
  trouble: string | null
  /** When somebody was refused there last, ISO 8601, and how many are by now; missing for nobody. */
  refused?: { at: string; count: number }
}

export interface LineSubject extends CheckupSubject {
  /** Those of this form, in any order. */
  versions: readonly Version[]
  /** Sign-ups by people through this form's spots, in any order: of each spot, the newest of each verdict is enough. */
  arrivals: readonly Pick<Arrival, 'version' | 'verdict' | 'at' | 'spot'>[]
  /** How rehearsals of its spots went, in any order. */
  proofs: readonly Proof[]
  /** Where its list goes on to. */
  onward?: readonly Onward[]
  /** Whether its list's mail is known to arrive; null where nobody has told. */
  delivery: Delivery | null
}

/** A signal with its reason. */
export type State = readonly [Signal, string]
export type RealSignUp = LineSubject['arrivals'][number]
