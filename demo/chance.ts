/** Repeatable chance: the same seed gives the same numbers for ever. Mulberry32, a public-domain generator, from memory. */
export function chance(seed: number) {
  let state = seed
  const next = (): number => {
    state = (state + 0x6d2b79f5) | 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296
  }
  return {
    /** From 0 up to, not including, 1. */
    next,
    pick: <T>(from: readonly T[]): T => from[Math.floor(next() * from.length)] as T,
    happens: (share: number): boolean => next() < share,
  }
}
