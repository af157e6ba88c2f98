import fc from 'fast-check'
import { spellId, spellOrderedId } from '.'

const bytes = fc.uint8Array({ minLength: 16, maxLength: 16 })
const day = (at: string) => Date.parse(at)

test('an ordered id sorts by when it was made, whatever is random in it', () => {
  const times = fc.integer({ min: day('2020-01-01'), max: day('2200-01-01') })
  fc.assert(
    fc.property(times, times, bytes, bytes, (one, other, some, more) => {
      const [first, second] = [spellOrderedId(one, some), spellOrderedId(other, more)]
      if (one !== other) expect(first < second).toBe(one < other)
      expect(first).toMatch(/^[a-z0-9]{25}$/)
      expect(first.endsWith(spellId(some))).toBe(true)
    }),
  )
})
