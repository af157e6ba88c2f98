import { spellId } from '#core/ids'

/** The workshop's clock and its randomness, which core does not have. */
export function now(): string {
  return new Date().toISOString()
}

export function newId<Id extends string>(): Id {
  return spellId(crypto.getRandomValues(new Uint8Array(12))) as Id
}
