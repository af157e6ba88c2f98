import { randomBytes } from 'node:crypto'
import { spellId } from '#core/ids'

/** A new id of the kind that the place asks for. Sixteen letters are some 76 bits: no two ever meet. */
export function newId<Id extends string>(): Id {
  return spellId(randomBytes(16)) as Id
}
