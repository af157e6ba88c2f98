import { type Connection, type HandOver, type WantedState, wantedOf } from '#core/connection'
import type { TriedHandOver } from '#core/api'
import type { SentKey } from './client'
import { wayOf, type WayParts } from './ways'

/** A made-up person with something in each field that is matched: of `example`, so that no mail ever goes anywhere. */
export function madeUpFor(handOver: HandOver, mark: string): Extract<WantedState, { state: 'there' }> {
  const email = `askbox-trial-${mark}@trial.example`
  const wanted = wantedOf(
    {
      email: { typed: email, compared: email },
      values: Object.fromEntries(handOver.fields.map(({ column }) => [column, '12'])),
      tags: handOver.sendsTags ? ['ask-box-trial'] : [],
      status: 'confirmed',
    },
    handOver,
  )
  return wanted as Extract<WantedState, { state: 'there' }>
}

/** Sends one made-up person there, looks whether they arrived as they were sent, and takes them off again. */
export async function tryHandOver({
  connection,
  handOver,
  parts,
  key,
  mark,
}: {
  connection: Connection
  handOver: HandOver
  parts: WayParts
  key: SentKey | null
  mark: string
}): Promise<TriedHandOver> {
  const wanted = madeUpFor(handOver, mark)
  return { email: wanted.email, steps: await wayOf(connection, parts).tryOut(handOver, wanted, key) }
}
