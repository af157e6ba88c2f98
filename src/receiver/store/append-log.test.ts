import fc from 'fast-check'
import { anomaliesIn, type Append, type Read } from '../../../tests/append-log'

/* The checker itself: a sound history passes, and each anomaly of Elle's for append-only lists is found. */
const final = ['a', 'b', 'c'].map((value, at) => ({ n: at + 1, value }))
const appends: Append[] = final.map(({ value }, at) => ({ value, from: at * 10, until: at * 10 + 5 }))
const read = (more: Partial<Read>): Read => ({ from: 100, until: 101, after: 0, reader: 'r', seen: final, ...more })

test.each<[string, typeof final, Append[], Read[]]>([
  ['lost', final.slice(0, 2), appends, []],
  ['duplicate', [...final, { n: 4, value: 'a' }], appends, []],
  ['gap', [final[0]!, { n: 3, value: 'c' }], appends.filter(({ value }) => value !== 'b'), []],
  ['garbage', [...final, { n: 4, value: 'x' }], appends, []],
  ['order', [final[1]!, final[0]!, final[2]!].map(({ value }, at) => ({ n: at + 1, value })), appends, []],
  ['stale', final, appends, [read({ seen: final.slice(0, 2) })]],
  ['skipped', final, appends, [read({ seen: [final[0]!, final[2]!] })]],
  ['other order', final, appends, [read({ seen: [{ n: 1, value: 'b' }, { n: 2, value: 'a' }, final[2]!] })]],
  ['from the future', final, appends, [read({ from: 0, until: 1 })]],
])('%s is found', (kind, last, sent, reads) => {
  expect(anomaliesIn(last, sent, reads).some((one) => one.startsWith(`${kind}:`))).toBe(true)
})

test('whatever one log does in one order passes, with readers that go on from where they were', () => {
  fc.assert(
    fc.property(fc.array(fc.record({ isRead: fc.boolean(), waits: fc.nat(3), isHeard: fc.boolean() })), (acts) => {
      const log: string[] = []
      const sent: Append[] = []
      const reads: Read[] = []
      let now = 0
      let after = 0
      for (const { isRead, waits, isHeard } of acts) {
        const from = (now += 1)
        now += waits
        if (isRead) {
          const seen = log.slice(after).map((value, at) => ({ n: after + at + 1, value }))
          reads.push({ from, until: (now += 1), seen, after, reader: 'one' })
          after = log.length
        } else {
          log.push(`v${log.length}`)
          sent.push({ value: log.at(-1)!, from, until: isHeard ? (now += 1) : null })
        }
      }
      expect(
        anomaliesIn(
          log.map((value, at) => ({ n: at + 1, value })),
          sent,
          reads,
        ),
      ).toEqual([])
    }),
  )
})
