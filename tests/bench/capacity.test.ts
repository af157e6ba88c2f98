import { capacity, erlangC, perSecondUnderLock, simulate, waitMD1, waitMMc } from './capacity'

/* Kleinrock, “Queueing Systems, Volume 1: Theory” (1975), chapters 3 and 5: M/M/1, M/M/m, and the Pollaczek–Khinchine formula. */
test.each([
  // M/M/1: one who comes waits with the probability of its load.
  [1, 0.8, 0.8],
  // M/M/2 at 0.75 each: 9/14, by hand.
  [2, 1.5, 9 / 14],
  // M/M/2 at 0.5 each: 1/3, by hand.
  [2, 1, 1 / 3],
  // Ten lines and seven erlangs, from Erlang's C table (value from memory).
  [10, 7, 0.2217],
])('Erlang’s C formula: %i servers, %d erlangs', (servers, load, waits) => {
  expect(erlangC(servers, load)).toBeCloseTo(waits, 3)
})

test('mean waits: M/M/1 at 80 in 100 waits four services, M/D/1 half as long', () => {
  expect(waitMMc(1, 0.8, 1)).toBeCloseTo(4, 10)
  expect(waitMD1(0.8, 1)).toBeCloseTo(2, 10)
})

/** Small and fast, by Marsaglia (xorshift): the same each time. */
function drawn(seed: number): () => number {
  let state = seed
  return () => {
    state ^= state << 13
    state ^= state >>> 17
    state ^= state << 5
    return (state >>> 0) / 2 ** 32
  }
}

test.each([0.3, 0.6, 0.8])('the simulation of one receiver with groups of one is M/D/1, at a load of %d', (load) => {
  const figures = { commit: 1, each: 0, outside: 0 }
  const waits = simulate(figures, { receivers: 1, rate: load, count: 50_000, random: drawn(7), most: 1 })
  const mean = waits.reduce((sum, wait) => sum + wait, 0) / waits.length
  // A wait here ends with the service.
  expect(mean - 1).toBeCloseTo(waitMD1(load, 1), load < 0.7 ? 1 : 0)
})

test('groups carry what single commits cannot, up to what the lock carries', () => {
  const figures = { commit: 0.004, each: 0.0001, outside: 0.0004 }
  expect(perSecondUnderLock(figures, 1)).toBeCloseTo(244, 0)
  expect(perSecondUnderLock(figures, 64)).toBeCloseTo(6154, 0)
  expect(capacity(figures, 1, 64)).toEqual({ perSecond: 2500, limit: 'receivers' })
  expect(capacity(figures, 8, 64).limit).toBe('lock')
  // Ten times what single commits carry, and nobody waits long.
  const waits = simulate(figures, { receivers: 3, rate: 2_400, count: 20_000, random: drawn(3) })
  expect(waits[Math.floor(waits.length * 0.99)]!).toBeLessThan(0.05)
})
