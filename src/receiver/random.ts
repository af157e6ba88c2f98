import { randomFillSync } from 'node:crypto'
import { spellId, spellOrderedId } from '#core/ids'

const ID_BYTES = 16
/** Drawn for many ids at once: asking for each costs more than spelling it. */
const pool = new Uint8Array(256 * ID_BYTES)
let used = pool.length

/** A new id of the kind that the place asks for. Sixteen letters are some 76 bits: no two ever meet. */
export function newId<Id extends string>(): Id {
  return spellId(drawn()) as Id
}

/** The same, sorted by when it was made. */
export function newOrderedId(at: number): string {
  return spellOrderedId(at, drawn())
}

function drawn(): Uint8Array {
  if (used === pool.length) {
    randomFillSync(pool)
    used = 0
  }
  used += ID_BYTES
  return pool.subarray(used - ID_BYTES, used)
}
