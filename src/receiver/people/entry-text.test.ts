import fc from 'fast-check'
import type { NewEntry } from '#core/journal'
import demo from '../../../demo/cloudberry-hill.json'
import { entryOf, entryTextOf, rowOfEntry } from './tables'

const rowWith = (n: number, entry: NewEntry) => {
  const [, kind, body, personal, mark] = rowOfEntry(n, entry, 'mark')
  return { n, kind, body, personal, mark }
}
const same = (row: ReturnType<typeof rowWith>) =>
  expect(JSON.parse(entryTextOf(row).text)).toEqual(JSON.parse(JSON.stringify(entryOf(row).entry)))

test('an entry as text is the entry: all of the demo, and each of them erased', () => {
  for (const { n, ...entry } of demo.journal.entries as unknown as ({ n: number } & NewEntry)[]) {
    same(rowWith(n, entry))
    if ('personal' in entry) same(rowWith(n, { ...entry, personal: null, commitment: 'c' } as NewEntry))
  }
})

test('whatever stands in it, also what looks like an entry', () => {
  const text = fc.oneof(
    fc.string({ unit: 'grapheme' }),
    fc.constantFrom('"commitment":"x"', '}', '","personal":{"a":1}'),
  )
  fc.assert(
    fc.property(text, text, fc.boolean(), (one, other, isErased) => {
      const personal = {
        salt: one,
        email: { typed: other, compared: one },
        values: { [`v${one.length}`]: other },
        page: '',
      }
      same(
        rowWith(7, { kind: 'batch-begun', id: one, purpose: { kind: 'import', from: other, consent: one } } as never),
      )
      same(
        rowWith(8, {
          kind: 'arrival',
          list: one,
          ...(isErased ? { personal: null, commitment: other } : { personal }),
        } as never),
      )
    }),
  )
})
