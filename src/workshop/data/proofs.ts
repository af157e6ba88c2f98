import type { Proof } from '#core/proof'
import type { SpotId } from '#core/ids'
import { database } from './database'

/** Enough to compare, and not more than a spot is worth. */
const KEPT_OF_A_SPOT = 5

/** Keeps how a rehearsal went, and forgets the oldest of its spot. */
export async function keepProof(proof: Proof): Promise<void> {
  await database.transaction('rw', database.proofs, async () => {
    await database.proofs.put(proof)
    const ofSpot = await database.proofs.where('spot').equals(proof.spot).toArray()
    ofSpot.sort((one, other) => (one.at < other.at ? 1 : -1))
    await database.proofs.bulkDelete(ofSpot.slice(KEPT_OF_A_SPOT).map(({ id }) => id))
  })
}

/** Of some spots, newest first. */
export async function proofsOf(spots: readonly SpotId[]): Promise<Proof[]> {
  const found = await database.proofs.where('spot').anyOf([...spots]).toArray()
  return found.sort((one, other) => (one.at < other.at ? 1 : -1))
}
