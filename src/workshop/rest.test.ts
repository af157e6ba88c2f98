import fc from 'fast-check'
import { whenRested } from './rest'

beforeEach(() => jest.useFakeTimers({ now: 0 }))
afterEach(() => jest.useRealTimers())

test('property: work runs once after the last call, or at the latest so long after the first, one piece a task', () => {
  fc.assert(
    fc.property(
      fc.array(fc.record({ which: fc.nat(2), after: fc.integer({ min: 0, max: 400 }) }), {
        minLength: 1,
        maxLength: 30,
      }),
      (calls) => {
        const rests = [100, 250, 700]
        const ran: { which: number; at: number }[] = []
        const asks = rests.map((rest, which) =>
          whenRested(() => ran.push({ which, at: performance.now() }), rest, 4 * rest),
        )
        const start = performance.now()
        const expected: { which: number; at: number }[] = []
        const open: ({ first: number; due: number } | null)[] = [null, null, null]
        let now = start
        const settle = (until: number) => {
          for (const [which, one] of open.entries())
            if (one !== null && one.due <= until) {
              expected.push({ which, at: one.due })
              open[which] = null
            }
        }
        for (const { which, after } of calls) {
          jest.advanceTimersByTime(after)
          now += after
          settle(now)
          asks[which]!()
          const first = open[which]?.first ?? now
          open[which] = { first, due: Math.min(now + rests[which]!, first + 4 * rests[which]!) }
        }
        jest.advanceTimersByTime(10_000)
        settle(Infinity)
        const inOrder = (all: typeof ran) => [...all].sort((one, other) => one.which - other.which || one.at - other.at)
        const [is, wanted] = [inOrder(ran), inOrder(expected)]
        expect(is.map(({ which }) => which)).toEqual(wanted.map(({ which }) => which))
        // What is due together runs in tasks of its own, one after the other.
        for (const [at, { at: when }] of wanted.entries()) {
          expect(is[at]!.at - when).toBeGreaterThanOrEqual(0)
          expect(is[at]!.at - when).toBeLessThanOrEqual(rests.length)
        }
      },
    ),
  )
})

test('work that fails stops none of the rest', () => {
  const told = jest.fn()
  Object.assign(globalThis, { reportError: told })
  const second = jest.fn()
  whenRested(() => {
    throw new Error('no')
  }, 10)()
  whenRested(second, 10)()
  jest.advanceTimersByTime(20)
  expect([told.mock.calls.length, second.mock.calls.length]).toEqual([1, 1])
})
