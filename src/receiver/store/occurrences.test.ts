import fc from 'fast-check'
import { occurrencesIn } from './occurrences'

async function* piecesOf(text: string, length: number) {
  const bytes = Buffer.from(text)
  for (let at = 0; at < bytes.length; at += length) yield bytes.subarray(at, at + length)
}

/** Counted the plain way. */
function counted(text: string, wanted: readonly string[]): number {
  let count = 0
  for (const one of wanted) for (let at = text.indexOf(one); at >= 0; at = text.indexOf(one, at + 1)) count += 1
  return count
}

test('property: as many as a plain search finds, however the file comes in pieces', async () => {
  const letters = fc.string({ unit: fc.constantFrom('a', 'b', '@', '.'), minLength: 1, maxLength: 6 })
  const address = fc
    .tuple(letters, fc.constantFrom('m.example', 'ab', 'm.examples'))
    .map(([one, other]) => `${one}@${other}`)
  await fc.assert(
    fc.asyncProperty(
      fc.uniqueArray(fc.oneof(address, letters), { minLength: 1, maxLength: 20 }),
      fc.array(fc.oneof(address, letters), { maxLength: 60 }),
      fc.integer({ min: 1, max: 40 }),
      async (wanted, parts, length) => {
        const text = parts.join('')
        expect(await occurrencesIn(piecesOf(text, length), wanted)).toBe(counted(text, wanted))
      },
    ),
  )
})

test('thousands of addresses in a large file: each is found, in whatever letter case', async () => {
  const wanted = Array.from({ length: 5_000 }, (_, at) => `person${at}@many${at % 7}.example`)
  const text = wanted.map((one, at) => (at % 2 === 0 ? one.toUpperCase() : `<${one}>`)).join(' '.repeat(200))
  expect(await occurrencesIn(piecesOf(text, 4_096), wanted)).toBe(
    5_000 + wanted.filter((one) => wanted.some((other) => other !== one && one.endsWith(other))).length,
  )
})
