import type { TriedHandOver } from '#core/api'
import type { Connection, HandOver, WantedState, WebhookEvent } from '#core/connection'
import type { HandedOn } from '#core/proof'
import type { Member } from '#core/list'
import type { Ledger } from '../../ledger'
import type { Job } from '../../work/tables'
import type { ServiceClient, SentRequest, SentKey } from '../client'
import type { HandedOver, SentBefore } from '../hand'
import type { Keys } from '../keys'
import type { SignIns } from '../sign-in'

export type WayOf<Kind extends Connection['way']['kind']> = Extract<Connection['way'], { kind: Kind }>

/** What people are handed over with. */
export interface WayParts {
  ledger: Ledger
  keys: Pick<Keys, 'key'>
  signIns: Pick<SignIns, 'keyFor'>
  client: ServiceClient
  /** Where tables are written to. */
  folder: string
  now(): number
}

/** What one job sends of one person. */
export interface WayPiece {
  job: Job
  handOver: HandOver
  event: WebhookEvent
  /** Null for a dropped member. */
  member: Member | null
  email: string
  wanted: WantedState
  /** What was ever sent of them, with what is sent now. */
  sent: SentBefore
}

/** A made-up person to be added. */
export type WantedThere = Extract<WantedState, { state: 'there' }>
export type TriedStep = TriedHandOver['steps'][number]
export type Rehearsed = Omit<HandedOn, 'name'>

/** Outcome of a request; `each` where it tells that of each piece by itself. */
export interface HandedTogether extends HandedOver {
  each?: readonly HandedOver[]
}

/** One way of handing people over: all that is asked of it. */
export interface HandOverWay {
  /** In requests a second and at once, where it says so itself. */
  pace: { aSecond: number; atOnce: number } | undefined
  /** Where people go; empty where they stay on this computer. */
  address: string
  /** Whether an event is told there. */
  wishes(event: WebhookEvent): boolean
  /** How many of the next jobs go in one request. */
  together(jobs: readonly Job[]): number
  /**
   * @param pieces as many as `together` said
   * @param turn waited for before each request but the first, so that the pace holds
   */
  hand(pieces: readonly WayPiece[], turn: () => Promise<void>): Promise<HandedTogether>
  /**
   * Sends one made-up person there, looks whether they arrived as they were sent, and takes them off again.
   *
   * @param key what opens it, where it is not kept yet
   */
  tryOut(handOver: HandOver, wanted: WantedThere, key: SentKey | null): Promise<TriedStep[]>
  /** The same with a made-up person of a rehearsal, as real people of their list go. */
  rehearse(member: Member, handOver: HandOver, wanted: WantedThere): Promise<Rehearsed>
}

export const failed = (why: string, said: string): Rehearsed => ({ outcome: 'failed', why, said })

/** What an answer means that says nothing but its status. */
export function outcomeOf(sent: SentRequest, words: string): HandedOver {
  if (!('answer' in sent)) return { means: 'unreachable', said: sent.said, retryAt: null }
  const { status } = sent.answer
  const said = words === '' ? `It answered ${status}.` : words
  if (status >= 200 && status < 400) return { means: 'done', said, retryAt: null }
  // Standard Webhooks: 410 takes the address away.
  if (status === 410) return { means: 'not-allowed', said: 'It answered that it wants nothing more.', retryAt: null }
  const isLater = status === 408 || status === 425 || status === 429 || status >= 500 || words === ''
  return { means: isLater ? 'later' : 'refused', said: `It answered ${status}.`, retryAt: null }
}
