import { converter, formatHex, wcagContrast } from 'culori'
import fc from 'fast-check'
import { contrast, coloursFrom, hexOf, mended, oklchOf, type Palette, quietPalette, worstContrast } from '.'

const hex = fc.integer({ min: 0, max: 0xffffff }).map((value) => `#${value.toString(16).padStart(6, '0')}`)
const toOklch = converter('oklch')

test.each([
  // Well-known worked pairs of WCAG's formula.
  ['#000000', '#ffffff', 21],
  ['#ffffff', '#ffffff', 1],
  ['#777777', '#ffffff', 4.48],
  ['#767676', '#ffffff', 4.54],
  ['#949494', '#ffffff', 3.03],
  ['#ff0000', '#ffffff', 4.0],
  ['#0000ff', '#ffffff', 8.59],
  ['#00ff00', '#000000', 15.3],
])('contrast of %s on %s is %d', (one, other, ratio) => {
  expect(contrast(one, other)).toBeCloseTo(ratio, 1)
})

test('contrast is culori’s, on a thousand random pairs', () => {
  fc.assert(
    fc.property(hex, hex, (one, other) => Math.abs(contrast(one, other) - wcagContrast(one, other)) < 0.002),
    { numRuns: 1000 },
  )
})

test('OKLCH is culori’s, and there and back is the same colour', () => {
  fc.assert(
    fc.property(hex, (colour) => {
      const ours = oklchOf(colour)
      const theirs = toOklch(colour)!
      expect(ours.lightness).toBeCloseTo(theirs.l, 4)
      expect(ours.chroma).toBeCloseTo(theirs.c, 4)
      if (theirs.c > 0.01)
        expect(Math.min(Math.abs(ours.hue - theirs.h!), 360 - Math.abs(ours.hue - theirs.h!))).toBeLessThan(0.2)
      expect(hexOf(ours)).toBe(colour)
    }),
  )
})

test('property: a mend reaches what was wanted, keeps the hue, and moves lightness no more than is needed', () => {
  fc.assert(
    fc.property(
      hex,
      fc.array(hex, { minLength: 1, maxLength: 3 }),
      fc.constantFrom(3, 4.5),
      (colour, grounds, wanted) => {
        const found = mended(colour, [{ grounds, wanted }])
        if (found === null)
          return expect(
            Math.max(worstContrast('#000000', grounds).ratio, worstContrast('#ffffff', grounds).ratio),
          ).toBeLessThan(wanted + 0.05)
        expect(worstContrast(found, grounds).ratio).toBeGreaterThanOrEqual(wanted)
        if (worstContrast(colour, grounds).ratio >= wanted) return expect(found).toBe(colour)
        const [before, after] = [toOklch(colour)!, toOklch(found)!]
        // Apart from the hue by no more than rounding to 8 bits puts it, as distance in OKLab's plane of colour; near black a step is large.
        const turn = (((before.h ?? 0) - (after.h ?? 0)) * Math.PI) / 180
        if (before.c > 0.01)
          expect(2 * after.c * Math.abs(Math.sin(turn / 2))).toBeLessThan(after.l > 0.35 ? 0.012 : 0.05)
        // Culori's own colour, two hundredths of lightness nearer to the start, must not do.
        const nearer = after.l + Math.sign(before.l - after.l) * 0.02
        if (Math.abs(before.l - after.l) > 0.02) {
          const short = formatHex({ mode: 'oklch', l: nearer, c: Math.min(before.c, after.c), h: before.h ?? 0 })
          expect(worstContrast(short!, grounds).ratio).toBeLessThan(wanted + 0.25)
        }
      },
    ),
    { numRuns: 300 },
  )
})

test('property: colours made from any palette can be read: text and button words 4.5, button 3', () => {
  const palette = fc
    .record({ background: hex, text: hex, accent: hex })
    .map((three): Palette => ({ ...quietPalette, ...three }))
  fc.assert(
    fc.property(palette, fc.constantFrom('page', 'tint', 'accent', 'night'), (given, ground) => {
      const { background, text, button, buttonText } = coloursFrom(given, ground as 'page')
      expect(contrast(text, background)).toBeGreaterThanOrEqual(4.5)
      expect(contrast(button, background)).toBeGreaterThanOrEqual(3)
      expect(contrast(buttonText, button)).toBeGreaterThanOrEqual(4.5)
    }),
  )
})
