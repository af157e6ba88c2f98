import type { HandedOn } from '#core/proof'
import { wantedOf } from '#core/connection'
import type { Member } from '#core/list'
import type { Ledger } from '../ledger'
import { type WayParts, wayOf } from './ways'
import { failed } from './ways/way'

/**
 * Hands a made-up person of a rehearsal on as their list is handed on, looks them up there, and takes them off again: on
 * this computer and on stand-ins always, elsewhere where the connection's owner said yes.
 *
 * @param standIns origin of the stand-in services; null where none run
 */
export async function rehearseHandOvers(
  member: Member,
  ledger: Ledger,
  parts: Omit<WayParts, 'ledger'>,
  standIns: string | null,
): Promise<HandedOn[]> {
  const published = ledger.published()
  const results: HandedOn[] = []
  for (const handOver of published.handOversOf(member.list)) {
    const connection = published.connection(handOver.connection)
    if (connection === null || handOver.isPaused) continue
    const name = handOver.target?.name ?? connection.name
    const way = wayOf(connection, { ...parts, ledger })
    const isOurs = way.address === '' || (standIns !== null && way.address.startsWith(standIns))
    if (!isOurs && !connection.isRehearsed) {
      const said = 'Not tried: rehearsals may send nobody there until you allow it at the connection.'
      results.push({ name, outcome: 'not-allowed', why: '', said })
      continue
    }
    const wanted = wantedOf({ ...member, status: 'confirmed' }, handOver)
    const outcome = wanted.state === 'there' ? await way.rehearse(member, handOver, wanted) : failed('refused', '')
    results.push({ name, ...outcome })
  }
  return results
}
