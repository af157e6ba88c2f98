import type { Values } from '../values'
import type { Sealing } from './sealing'

/** Receivers that share a store have to seal alike: each opens what another sealed. */
export class OtherSecret extends Error {
  constructor() {
    super(
      'ASKBOX_SECRET is another than the one that this store was begun with: the keys of services that are kept there could not be opened. Set the same for all receivers.',
    )
  }
}

const NAME = 'sealed-alike'
const TEXT = 'Every receiver of this store opens this.'

/** Whether what is sealed here is sealed as in the store. The first receiver of a shared store notes how. */
export async function sealsAlike(values: Values, sealing: Sealing): Promise<boolean> {
  const kept = await values.change<string>(NAME, (before) => before ?? sealing.seal(TEXT, NAME))
  return kept === null || sealing.open(kept, NAME) === TEXT
}
