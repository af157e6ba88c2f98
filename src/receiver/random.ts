import { randomFillSync } from 'node:crypto'
import { spellId } from '#core/ids'

const ID_BYTES = 16
/** Drawn for many ids at once: asking for each costs more than spelling it. */
const pool = new Uint8Array(256 * ID_BYTES)
let used = pool.length

/** A new id of the kind that the place asks for. Sixteen letters are some 76 bits: no two ever meet. */
export function newId<Id extends string>(): Id {
  if (used === pool.length) {
    randomFillSync(pool)
    used = 0
  }
  used += ID_BYTES
  return spellId(pool.subarray(used - ID_BYTES, used)) as Id
}
