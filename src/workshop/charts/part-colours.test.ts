import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import {
  converter,
  differenceCiede2000,
  filterDeficiencyDeuter,
  filterDeficiencyProt,
  filterDeficiencyTrit,
  parse,
  wcagContrast,
} from 'culori'
import fc from 'fast-check'
import { colourPlaces, MOST_PARTS } from './part-colours'

/** Custom properties of one rule of the tokens. */
function tokensIn(selector: string): Map<string, string> {
  const css = readFileSync(join(import.meta.dirname, '../styles/tokens.css'), 'utf8')
  const rule = css.slice(css.indexOf(`${selector} {`)).split('}')[0]!
  return new Map([...rule.matchAll(/(--[\w-]+): (#[0-9a-f]{6});/g)].map(([, name, value]) => [name!, value!]))
}
const rgb = converter('rgb')
/** By culori's simulation (Machado, Oliveira, Fernandes 2009). */
const sights = {
  'all colours': (colour: string) => rgb(parse(colour))!,
  'no red': (colour: string) => filterDeficiencyProt(1)(rgb(parse(colour))!),
  'no green': (colour: string) => filterDeficiencyDeuter(1)(rgb(parse(colour))!),
  'no blue': (colour: string) => filterDeficiencyTrit(1)(rgb(parse(colour))!),
}
/** CIEDE2000 (ISO/CIE 11664-6): from some 5 on, two colours differ at a glance (common practice, no published source). */
const difference = differenceCiede2000()
const LEAST = 14

describe.each([':root', 'html.dark'])('parts of a chart, %s', (selector) => {
  const tokens = tokensIn(selector)
  const colours = ['--part-1', '--part-2', '--part-3', '--part-4', '--part-5', '--edge'].map((name) =>
    tokens.get(name)!,
  )
  test.each(Object.entries(sights))('are told apart by who sees %s', (_, seen) => {
    for (const [at, one] of colours.entries())
      for (const other of colours.slice(at + 1))
        expect([one, other, difference(seen(one), seen(other)) >= LEAST]).toEqual([one, other, true])
  })
  test('stand out from the sheet (WCAG 2.2, 1.4.11)', () => {
    for (const one of colours) expect([one, wcagContrast(one, tokens.get('--sheet')!) >= 3]).toEqual([one, true])
  })
})

test('a part has one colour on every screen, and no two of a chart have the same', () => {
  const keys = fc.uniqueArray(fc.string({ minLength: 1 }), { minLength: 1, maxLength: 20 })
  fc.assert(
    fc.property(keys, fc.nat(), (all, seed) => {
      const shown = all.filter((_, at) => (at + seed) % 3 !== 0).slice(0, MOST_PARTS)
      const places = colourPlaces(shown, all)
      expect(new Set(places).size).toBe(shown.length)
      for (const key of shown) expect(colourPlaces([key], all)).toEqual([all.indexOf(key) % MOST_PARTS])
    }),
  )
})
