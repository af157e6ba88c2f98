import bidiFactory from 'bidi-js'
import fc from 'fast-check'
import { isolated } from './isolated'

const bidi = bidiFactory()
const text = fc
  .array(
    fc.oneof(
      {
        weight: 2,
        arbitrary: fc.constantFrom(...'\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069\u200e\u200f\n\u2029'),
      },
      fc.constantFrom('Ada', 'אבג', 'عبد', '12', '.', ' ', '(', ')'),
    ),
    { maxLength: 30 },
  )
  .map((parts) => parts.join(''))

/** Embedding levels by the Unicode Bidirectional Algorithm (UAX #9), of what stands before and after. */
function levelsBeside(shown: string): number[] {
  const whole = `before ${shown} after`
  const { levels } = bidi.getEmbeddingLevels(whole, 'ltr')
  return [...levels.slice(0, 6), ...levels.slice(-5)]
}

test('whatever somebody types, what stands beside it keeps its order (UAX #9, by bidi-js)', () => {
  expect(levelsBeside('\u202eexe.')).not.toEqual(Array(11).fill(0))
  fc.assert(
    fc.property(text, (typed) => {
      // In a paragraph of its own the first line’s end stands beside nothing.
      const line = isolated(typed)
        .split(/[\n\u2029]/)
        .at(-1)!
      if (/[\u202a-\u202e\u2066-\u2069]/.test(typed)) expect(levelsBeside(line)).toEqual(Array(11).fill(0))
    }),
  )
})

test('a text without such characters is left as it is; of others nothing that is read is lost', () => {
  fc.assert(
    fc.property(fc.string(), (typed) => /[\u202a-\u202e\u2066-\u2069]/.test(typed) || isolated(typed) === typed),
  )
  const letters = (typed: string) => typed.replaceAll(/[\u202a-\u202e\u2066-\u2069]/g, '')
  fc.assert(fc.property(text, (typed) => letters(isolated(typed)) === letters(typed)))
})
