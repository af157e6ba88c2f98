import type { Proof } from '#core/proof'
import type { SpotId } from '#core/ids'
import { database } from './database'
import { HERE, writeHere } from './rows'

/** Keeps how a rehearsal went, and forgets the oldest of its spot. */
export async function keepProof(proof: Proof): Promise<void> {
  await database.transaction('rw', database.proofs, () =>
    writeHere({ kind: 'proof', key: proof.id, body: proof, by: HERE }),
  )
}

/** Of some spots, newest first. */
export async function proofsOf(spots: readonly SpotId[]): Promise<Proof[]> {
  const proofs = await database.proofs
    .where('spot')
    .anyOf([...spots])
    .toArray()
  return proofs.sort((one, other) => (one.at < other.at ? 1 : -1))
}
